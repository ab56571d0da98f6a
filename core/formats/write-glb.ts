/**
 * glTF 2.0 in its binary form. Copies are written as `EXT_mesh_gpu_instancing`, with chosen attributes as `_NAME`, or
 * flattened; curves as lines, loose points as points. The binary chunk is written by hand: the usual library took 4.4
 * times as long as the bytes alone.
 */
import { NodeError, formatCount, quaternion } from '../math/index.ts';
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
	trianglesOf
} from '../geometry/index.ts';
import { realizeCopies } from '../kernels/realize-copies.ts';

export interface GlbOptions {
	/** Write every copy as faces of its own, for programs that do not know instancing. */
	flatten?: boolean;
	/** Attributes to write, under these names (glTF wants them to begin with _), in this order. */
	attributes?: readonly { name: string; as: string }[];
	/** The name of the scene. */
	name?: string;
}

interface Json {
	[key: string]: unknown;
}

/** Writes a geometry. Throws NodeError where it is too large for the format. */
export function writeGlb(geometry: Geometry, options: GlbOptions = {}): Uint8Array {
	return new Writer(options).write(
		options.flatten && geometry.copies ? realizeCopies(geometry, () => {}) : geometry
	);
}

type NineNumbers = [number, number, number, number, number, number, number, number, number];

/** GLB counts bytes in 32 bits. */
const MOST_BYTES = 4_294_967_295;

