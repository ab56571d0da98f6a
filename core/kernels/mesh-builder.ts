/** Collects faces whose points are found again by a key, and gives a mesh with a UV for each corner. */
import { mix } from '../math/index.ts';
import { column, filled, Growing, makeMesh, pollAt, scratch, withColumns } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

const FIRST_SLOTS = 1024;

export class MeshBuilder {
	readonly #positions = new Growing('float');
	readonly #starts = new Growing('index');
	readonly #corners = new Growing('index');
	readonly #uvs = new Growing('float');
	/** Keys and the places behind them, found by a hash: the next free slot after it (−1: free). */
	#keys = scratch('double', FIRST_SLOTS);
	#places = filled('int', FIRST_SLOTS, -1);
	#keyCount = 0;

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
		const slot = this.#slotOf(key);
		if (this.#places[slot] >= 0) return this.#places[slot];
		const place = this.point(...make());
		this.#keys[slot] = key;
		this.#places[slot] = place;
		if (++this.#keyCount * 2 > this.#keys.length) this.#moreSlots();
		return place;
	}

	#slotOf(key: number): number {
		const last = this.#keys.length - 1;
		let slot = mix(key | 0, Math.floor(key / 4294967296)) & last;
		while (this.#places[slot] >= 0 && this.#keys[slot] !== key) slot = (slot + 1) & last;
		return slot;
	}

	#moreSlots(): void {
		const [keys, places] = [this.#keys, this.#places];
		this.#keys = scratch('double', 2 * keys.length);
		this.#places = filled('int', 2 * keys.length, -1);
		for (let i = 0; i < keys.length; i++) {
			pollAt(i);
			if (places[i] < 0) continue;
			const slot = this.#slotOf(keys[i]);
			this.#keys[slot] = keys[i];
			this.#places[slot] = places[i];
		}
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
