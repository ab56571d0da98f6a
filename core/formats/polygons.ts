/** Collects points and polygons from a file, with the checks that all readers share. */
import { NodeError, formatCount } from '../math/index.ts';
import type { Column, Geometry, Material, Mesh, Table } from '../geometry/index.ts';
import { column, geometryOf, makeMesh, withColumns, pollAt } from '../geometry/index.ts';

/** The most points or corners that a file may have. */
export const MOST_IN_FILE = 40_000_000;

/** A growing array of numbers. */
export class Growing<A extends Float32Array | Uint32Array | Int32Array> {
	data: A;
	length = 0;
	readonly #Maker: new (length: number) => A;
	constructor(Maker: new (length: number) => A) {
		this.#Maker = Maker;
		this.data = new Maker(1024);
	}
	push(x: number): void {
		if (this.length === this.data.length) {
			if (this.length > MOST_IN_FILE * 3)
				throw new NodeError(
					`The file has more than ${formatCount(MOST_IN_FILE)} elements. Reduce the mesh first.`
				);
			const larger = new this.#Maker(this.length * 2);
			larger.set(this.data);
			this.data = larger;
		}
		this.data[this.length++] = x;
	}
	done(): A {
		return this.data.slice(0, this.length) as A;
	}
}

export interface Polygons {
	name: string;
	positions: Float32Array;
	starts: Uint32Array;
	corners: Uint32Array;
	/** Two numbers a corner. */
	uvs?: Float32Array | null;
	/** Three numbers a corner. */
	normals?: Float32Array | null;
	/** Three numbers a point, linear. */
	colours?: Float32Array | null;
	/** More numbers a point, one or three each, by the names that the file gives them. */
	named?: ReadonlyMap<string, { data: Float32Array; width: 1 | 3 }>;
	/** One index a face; -1 for none. */
	materialOf?: Int32Array | null;
	materials?: Material[];
}

/** Checks the polygons of a file and makes a geometry. `where(i)` tells the place of face i in the file. */
export function geometryFrom(from: Polygons, where: (face: number) => string): Geometry {
	const { name, positions, starts, corners } = from;
	for (let i = 0; i < positions.length; i++) {
		pollAt(i);
		if (!Number.isFinite(positions[i]))
			throw new NodeError(
				`${name}: point ${formatCount(Math.floor(i / 3) + 1)} has a coordinate that is not a number. Clean the mesh and export it again.`
			);
	}
	const points = positions.length / 3;
	for (let f = 0; f + 1 < starts.length; f++) {
		pollAt(f);
		for (let c = starts[f]; c < starts[f + 1]; c++)
			if (corners[c] >= points)
				throw new NodeError(
					`${name}, ${where(f)}: face ${formatCount(f + 1)} names point ${formatCount(corners[c] + 1)}, but there are only ${formatCount(points)}.`
				);
	}
	let mesh: Mesh = makeMesh(positions, starts, corners);
	if (from.uvs)
		mesh = { ...mesh, corners: withColumns(mesh.corners, { uv: column('vec2', 'uv', from.uvs) }) };
	if (from.normals)
		mesh = {
			...mesh,
			corners: withColumns(mesh.corners, { normal: column('vec3', 'normal', from.normals) })
		};
	if (from.colours)
		mesh = { ...mesh, points: withColumns(mesh.points, { colour: column('vec3', 'colour', from.colours) }) };
	if (from.named) mesh = { ...mesh, points: withColumns(mesh.points, namedColumns(from.named, mesh.points)) };
	if (from.materialOf && from.materials?.length)
		mesh = {
			...mesh,
			faces: withColumns(mesh.faces, { material: { ...column('int', 'id', from.materialOf), default: [-1] } })
		};
	return geometryOf({ mesh, materials: from.materials ?? [] });
}

/** The most columns of a file's own that are kept. */
export const MOST_NAMED = 32;

const LONGEST_NAME = 60;

/** Columns of a file under names that formulas can write. What is not a number becomes 0. */
function namedColumns(named: NonNullable<Polygons['named']>, points: Table): Record<string, Column> {
	const found: [string, Column][] = [];
	for (const [given, { data, width }] of named) {
		const name = given
			.slice(0, LONGEST_NAME)
			.replace(/[^\p{L}\p{N}_]/gu, '_')
			.replace(/^(?=\p{N})/u, '_');
		// Of names that come twice, or for some points only, nobody can say what they mean.
		const isWhole = data.length === points.count * width;
		if (!name || !isWhole || points.columns.has(name) || found.length >= MOST_NAMED) continue;
		for (let i = 0; i < data.length; i++) {
			pollAt(i);
			if (!Number.isFinite(data[i])) data[i] = 0;
		}
		found.push([name, column(width === 3 ? 'vec3' : 'float', 'plain', data)]);
	}
	return Object.fromEntries(found);
}

/** From the screen's encoding (sRGB, 0 … 1) to linear light. */
export function toLinear(c: number): number {
	// x^2.4 as x²·x^0.4, the root by Newton's steps, so that no engine differs.
	if (c <= 0.04045) return c / 12.92;
	const x = (c + 0.055) / 1.055;
	return x * x * fifthRoot(x * x);
}

function fifthRoot(x: number): number {
	let y = x > 0 ? 0.5 + 0.5 * x : 0;
	for (let i = 0; i < 24 && y > 0; i++) y = (4 * y + x / (y * y * y * y)) / 5;
	return y;
}