class Writer {
	readonly #options: GlbOptions;
	readonly #attributes: readonly { name: string; as: string }[];
	#chunks: { data: ArrayBufferView; at: number }[] = [];
	#length = 0;
	#json = {
		accessors: [] as Json[],
		bufferViews: [] as Json[],
		meshes: [] as Json[],
		nodes: [] as Json[],
		materials: [] as Json[]
	};
	#materials = new Map<string, number>();
	#meshes = new Map<Geometry, number | null>();
	#instancing = false;

	constructor(options: GlbOptions) {
		this.#options = options;
		this.#attributes = options.attributes ?? [];
	}

	write(geometry: Geometry): Uint8Array {
		const roots: number[] = [];
		const own = this.#mesh({ ...geometry, copies: null });
		if (own !== null) roots.push(this.#node({ name: 'Geometry', mesh: own }));
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
		for (const [key, list] of Object.entries(this.#json)) if (list.length) json[key] = list;
		if (this.#length) json.buffers = [{ byteLength: this.#length }];
		return this.#assemble(json);
	}

	#assemble(json: Json): Uint8Array {
		const text = new TextEncoder().encode(JSON.stringify(json));
		const textLength = text.length + ((4 - (text.length % 4)) % 4);
		const total = 12 + 8 + textLength + (this.#length ? 8 + this.#length : 0);
		if (total > MOST_BYTES)
			throw new NodeError(
				`The file would have ${formatCount(total)} bytes; a GLB holds ${formatCount(MOST_BYTES)}. Export with copies instead of flattened.`
			);
		const out = new Uint8Array(total);
		const view = new DataView(out.buffer);
		view.setUint32(0, 0x46546c67, true);
		view.setUint32(4, 2, true);
		view.setUint32(8, total, true);
		view.setUint32(12, textLength, true);
		view.setUint32(16, 0x4e4f534a, true);
		out.set(text, 20);
		out.fill(32, 20 + text.length, 20 + textLength);
		if (this.#length) {
			const start = 20 + textLength;
			view.setUint32(start, this.#length, true);
			view.setUint32(start + 4, 0x004e4942, true);
			for (const { data, at } of this.#chunks)
				out.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), start + 8 + at);
		}
		return out;
	}

	#node(node: Json): number {
		return this.#json.nodes.push(node) - 1;
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
					POSITION: this.#positions(floats(table, 'position')),
					...this.#columns(table.columns, null, table.count)
				}
			});
		}
		const made = primitives.length
			? this.#json.meshes.push({ name: `Mesh ${this.#json.meshes.length + 1}`, primitives }) - 1
			: null;
		this.#meshes.set(geometry, made);
		return made;
	}

	/** One primitive for each material. Corners that share point, normal, UV and chosen attributes share a vertex. */
	#faces(mesh: Mesh, materials: readonly Material[]): Json[] {
		const { corners, faces } = trianglesOf(mesh);
		const materialOf = mesh.faces.columns.get('material')?.data;
		const groups = new Map<number, number[]>();
		const shown = mesh.faces.columns.get('shown')?.data;
		for (let t = 0; t < faces.length; t++) {
			if (shown && !shown[faces[t]]) continue;
			const m = materialOf ? materialOf[faces[t]] : materials.length ? 0 : -1;
			const group = groups.get(m);
			if (group) group.push(t);
			else groups.set(m, [t]);
		}
		const normals = cornerNormals(mesh);
		const uv = mesh.corners.columns.get('uv')?.data as Float32Array | undefined;
		const p = floats(mesh.points, 'position');
		const faceOf = faceOfCorner(mesh);
		// Attributes of corners and faces, unless the points have one of the same name: vertices part where they differ.
		const chosen = this.#attributes.filter(({ name }) => !mesh.points.columns.has(name));
		const onCorners = chosenColumns(mesh.corners.columns, chosen);
		const onFaces = chosenColumns(
			mesh.faces.columns,
			chosen.filter(({ name }) => !onCorners.has(name))
		);
		const alike = (a: number, b: number): boolean =>
			same(a, b, normals, uv) &&
			equalRows(onCorners, a, b) &&
			(onFaces.size === 0 || equalRows(onFaces, faceOf[a], faceOf[b]));
		const out: Json[] = [];
		for (const [m, triangles] of [...groups].sort((a, b) => a[0] - b[0])) {
			const vertexCorner: number[] = [];
			const indices = new Uint32Array(triangles.length * 3);
			const firstOf = new Map<number, number[]>();
			triangles.forEach((t, i) => {
				for (let k = 0; k < 3; k++) {
					const c = corners[3 * t + k];
					const point = mesh.topology.cornerPoints[c];
					let list = firstOf.get(point);
					if (!list) firstOf.set(point, (list = []));
					let vertex = list.find((v) => alike(vertexCorner[v], c));
					if (vertex === undefined) {
						vertex = vertexCorner.push(c) - 1;
						list.push(vertex);
					}
					indices[3 * i + k] = vertex;
				}
			});
			const n = vertexCorner.length;
			const positions = new Float32Array(3 * n),
				normal = new Float32Array(3 * n);
			const rows = new Uint32Array(n);
			vertexCorner.forEach((c, i) => {
				rows[i] = mesh.topology.cornerPoints[c];
				for (let k = 0; k < 3; k++) {
					positions[3 * i + k] = p[3 * rows[i] + k];
					normal[3 * i + k] = normals[3 * c + k];
				}
			});
			const attributes: Json = {
				POSITION: this.#positions(positions),
				NORMAL: this.#accessor(unitised(normal), 'VEC3', 34962)
			};
			if (uv) {
				const texture = new Float32Array(2 * n);
				vertexCorner.forEach((c, i) => {
					texture[2 * i] = uv[2 * c];
					texture[2 * i + 1] = 1 - uv[2 * c + 1];
				});
				attributes.TEXCOORD_0 = this.#accessor(texture, 'VEC2', 34962);
			}
			Object.assign(
				attributes,
				this.#columns(mesh.points.columns, rows, n),
				this.#columns(onCorners, Uint32Array.from(vertexCorner), n),
				this.#columns(
					onFaces,
					Uint32Array.from(vertexCorner, (c) => faceOf[c]),
					n
				)
			);
			const small = n <= 65535;
			out.push({
				attributes,
				mode: 4,
				indices: this.#accessor(small ? Uint16Array.from(indices) : indices, 'SCALAR', 34963),
				...(materials[m] && { material: this.#material(materials[m]) })
			});
		}
		return out;
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
				indices: this.#accessor(Uint32Array.from(pairs), 'SCALAR', 34963),
				attributes: {
					POSITION: this.#positions(floats(points, 'position')),
					...this.#columns(table.columns, curveOf, points.count),
					...this.#columns(points.columns, null, points.count)
				}
			}
		];
	}

	/** A node with instancing for each source that is one level deep and does not shear; others are written as nodes. */
	#copies(instances: Instances): number[] {
		const nodes: number[] = [];
		const deep = instances.linear !== null || instances.sources.some((source) => source.copies);
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
				if (!rows) return data;
				const out = new Float32Array(count * width);
				for (let i = 0; i < count; i++)
					for (let k = 0; k < width; k++) out[i * width + k] = data[rows[i] * width + k];
				return out;
			};
			const attributes: Json = {
				TRANSLATION: this.#accessor(take('position', 3), 'VEC3'),
				ROTATION: this.#accessor(unitised(take('orientation', 4), 4), 'VEC4'),
				SCALE: this.#accessor(take('scale', 3), 'VEC3'),
				...this.#columns(copies.columns, rows, count, false)
			};
			this.#instancing = true;
			nodes.push(
				this.#node({ name: `Copies ${s + 1}`, mesh, extensions: { EXT_mesh_gpu_instancing: { attributes } } })
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
				TRANSLATION: this.#accessor(moves.subarray(0, 3 * plain), 'VEC3'),
				ROTATION: this.#accessor(unitised(turns.subarray(0, 4 * plain), 4), 'VEC4'),
				SCALE: this.#accessor(scales.subarray(0, 3 * plain), 'VEC3')
			};
			nodes.push(this.#node({ mesh, extensions: { EXT_mesh_gpu_instancing: { attributes } } }));
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
		const within = this.#node({ mesh, rotation: [-inner[0], -inner[1], -inner[2], inner[3]] });
		return this.#node({ translation: [...map.subarray(9, 12)], rotation: outer, scale, children: [within] });
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
			out[attributeName(as)] = this.#accessor(
				data,
				['SCALAR', 'VEC2', 'VEC3', 'VEC4'][width - 1],
				vertices ? 34962 : undefined
			);
		}
		return out;
	}

	#positions(data: Float32Array): number {
		const min = [Infinity, Infinity, Infinity],
			max = [-Infinity, -Infinity, -Infinity];
		for (let i = 0; i < data.length; i += 3)
			for (let k = 0; k < 3; k++) {
				if (data[i + k] < min[k]) min[k] = data[i + k];
				if (data[i + k] > max[k]) max[k] = data[i + k];
			}
		return this.#accessor(data, 'VEC3', 34962, { min, max });
	}

	#accessor(
		data: Float32Array | Uint32Array | Uint16Array,
		type: string,
		target?: number,
		more: Json = {}
	): number {
		this.#chunks.push({ data, at: this.#length });
		const view =
			this.#json.bufferViews.push({
				buffer: 0,
				byteOffset: this.#length,
				byteLength: data.byteLength,
				...(target && { target })
			}) - 1;
		this.#length += data.byteLength + ((4 - (data.byteLength % 4)) % 4);
		const component = data instanceof Float32Array ? 5126 : data instanceof Uint32Array ? 5125 : 5123;
		const width = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4 }[type]!;
		return (
			this.#json.accessors.push({
				bufferView: view,
				componentType: component,
				count: data.length / width,
				type,
				...more
			}) - 1
		);
	}

	#material(material: Material): number {
		const key = JSON.stringify(material);
		let place = this.#materials.get(key);
		if (place === undefined) {
			place =
				this.#json.materials.push({
					name: material.name,
					pbrMetallicRoughness: {
						baseColorFactor: material.colour,
						metallicFactor: material.metal,
						roughnessFactor: material.roughness
					},
					...(material.twoSided && { doubleSided: true }),
					...(material.colour[3] < 1 && { alphaMode: 'BLEND' })
				}) - 1;
			this.#materials.set(key, place);
		}
		return place;
	}
}

