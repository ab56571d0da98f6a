/**
 * glTF 2.0 in its binary form. Copies are written as `EXT_mesh_gpu_instancing`, with chosen attributes as `_NAME`, or
 * flattened; curves as lines, loose points as points.
 */
import { quaternion } from '../math/index.ts';
import type { Column, Geometry, Instances, Material, Mesh } from '../geometry/index.ts';
import {
	WIDTH,
	affineAt,
	cornerNormals,
	expand,
	floats,
	geometryOf,
	matrix,
	splitLinear,
	shears
} from '../geometry/index.ts';
import { GlbFile, VERTICES } from './glb-file.ts';
import type { Json } from './glb-file.ts';
import { vertexGroups } from './glb-vertices.ts';
import { meshOfCopies } from '../kernels/mesh-of-copies.ts';

export interface GlbOptions {
	/** Write every copy as faces of its own, for programs that do not know instancing. */
	flatten?: boolean;
	/** Attributes to write, under these names (glTF wants them to begin with _), in this order. */
	attributes?: readonly { name: string; as: string }[];
	/** The name of the scene. */
	name?: string;
}

/** Writes a geometry. Throws NodeError where it is too large for the format. */
export function writeGlb(geometry: Geometry, options: GlbOptions = {}): Uint8Array {
	return new Writer(options).write(options.flatten && geometry.copies ? meshOfCopies(geometry) : geometry);
}

type NineNumbers = [number, number, number, number, number, number, number, number, number];

class Writer {
	readonly #options: GlbOptions;
	readonly #attributes: readonly { name: string; as: string }[];
	readonly #file = new GlbFile();
	#meshes = new Map<Geometry, number | null>();
	#instancing = false;

	constructor(options: GlbOptions) {
		this.#options = options;
		this.#attributes = options.attributes ?? [];
	}

