/** The meshes of a GLB: faces by material, lines and points, with attributes under chosen names. */
import type { Column, Geometry, Material, Mesh } from '../geometry/index.ts';
import { WIDTH, cornerNormals, floats } from '../geometry/index.ts';
import { VERTICES } from './glb-file.ts';
import type { GlbFile, Json } from './glb-file.ts';
import { vertexGroups } from './glb-vertices.ts';

/** Attributes to write, under these names (glTF wants them to begin with _), in this order. */
export type AttributeNames = readonly { name: string; as: string }[];

export class GlbMeshes {
	readonly #file: GlbFile;
	readonly #attributes: AttributeNames;
	readonly #known = new Map<Geometry, number | null>();

	readonly #name: string;

	/** @param name what meshes are called, each with its number. */
	constructor(file: GlbFile, attributes: AttributeNames = [], name = 'Mesh') {
		this.#file = file;
		this.#name = name;
		this.#attributes = attributes;
	}

	/**
	 * A mesh for faces, lines and points of a geometry; null where it has none.
	 * @param shapes the same geometry with its points elsewhere: a morph target each. Their topology is the geometry's.
	 */
	mesh(geometry: Geometry, shapes: readonly Geometry[] = []): number | null {
		const known = this.#known.get(geometry);
		if (known !== undefined) return known;
		const primitives: Json[] = [];
		if (geometry.mesh?.faces.count)
			primitives.push(
				...this.#faces(
					geometry.mesh,
					geometry.materials,
					shapes.map(({ mesh }) => mesh!)
				)
			);
		if (geometry.curves?.points.count) primitives.push(...this.#lines(geometry, shapes));
		if (geometry.points?.points.count) {
			const table = geometry.points.points;
			primitives.push({
				mode: 0,
				attributes: {
					POSITION: this.#file.positions(floats(table, 'position')),
					...this.colours(table.columns, null, table.count, 'COLOR_0'),
					...this.columns(table.columns, null, table.count)
				},
				...this.#targets(
					floats(table, 'position'),
					shapes.map(({ points }) => floats(points!.points, 'position'))
				)
			});
		}
		const { meshes } = this.#file.lists;
		const made = primitives.length
			? meshes.push({
					name: meshes.length ? `${this.#name} ${meshes.length + 1}` : this.#name,
					primitives,
					...(shapes.length && { weights: shapes.map(() => 0) })
				}) - 1
			: null;
		this.#known.set(geometry, made);
		return made;
	}

	/** One primitive for each material. */
	#faces(mesh: Mesh, materials: readonly Material[], shapes: readonly Mesh[]): Json[] {
		// Attributes of corners and faces, unless the points have one of the same name: vertices part where they differ.
		const chosen = this.#attributes.filter(({ name }) => !mesh.points.columns.has(name));
		const onCorners = chosenColumns(mesh.corners.columns, chosen);
		const onFaces = chosenColumns(
			mesh.faces.columns,
			chosen.filter(({ name }) => !onCorners.has(name))
		);
		const p = floats(mesh.points, 'position');
		const normals = cornerNormals(mesh);
		const moved = shapes.map((shape) => ({
			p: floats(shape.points, 'position'),
			normals: cornerNormals(shape)
		}));
		const uv = mesh.corners.columns.get('uv')?.data as Float32Array | undefined;
		const coloured = colouredBy(mesh);
		const parted = (columns: ReadonlyMap<string, Column>, by: 'corners' | 'faces') =>
			coloured.by === by ? new Map([...columns, ['colour', coloured.columns.get('colour')!]]) : columns;
		return vertexGroups(mesh, materials.length, parted(onCorners, 'corners'), parted(onFaces, 'faces')).map(
			(group) => {
				const { corners, points, faces } = group;
				const n = corners.length;
				const attributes: Json = {
					POSITION: this.#file.positions(rowsOf(p, points, 3)),
					NORMAL: this.#file.accessor(unitised(rowsOf(normals, corners, 3)), 'VEC3', VERTICES)
				};
				if (uv) {
					// Their v runs downwards.
					const texture = rowsOf(uv, corners, 2);
					for (let i = 1; i < texture.length; i += 2) texture[i] = 1 - texture[i];
					attributes.TEXCOORD_0 = this.#file.accessor(texture, 'VEC2', VERTICES);
				}
				Object.assign(
					attributes,
					this.colours(coloured.columns, group[coloured.by], n, 'COLOR_0'),
					this.columns(mesh.points.columns, points, n),
					this.columns(onCorners, corners, n),
					this.columns(onFaces, faces, n)
				);
				const material = materials[group.material];
				return {
					attributes,
					mode: 4,
					indices: this.#file.indices(n <= 65535 ? Uint16Array.from(group.indices) : group.indices),
					...(material && { material: this.#file.material(material) }),
					...(moved.length && {
						targets: moved.map((shape) => ({
							POSITION: this.#file.positions(differences(rowsOf(shape.p, points, 3), rowsOf(p, points, 3))),
							NORMAL: this.#file.accessor(
								differences(
									unitised(rowsOf(shape.normals, corners, 3)),
									unitised(rowsOf(normals, corners, 3))
								),
								'VEC3',
								VERTICES
							)
						}))
					})
				};
			}
		);
	}

	/** Morph targets of plain points. */
	#targets(from: Float32Array, shapes: readonly Float32Array[]): Json {
		if (!shapes.length) return {};
		return { targets: shapes.map((to) => ({ POSITION: this.#file.positions(differences(to, from)) })) };
	}

	#lines({ curves }: Geometry, shapes: readonly Geometry[]): Json[] {
		const { points, starts, curves: table } = curves!;
		const closed = table.columns.get('closed')!.data;
		const pairs: number[] = [];
		for (let c = 0; c + 1 < starts.length; c++) {
			for (let i = starts[c]; i + 1 < starts[c + 1]; i++) pairs.push(i, i + 1);
			if (closed[c] && starts[c + 1] - starts[c] > 2) pairs.push(starts[c + 1] - 1, starts[c]);
		}
		if (!pairs.length) return [];
		const curveOf = new Uint32Array(points.count);
		for (let c = 0; c + 1 < starts.length; c++) curveOf.fill(c, starts[c], starts[c + 1]);
		return [
			{
				mode: 1,
				indices: this.#file.indices(Uint32Array.from(pairs)),
				attributes: {
					POSITION: this.#file.positions(floats(points, 'position')),
					...this.columns(table.columns, curveOf, points.count),
					...this.columns(points.columns, null, points.count)
				},
				...this.#targets(
					floats(points, 'position'),
					shapes.map((shape) => floats(shape.curves!.points, 'position'))
				)
			}
		];
	}

	/** Elements' own colours, linear, by which the material is multiplied; for copies under the name that readers look for. */
	colours(columns: ReadonlyMap<string, Column>, rows: Uint32Array | null, count: number, name: string): Json {
		const own = columns.get('colour');
		if (!own || own.role !== 'colour' || own.type !== 'vec3') return {};
		const data = own.data as Float32Array;
		const within = (rows ? rowsOf(data, rows, 3) : data).map((x) => (x > 0 ? (x < 1 ? x : 1) : 0));
		const view = name === 'COLOR_0' ? VERTICES : undefined;
		return count ? { [name]: this.#file.accessor(within, 'VEC3', view) } : {};
	}

	/** The chosen attributes as float accessors. */
	columns(
		columns: ReadonlyMap<string, Column>,
		rows: Uint32Array | null,
		count: number,
		vertices = true
	): Json {
		const out: Json = {};
		for (const { name, as } of this.#attributes) {
			const source = columns.get(name);
			if (!source || source.type === 'text') continue;
			const width = WIDTH[source.type];
			const data = new Float32Array(count * width);
			for (let i = 0; i < count; i++)
				for (let k = 0; k < width; k++) data[i * width + k] = source.data[(rows ? rows[i] : i) * width + k];
			out[attributeName(as)] = this.#file.accessor(
				data,
				['SCALAR', 'VEC2', 'VEC3', 'VEC4'][width - 1],
				vertices ? VERTICES : undefined
			);
		}
		return out;
	}
}