/** glTF wants the application's own attributes in capitals behind an underscore. */
export const attributeName = (name: string): string =>
	'_' +
	name
		.replace(/^_+/, '')
		.toUpperCase()
		.replace(/[^A-Z0-9_]/g, '_');

function faceOfCorner({ topology: { faceStarts, cornerPoints } }: Mesh): Uint32Array {
	const out = new Uint32Array(cornerPoints.length);
	for (let f = 0; f + 1 < faceStarts.length; f++) out.fill(f, faceStarts[f], faceStarts[f + 1]);
	return out;
}

const chosenColumns = (
	columns: ReadonlyMap<string, Column>,
	chosen: readonly { name: string }[]
): Map<string, Column> => new Map([...columns].filter(([name]) => chosen.some((one) => one.name === name)));

function equalRows(columns: ReadonlyMap<string, Column>, a: number, b: number): boolean {
	for (const { type, data } of columns.values())
		for (let k = 0, width = WIDTH[type]; k < width; k++)
			if (data[a * width + k] !== data[b * width + k]) return false;
	return true;
}

function same(a: number, b: number, normals: Float32Array, uv: Float32Array | undefined): boolean {
	for (let k = 0; k < 3; k++) if (Math.abs(normals[3 * a + k] - normals[3 * b + k]) > 1e-6) return false;
	return !uv || (uv[2 * a] === uv[2 * b] && uv[2 * a + 1] === uv[2 * b + 1]);
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