	write(geometry: Geometry): Uint8Array {
		const roots: number[] = [];
		const own = this.#mesh({ ...geometry, copies: null });
		if (own !== null) roots.push(this.#file.node({ name: 'Geometry', mesh: own }));
		if (geometry.copies?.copies.count) roots.push(...this.#copies(geometry.copies));
		const json: Json = {
			asset: { version: '2.0', generator: 'Embrell' },
			scene: 0,
			scenes: [{ name: this.#options.name ?? 'Embrell', ...(roots.length && { nodes: roots }) }]
		};
		if (this.#instancing) {
			json.extensionsUsed = ['EXT_mesh_gpu_instancing'];
			json.extensionsRequired = ['EXT_mesh_gpu_instancing'];
		}
		return this.#file.bytes(json);
	}

	/** A mesh for faces, lines and points of a geometry; null where it has none. */
	#mesh(geometry: Geometry): number | null {
		const known = this.#meshes.get(geometry);
		if (known !== undefined) return known;
		const primitives: Json[] = [];
		if (geometry.mesh?.faces.count) primitives.push(...this.#faces(geometry.mesh, geometry.materials));
		if (geometry.curves?.points.count) primitives.push(...this.#lines(geometry));
		if (geometry.points?.points.count) {
			const table = geometry.points.points;
			primitives.push({
				mode: 0,
				attributes: {
					POSITION: this.#file.positions(floats(table, 'position')),
					...this.#colours(table.columns, null, table.count, 'COLOR_0'),
					...this.#columns(table.columns, null, table.count)
				}
			});
		}
		const made = primitives.length
			? this.#file.lists.meshes.push({ name: `Mesh ${this.#file.lists.meshes.length + 1}`, primitives }) - 1
			: null;
		this.#meshes.set(geometry, made);
		return made;
	}

	/** One primitive for each material. */
	#faces(mesh: Mesh, materials: readonly Material[]): Json[] {
		// Attributes of corners and faces, unless the points have one of the same name: vertices part where they differ.
		const chosen = this.#attributes.filter(({ name }) => !mesh.points.columns.has(name));
		const onCorners = chosenColumns(mesh.corners.columns, chosen);
		const onFaces = chosenColumns(
			mesh.faces.columns,
			chosen.filter(({ name }) => !onCorners.has(name))
		);
		const p = floats(mesh.points, 'position');
		const normals = cornerNormals(mesh);
		const uv = mesh.corners.columns.get('uv')?.data as Float32Array | undefined;
		return vertexGroups(mesh, materials.length, onCorners, onFaces).map((group) => {
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
				this.#colours(mesh.points.columns, points, n, 'COLOR_0'),
				this.#columns(mesh.points.columns, points, n),
				this.#columns(onCorners, corners, n),
				this.#columns(onFaces, faces, n)
			);
			const material = materials[group.material];
			return {
				attributes,
				mode: 4,
				indices: this.#file.indices(n <= 65535 ? Uint16Array.from(group.indices) : group.indices),
				...(material && { material: this.#file.material(material) })
			};
		});
	}

	#lines({ curves }: Geometry): Json[] {
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
					...this.#columns(table.columns, curveOf, points.count),
					...this.#columns(points.columns, null, points.count)
				}
			}
		];
	}

	/** A node with instancing for each source that is one level deep and does not shear; others are written as nodes. */
	#copies(instances: Instances): number[] {
		const nodes: number[] = [];
		const deep = shears(instances.copies) || instances.sources.some((source) => source.copies);
		const { copies, sources } = instances;
		const source = copies.columns.get('source')!.data,
			shown = copies.columns.get('shown')?.data;
		if (deep) return this.#deepCopies(instances);
		sources.forEach((one, s) => {
			const mesh = this.#mesh(one);
			if (mesh === null) return;
			const rows = shownRows(source, shown, s);
			const count = rows ? rows.length : copies.count;
			if (!count) return;
			const take = (name: string, width: number) => {
				const data = floats(copies, name);
				return rows ? rowsOf(data, rows, width) : data;
			};
			const attributes: Json = {
				TRANSLATION: this.#file.accessor(take('position', 3), 'VEC3'),
				ROTATION: this.#file.accessor(unitised(take('orientation', 4), 4), 'VEC4'),
				SCALE: this.#file.accessor(take('scale', 3), 'VEC3'),
				...this.#colours(copies.columns, rows, count, '_COLOR_0'),
				...this.#columns(copies.columns, rows, count, false)
			};
			this.#instancing = true;
			nodes.push(
				this.#file.node({
					name: `Copies ${s + 1}`,
					mesh,
					extensions: { EXT_mesh_gpu_instancing: { attributes } }
				})
			);
		});
		return nodes;
	}

	/**
	 * Copies of copies, and copies that shear, by their places in the whole. Rotation and scale cannot say a shear, so such
	 * a copy is a node within a node: turned, scaled, and turned again.
	 */
	#deepCopies(instances: Instances): number[] {
		const nodes: number[] = [];
		for (const { geometry, matrices, count } of expand(geometryOf({ copies: instances }))) {
			const mesh = matrices && this.#mesh(geometry);
			if (!matrices || mesh === null) continue;
			const moves = new Float32Array(3 * count),
				turns = new Float32Array(4 * count),
				scales = new Float32Array(3 * count);
			let plain = 0;
			for (let i = 0; i < count; i++) {
				const map = affineAt(matrices, i);
				const parts = matrix.decompose(map);
				if (parts) {
					moves.set(map.subarray(9), 3 * plain);
					turns.set(parts.q, 4 * plain);
					scales.set(parts.scale, 3 * plain++);
				} else nodes.push(this.#shearedNode(map, mesh));
			}
			if (!plain) continue;
			this.#instancing = true;
			const attributes = {
				TRANSLATION: this.#file.accessor(moves.subarray(0, 3 * plain), 'VEC3'),
				ROTATION: this.#file.accessor(unitised(turns.subarray(0, 4 * plain), 4), 'VEC4'),
				SCALE: this.#file.accessor(scales.subarray(0, 3 * plain), 'VEC3')
			};
			nodes.push(this.#file.node({ mesh, extensions: { EXT_mesh_gpu_instancing: { attributes } } }));
		}
		return nodes;
	}

	#shearedNode(map: Float64Array, mesh: number): number {
		const { u, v, scale } = splitLinear(map);
		const [outer, inner] = [u, v].map((axes) => {
			const q = [0, 0, 0, 1];
			quaternion.fromAxes(q, 0, ...(axes as NineNumbers));
			return q;
		});
		// The inner rotation is the opposite of the one that its axes make.
		const within = this.#file.node({ mesh, rotation: [-inner[0], -inner[1], -inner[2], inner[3]] });
		return this.#file.node({
			translation: [...map.subarray(9, 12)],
			rotation: outer,
			scale,
			children: [within]
		});
	}

	/** Elements' own colours, linear, by which the material is multiplied; for copies under the name that readers look for. */
	#colours(
		columns: ReadonlyMap<string, Column>,
		rows: Uint32Array | null,
		count: number,
		name: string
	): Json {
		const own = columns.get('colour');
		if (!own || own.role !== 'colour' || own.type !== 'vec3') return {};
		const data = own.data as Float32Array;
		const within = (rows ? rowsOf(data, rows, 3) : data).map((x) => (x > 0 ? (x < 1 ? x : 1) : 0));
		const view = name === 'COLOR_0' ? VERTICES : undefined;
		return count ? { [name]: this.#file.accessor(within, 'VEC3', view) } : {};
	}

	/** The chosen attributes as float accessors. */
	#columns(
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

function rowsOf(data: Float32Array, rows: Uint32Array, width: number): Float32Array {
	const out = new Float32Array(rows.length * width);
	for (let i = 0; i < rows.length; i++)
		for (let k = 0; k < width; k++) out[i * width + k] = data[rows[i] * width + k];
	return out;
}

/** The copies of a source that are shown; null where all are. */
function shownRows(
	sources: ArrayLike<number>,
	shown: ArrayLike<number> | undefined,
	source: number
): Uint32Array | null {
	const n = sources.length;
	let first = 0;
	while (first < n && sources[first] === source && (!shown || shown[first])) first++;
	if (first === n) return null;
	let count = first;
	const rows = new Uint32Array(n);
	for (let i = 0; i < first; i++) rows[i] = i;
	for (let i = first; i < n; i++) if (sources[i] === source && (!shown || shown[i])) rows[count++] = i;
	return rows.slice(0, count);
}

/** Vectors of length 1 within what the validator asks; one without length becomes (0, …, 0, 1). */
function unitised(data: Float32Array, width: 3 | 4 = 3): Float32Array {
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
