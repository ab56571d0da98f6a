/** Collects faces whose points are found again by a key, and gives a mesh with a UV for each corner. */
import { Growing, checkScratch, column, makeMesh, withColumns } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

/** About so many bytes are taken by a key and the place behind it. */
const KEY_BYTES = 48;
/** Keys are counted in heaps of so many. */
const KEYS_AT_ONCE = 4096;

export class MeshBuilder {
	readonly #positions = new Growing('float');
	readonly #starts = new Growing('index');
	readonly #corners = new Growing('index');
	readonly #uvs = new Growing('float');
	readonly #keys = new Map<number, number>();

	constructor() {
		this.#starts.push(0);
	}

	/** A new point. */
	point(x: number, y: number, z: number): number {
		const place = this.#positions.length / 3;
		this.#positions.push(x);
		this.#positions.push(y);
		this.#positions.push(z);
		return place;
	}

	/** The point of a key, made at the first call. */
	keyed(key: number, make: () => readonly [number, number, number]): number {
		let found = this.#keys.get(key);
		if (found === undefined) {
			if (this.#keys.size % KEYS_AT_ONCE === 0) checkScratch((this.#keys.size + KEYS_AT_ONCE) * KEY_BYTES);
			this.#keys.set(key, (found = this.point(...make())));
		}
		return found;
	}

	/** A face from points with their UVs; points that repeat are taken once, and nothing is added below three. */
	face(points: readonly number[], uvs: readonly (readonly [number, number])[]): void {
		const n = points.length;
		let kept = 0;
		for (let i = 0; i < n; i++) if (points[i] !== points[(i + n - 1) % n]) kept++;
		if (kept < 3) return;
		for (let i = 0; i < n; i++) {
			if (points[i] === points[(i + n - 1) % n]) continue;
			this.#corners.push(points[i]);
			this.#uvs.push(uvs[i][0]);
			this.#uvs.push(uvs[i][1]);
		}
		this.#starts.push(this.#corners.length);
	}

	mesh(): Mesh {
		const mesh = makeMesh(this.#positions.take(), this.#starts.take(), this.#corners.take());
		return { ...mesh, corners: withColumns(mesh.corners, { uv: column('vec2', 'uv', this.#uvs.take()) }) };
	}
}
