/** Flat regions as faces, or as solids with their edges taken off. */
import { scratch, pollAt } from '../geometry/index.ts';
import { PI, cos, sin } from '../math/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { trianglesOfRegion } from './fill.ts';
import type { Region } from './fill.ts';
import { MeshBuilder } from './mesh-builder.ts';
import { loopsOf } from './triangulate.ts';

/** The axes of a plane: for both of its directions the axis and its sign (see `planeOf`), and where it lies. */
export type Plane = readonly [number, number, number, number];

export interface ExtrudeOptions {
	/** Metres; negative goes the other way. */
	depth: number;
	/** Metres taken off the edges; at most half of the depth. */
	chamfer: number;
	/** Faces of each chamfer, at least 1. */
	steps: number;
}

/** Puts a place of a plane into space: `off` is the distance from it, towards the side it faces. */
function lift(plane: Plane, height: number): (x: number, y: number, off: number) => [number, number, number] {
	const [a, signA, b, signB] = plane;
	const c = 3 - a - b;
	// The plane faces where a × b points.
	const facing = ((b - a + 3) % 3 === 1 ? 1 : -1) * signA * signB;
	return (x, y, off) => {
		const out: [number, number, number] = [0, 0, 0];
		out[a] = signA * x;
		out[b] = signB * y;
		out[c] = height + facing * off;
		return out;
	};
}

/** Regions as flat faces: triangles, because faces have no holes. UVs are metres in the plane. */
export function fillRegions(regions: readonly Region[], plane: Plane, height: number): Mesh {
	const builder = new MeshBuilder();
	const at = lift(plane, height);
	for (const region of regions) addCap(builder, region, [region.outline, ...region.holes], at, 0, false);
	return builder.mesh();
}

/** Regions as closed solids. */
export function extrudeRegions(
	regions: readonly Region[],
	plane: Plane,
	height: number,
	{ depth, chamfer, steps }: ExtrudeOptions
): Mesh {
	const builder = new MeshBuilder();
	const at = lift(plane, height);
	const size = Math.abs(depth);
	const low = Math.min(0, depth);
	const taken = Math.min(chamfer, size / 2);
	// Rings from back to front: how far inward, and how high.
	const rings: [number, number][] = [];
	if (taken > 0) {
		for (let s = 0; s <= steps; s++) {
			pollAt(s);
			rings.push(chamferStep(taken, s / steps, steps, low, 1));
		}
		for (let s = steps; s >= 0; s--) rings.push(chamferStep(taken, s / steps, steps, low + size, -1));
	} else rings.push([0, low], [0, low + size]);
	for (const region of regions) {
		const loops = [region.outline, ...region.holes];
		if (size === 0) {
			addCap(builder, region, loops, at, 0, false);
			continue;
		}
		const layers = rings.map(([inset, off]) =>
			addRing(
				builder,
				loops.map((loop) => insetLoop(loop, inset)),
				at,
				off
			)
		);
		for (let r = 0; r + 1 < layers.length; r++) {
			let below = layers[r],
				above = layers[r + 1];
			for (const loop of loops) {
				addWall(builder, loop, below, above, rings[r][1] - low, rings[r + 1][1] - low);
				below += loop.length / 2;
				above += loop.length / 2;
			}
		}
		addFaces(builder, region, loops, layers[0], true);
		addFaces(builder, region, loops, layers[layers.length - 1], false);
	}
	return builder.mesh();
}

/** The points of all loops at one height, one after another. Gives the first of them. */
function addRing(
	builder: MeshBuilder,
	loops: readonly Float64Array[],
	at: ReturnType<typeof lift>,
	off: number
): number {
	let first = -1;
	for (const loop of loops)
		for (let i = 0; i < loop.length; i += 2) {
			const point = builder.point(...at(loop[i], loop[i + 1], off));
			if (first < 0) first = point;
		}
	return first;
}

/** One ring of a chamfer: flat for one step, a quarter circle for more. */
function chamferStep(taken: number, t: number, steps: number, from: number, way: number): [number, number] {
	if (steps === 1) return [taken * (1 - t), from + way * taken * t];
	const angle = (t * PI) / 2;
	return [taken * (1 - sin(angle)), from + way * taken * (1 - cos(angle))];
}

/** Quads between a loop and the same loop at another height; `below` and `above` are their first points. */
function addWall(
	builder: MeshBuilder,
	loop: Float64Array,
	below: number,
	above: number,
	v: number,
	w: number
): void {
	let u = 0;
	for (let i = 0, n = loop.length / 2; i < n; i++) {
		pollAt(i);
		const j = (i + 1) % n;
		const x = loop[2 * j] - loop[2 * i],
			y = loop[2 * j + 1] - loop[2 * i + 1];
		const next = u + Math.sqrt(x * x + y * y);
		builder.face(
			[below + i, below + j, above + j, above + i],
			[
				[u, v],
				[next, v],
				[next, w],
				[u, w]
			]
		);
		u = next;
	}
}

function addCap(
	builder: MeshBuilder,
	region: Region,
	loops: readonly Float64Array[],
	at: ReturnType<typeof lift>,
	off: number,
	back: boolean
): void {
	addFaces(builder, region, loops, addRing(builder, loops, at, off), back);
}

/** A region as triangles over points that stand one after another from `first` on. */
function addFaces(
	builder: MeshBuilder,
	region: Region,
	loops: readonly Float64Array[],
	first: number,
	back: boolean
): void {
	const flat = loopsOf(loops).places;
	const cut = trianglesOfRegion(region);
	for (let t = 0; t < cut.length; t += 3) {
		pollAt(t);
		const rows = [cut[t], cut[t + 1], cut[t + 2]];
		const area =
			(flat[2 * rows[1]] - flat[2 * rows[0]]) * (flat[2 * rows[2] + 1] - flat[2 * rows[0] + 1]) -
			(flat[2 * rows[2]] - flat[2 * rows[0]]) * (flat[2 * rows[1] + 1] - flat[2 * rows[0] + 1]);
		if (area > 0 === back) rows.reverse();
		builder.face(
			rows.map((row) => first + row),
			rows.map((row): [number, number] => [back ? -flat[2 * row] : flat[2 * row], flat[2 * row + 1]])
		);
	}
}

/** A loop moved inward by a distance, its corners along their bisectors; holes, which run clockwise, grow. */
function insetLoop(loop: Float64Array, distance: number): Float64Array {
	if (distance === 0) return loop;
	const n = loop.length;
	const out = scratch('double', n);
	for (let i = 0; i < n; i += 2) {
		pollAt(i);
		const h = (i + n - 2) % n,
			j = (i + 2) % n;
		let ux = loop[i] - loop[h],
			uy = loop[i + 1] - loop[h + 1],
			vx = loop[j] - loop[i],
			vy = loop[j + 1] - loop[i + 1];
		const lu = Math.sqrt(ux * ux + uy * uy) || 1,
			lv = Math.sqrt(vx * vx + vy * vy) || 1;
		ux /= lu;
		uy /= lu;
		vx /= lv;
		vy /= lv;
		// Inward is to the left. At a sharp corner the step is kept short of four times the distance.
		const nx = -uy - vy,
			ny = ux + vx;
		const along = Math.max(0.25, (nx * nx + ny * ny) / 2);
		out[i] = loop[i] + (nx * distance) / along;
		out[i + 1] = loop[i + 1] + (ny * distance) / along;
	}
	return out;
}
