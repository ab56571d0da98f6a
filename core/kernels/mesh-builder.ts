/** Collects faces whose points are found again by a key, and gives a mesh with a UV for each corner. */
import { allocate, column, makeMesh, pollAt, withColumns } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

export class MeshBuilder {
	#positions: number[] = [];
	#starts: number[] = [0];
	#corners: number[] = [];
	#uvs: number[] = [];
	#keys = new Map<number, number>();

	/** A new point. */
	point(x: number, y: number, z: number): number {
		return this.#positions.push(x, y, z) / 3 - 1;
	}

	/** The point of a key, made at the first call. */
	keyed(key: number, make: () => readonly [number, number, number]): number {
		let found = this.#keys.get(key);
		if (found === undefined) this.#keys.set(key, (found = this.point(...make())));
		return found;
	}

	/** A face from points with their UVs; points that repeat are taken once, and nothing is added below three. */
	face(points: readonly number[], uvs: readonly (readonly [number, number])[]): void {
		pollAt(this.#starts.length);
		const kept: number[] = [];
		points.forEach((p, i) => {
			if (p !== points[(i + points.length - 1) % points.length]) kept.push(i);
		});
		if (kept.length < 3) return;
		for (const i of kept) {
			this.#corners.push(points[i]);
			this.#uvs.push(uvs[i][0], uvs[i][1]);
		}
		this.#starts.push(this.#corners.length);
	}

	mesh(): Mesh {
		const positions = allocate('float', this.#positions.length);
		positions.set(this.#positions);
		const starts = allocate('index', this.#starts.length);
		starts.set(this.#starts);
		const corners = allocate('index', this.#corners.length);
		corners.set(this.#corners);
		const uv = allocate('float', this.#uvs.length);
		uv.set(this.#uvs);
		const mesh = makeMesh(positions, starts, corners);
		return { ...mesh, corners: withColumns(mesh.corners, { uv: column('vec2', 'uv', uv) }) };
	}
}