/** glTF wants the application's own attributes in capitals behind an underscore. */
export const attributeName = (name: string): string =>
	'_' +
	name
		.replace(/^_+/, '')
		.toUpperCase()
		.replace(/[^A-Z0-9_]/g, '_');

const chosenColumns = (
	columns: ReadonlyMap<string, Column>,
	chosen: readonly { name: string }[]
): Map<string, Column> => new Map([...columns].filter(([name]) => chosen.some((one) => one.name === name)));

const differences = (to: Float32Array, from: Float32Array): Float32Array => to.map((x, i) => x - from[i]);

export function rowsOf(data: Float32Array, rows: Uint32Array, width: number): Float32Array {
	const out = new Float32Array(rows.length * width);
	for (let i = 0; i < rows.length; i++)
		for (let k = 0; k < width; k++) out[i * width + k] = data[rows[i] * width + k];
	return out;
}

/** Vectors of length 1 within what the validator asks; one without length becomes (0, …, 0, 1). */
export function unitised(data: Float32Array, width: 3 | 4 = 3): Float32Array {
	let out = data;
	for (let i = 0; i < data.length; i += width) {
		const x = data[i],
			y = data[i + 1],
			z = data[i + 2],
			w = width === 4 ? data[i + 3] : 0;
		const square = x * x + y * y + z * z + w * w;
		if (Math.abs(square - 1) < 1e-6) continue;
		if (out === data) out = data.slice();
		const size = Math.sqrt(square);
		for (let k = 0; k < width; k++) out[i + k] = size > 0 ? data[i + k] / size : k === width - 1 ? 1 : 0;
	}
	return out;
}

/** The elements of a mesh by which it is coloured: its points, else its corners, else its faces. */
function colouredBy(mesh: Mesh): {
	by: 'points' | 'corners' | 'faces';
	columns: ReadonlyMap<string, Column>;
} {
	const by =
		(['points', 'corners', 'faces'] as const).find((one) => isColour(mesh[one].columns.get('colour'))) ??
		'points';
	return { by, columns: mesh[by].columns };
}
const isColour = (column: Column | undefined): boolean => column?.role === 'colour' && column.type === 'vec3';
