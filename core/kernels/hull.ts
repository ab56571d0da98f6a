/** The smallest shapes without dents that hold all points: in a plane, and in space. */
import { pollAt, scratch } from '../geometry/index.ts';

/** The corners of the hull of points in a plane, counter-clockwise; fewer than three where they lie on one line. */
export function hullInPlane(places: Float64Array): number[] {
	const count = places.length / 2;
	const order = scratch('index', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		order[i] = i;
	}
	order.sort((a, b) => places[2 * a] - places[2 * b] || places[2 * a + 1] - places[2 * b + 1] || a - b);
	const turn = (a: number, b: number, c: number) =>
		(places[2 * b] - places[2 * a]) * (places[2 * c + 1] - places[2 * a + 1]) -
		(places[2 * b + 1] - places[2 * a + 1]) * (places[2 * c] - places[2 * a]);
	// The lower side, then the upper one (A. M. Andrew, 1979).
	const side = (rows: Iterable<number>) => {
		const out: number[] = [];
		for (const i of rows) {
			while (out.length > 1 && turn(out[out.length - 2], out[out.length - 1], i) <= 0) out.pop();
			out.push(i);
		}
		out.pop();
		return out;
	};
	return count < 2 ? [...order] : [...side(order), ...side(order.toReversed())];
}

interface Face {
	corners: readonly [number, number, number];
	/** Across it, outward, of length 1; and how far it lies along that. */
	normal: readonly [number, number, number];
	off: number;
	/** Points before it, and the farthest of them. */
	outside: number[];
	isGone: boolean;
}

/**
 * The hull of points in space as triangles, three points each, facing outward; null where all lie in one plane. Points no
 * further out than 10⁻¹⁰ of the size count as inside (C. B. Barber and others, “The quickhull algorithm for
 * convex hulls”, 1996).
 */
export function hullInSpace(p: Float32Array): number[] | null {
	const count = p.length / 3;
	const hull = new Hull(p);
	const first = hull.start();
	if (!first) return null;
	for (let i = 0; i < count; i++) {
		pollAt(i);
		hull.assign(i, first);
	}
	hull.grow();
	return hull.triangles();
}

class Hull {
	readonly #p: Float32Array;
	readonly #within: number;
	readonly #faces: Face[] = [];
	/** The face on the left of each side, by its two points. */
	readonly #left = new Map<number, Face>();

	constructor(p: Float32Array) {
		this.#p = p;
		let size = 0;
		for (let i = 0; i < p.length; i++) {
			pollAt(i);
			size = Math.max(size, Math.abs(p[i] - p[i % 3]));
		}
		this.#within = 1e-10 * size;
	}

	/** Four points that are far apart in every way, as the first faces. */
	start(): Face[] | null {
		const p = this.#p;
		const count = p.length / 3;
		const farthest = (far: (i: number) => number): number => {
			let best = -1,
				most = this.#within;
			for (let i = 0; i < count; i++) {
				pollAt(i);
				const d = far(i);
				if (d > most) [best, most] = [i, d];
			}
			return best;
		};
		if (!count) return null;
		const apart = (a: number, b: number) => length(minus(p, a, b));
		const a = Math.max(
			0,
			farthest((i) => apart(i, 0))
		);
		const b = farthest((i) => apart(i, a));
		if (b < 0) return null;
		const along = minus(p, b, a);
		const long = length(along);
		const c = farthest((i) => length(across(along, minus(p, i, a))) / long);
		if (c < 0) return null;
		const normal = across(along, minus(p, c, a));
		const high = length(normal);
		const over = (i: number) => dot(normal, minus(p, i, a)) / high;
		const d = farthest((i) => Math.abs(over(i)));
		if (d < 0) return null;
		const [x, y] = over(d) < 0 ? [b, c] : [c, b];
		return [
			[a, x, y],
			[a, d, x],
			[x, d, y],
			[y, d, a]
		].map(([i, j, k]) => this.#face(i, j, k));
	}

	#face(a: number, b: number, c: number): Face {
		const p = this.#p;
		const n = across(minus(p, b, a), minus(p, c, a));
		const size = length(n) || 1;
		const normal = [n[0] / size, n[1] / size, n[2] / size] as const;
		const off = normal[0] * p[3 * a] + normal[1] * p[3 * a + 1] + normal[2] * p[3 * a + 2];
		const face: Face = { corners: [a, b, c], normal, off, outside: [], isGone: false };
		const count = p.length / 3;
		for (const [from, to] of [
			[a, b],
			[b, c],
			[c, a]
		])
			this.#left.set(from * count + to, face);
		this.#faces.push(face);
		return face;
	}

	#before({ normal, off }: Face, i: number): number {
		const p = this.#p;
		return normal[0] * p[3 * i] + normal[1] * p[3 * i + 1] + normal[2] * p[3 * i + 2] - off;
	}

	/** Gives a point to the first of some faces before which it lies. */
	assign(i: number, faces: readonly Face[]): void {
		for (const face of faces)
			if (this.#before(face, i) > this.#within) {
				face.outside.push(i);
				return;
			}
	}

	/** Goes out to the farthest point before each face, until there is none. */
	grow(): void {
		const count = this.#p.length / 3;
		for (let f = 0; f < this.#faces.length; f++) {
			pollAt(f << 6);
			const face = this.#faces[f];
			if (face.isGone || !face.outside.length) continue;
			const far = face.outside.reduce((best, i) =>
				this.#before(face, i) > this.#before(face, best) ? i : best
			);
			// All faces that the point sees, and the sides between them and those it does not.
			const seen = [face];
			face.isGone = true;
			const rim: [number, number][] = [];
			for (const one of seen)
				for (let k = 0; k < 3; k++) {
					const [from, to] = [one.corners[k], one.corners[(k + 1) % 3]];
					const other = this.#left.get(to * count + from)!;
					if (other.isGone) continue;
					if (this.#before(other, far) > this.#within) {
						other.isGone = true;
						seen.push(other);
					} else rim.push([from, to]);
				}
			const made = rim
				.filter(([from, to]) => !this.#left.get(to * count + from)!.isGone)
				.map(([from, to]) => this.#face(from, to, far));
			for (const one of seen) {
				for (const i of one.outside) if (i !== far) this.assign(i, made);
				one.outside.length = 0;
			}
		}
	}

	triangles(): number[] {
		return this.#faces.filter(({ isGone }) => !isGone).flatMap(({ corners }) => corners);
	}
}

type Vector = readonly [number, number, number];
const minus = (p: Float32Array, a: number, b: number): Vector => [
	p[3 * a] - p[3 * b],
	p[3 * a + 1] - p[3 * b + 1],
	p[3 * a + 2] - p[3 * b + 2]
];
const across = (a: Vector, b: Vector): Vector => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0]
];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const length = (a: Vector): number => Math.sqrt(dot(a, a));
