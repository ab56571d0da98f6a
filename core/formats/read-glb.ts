/** glTF 2.0 in its binary form: meshes of all nodes with their materials, moved to where their nodes stand. */
import { z } from 'zod';
import { NodeError, formatCount } from '../math/index.ts';
import type { Geometry, Material } from '../geometry/index.ts';
import { geometryOf, matrix, mergeGeometries, transformGeometry, pollAt } from '../geometry/index.ts';
import { MOST_IN_FILE, geometryFrom } from './polygons.ts';
import type { MeshRead } from './read-mesh.ts';

const count = z.number().int().min(0);
const schema = z.object({
	asset: z.object({ version: z.string() }),
	extensionsRequired: z.array(z.string()).default([]),
	scene: count.optional(),
	scenes: z.array(z.object({ nodes: z.array(count).default([]) })).default([]),
	nodes: z
		.array(
			z.object({
				mesh: count.optional(),
				children: z.array(count).default([]),
				matrix: z.array(z.number()).length(16).optional(),
				translation: z.array(z.number()).length(3).optional(),
				rotation: z.array(z.number()).length(4).optional(),
				scale: z.array(z.number()).length(3).optional(),
				extensions: z
					.object({
						EXT_mesh_gpu_instancing: z.object({ attributes: z.record(z.string(), count) }).optional()
					})
					.optional()
			})
		)
		.max(200_000)
		.default([]),
	meshes: z
		.array(
			z.object({
				primitives: z.array(
					z.object({
						attributes: z.record(z.string(), count),
						indices: count.optional(),
						material: count.optional(),
						mode: count.default(4)
					})
				)
			})
		)
		.default([]),
	accessors: z
		.array(
			z.object({
				bufferView: count.optional(),
				byteOffset: count.default(0),
				componentType: count,
				normalized: z.boolean().default(false),
				count,
				type: z.string(),
				sparse: z
					.object({
						count,
						indices: z.object({ bufferView: count, byteOffset: count.default(0), componentType: count }),
						values: z.object({ bufferView: count, byteOffset: count.default(0) })
					})
					.optional()
			})
		)
		.default([]),
	bufferViews: z
		.array(
			z.object({
				buffer: count,
				byteOffset: count.default(0),
				byteLength: count,
				byteStride: count.optional()
			})
		)
		.default([]),
	buffers: z.array(z.object({ uri: z.string().optional(), byteLength: count })).default([]),
	materials: z
		.array(
			z.object({
				name: z.string().default('Material'),
				doubleSided: z.boolean().default(false),
				pbrMetallicRoughness: z
					.object({
						baseColorFactor: z.array(z.number()).length(4).default([1, 1, 1, 1]),
						metallicFactor: z.number().default(1),
						roughnessFactor: z.number().default(1),
						baseColorTexture: z.unknown().optional()
					})
					.prefault({})
			})
		)
		.default([])
});
type Gltf = z.infer<typeof schema>;

const WIDTHS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };
const BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
/** Values of whole-number components that mean 1. */
const FULL: Record<number, number> = { 5120: 127, 5121: 255, 5122: 32767, 5123: 65535 };
/** The extensions that change nothing about meshes, or that are read. */
const HARMLESS = new Set([
	'KHR_materials_unlit',
	'KHR_texture_transform',
	'KHR_mesh_quantization',
	'EXT_mesh_gpu_instancing',
	'KHR_lights_punctual'
]);
const DEEPEST = 64;

/** Reads a GLB. Throws NodeError with what is wrong. */
export function readGlb(bytes: Uint8Array, name: string): MeshRead {
	const { json, binary } = chunksOf(bytes, name);
	const parsed = schema.safeParse(json);
	if (!parsed.success) {
		const issue = parsed.error.issues[0];
		throw new NodeError(`${name} is no sound glTF: ${issue.path.join('.')}: ${issue.message.toLowerCase()}.`);
	}
	const gltf = parsed.data;
	if (!gltf.asset.version.startsWith('2'))
		throw new NodeError(`${name} is glTF ${gltf.asset.version.slice(0, 10)}; version 2 is read.`);
	const needed = gltf.extensionsRequired.filter((one) => !HARMLESS.has(one));
	if (needed.length)
		throw new NodeError(
			`${name} needs ${needed.slice(0, 3).join(', ')}, which is not read. Export it without compression.`
		);
	if (gltf.buffers.some((buffer, i) => buffer.uri !== undefined || i > 0))
		throw new NodeError(
			`${name} refers to another file for its data; only what is inside the GLB is read. Export it with everything embedded.`
		);
	const reader = new AccessorReader(gltf, binary, name);
	const warnings: string[] = [];
	if (gltf.materials.some((m) => m.pbrMetallicRoughness.baseColorTexture))
		warnings.push('Pictures on materials are not read yet; the plain colours are kept.');
	const materials = gltf.materials.map((m): Material => ({
		name: m.name.slice(0, 200),
		colour: m.pbrMetallicRoughness.baseColorFactor as never,
		metal: m.pbrMetallicRoughness.metallicFactor,
		roughness: m.pbrMetallicRoughness.roughnessFactor,
		twoSided: m.doubleSided
	}));
	const meshes = gltf.meshes.map((mesh, m) => {
		const parts = mesh.primitives.flatMap((primitive, k) => {
			if (primitive.mode < 4) {
				warnings.push('Points and lines of the file are no faces and were left out.');
				return [];
			}
			return [readPrimitive(reader, primitive, materials, `mesh ${m + 1}, part ${k + 1}`, name)];
		});
		return parts.length ? mergeGeometries(parts) : null;
	});
	const placed: Geometry[] = [];
	const roots = gltf.scenes[gltf.scene ?? 0]?.nodes ?? gltf.nodes.map((_, i) => i);
	let visits = 0;
	const visit = (index: number, outer: Float64Array, depth: number) => {
		const node = gltf.nodes[index];
		if (!node) throw new NodeError(`${name} names node ${index}, but there are only ${gltf.nodes.length}.`);
		if (depth > DEEPEST || ++visits > 1_000_000)
			throw new NodeError(`${name} has nodes that contain one another without end.`);
		const own = node.matrix
			? Float64Array.of(
					...[0, 1, 2].flatMap((c) => node.matrix!.slice(4 * c, 4 * c + 3)),
					...node.matrix.slice(12, 15)
				)
			: matrix.compose(node.translation ?? [0, 0, 0], node.rotation ?? [0, 0, 0, 1], node.scale ?? [1, 1, 1]);
		const m = matrix.product(outer, own);
		const mesh = node.mesh === undefined ? null : meshes[node.mesh];
		const instancing = node.extensions?.EXT_mesh_gpu_instancing?.attributes;
		if (mesh && !instancing) placed.push(transformGeometry(mesh, m));
		else if (mesh && instancing) {
			const read = (key: string) => (instancing[key] === undefined ? null : reader.read(instancing[key]));
			const [t, r, s] = [read('TRANSLATION'), read('ROTATION'), read('SCALE')];
			const copies = Math.max(t ? t.length / 3 : 0, r ? r.length / 4 : 0, s ? s.length / 3 : 0);
			if (copies * (mesh.mesh?.points.count ?? 0) > MOST_IN_FILE)
				throw new NodeError(`${name} has too many copies to be read as faces.`);
			for (let i = 0; i < copies; i++)
				placed.push(
					transformGeometry(
						mesh,
						matrix.product(
							m,
							matrix.compose(
								t ?? [0, 0, 0],
								r ?? [0, 0, 0, 1],
								s ?? [1, 1, 1],
								undefined,
								t ? 3 * i : 0,
								r ? 4 * i : 0,
								s ? 3 * i : 0
							)
						)
					)
				);
		}
		for (const child of node.children) visit(child, m, depth + 1);
	};
	for (const root of roots) visit(root, matrix.identity(), 0);
	return {
		geometry: placed.length ? mergeGeometries(placed) : geometryOf({}),
		warnings: [...new Set(warnings)]
	};
}

function chunksOf(bytes: Uint8Array, name: string): { json: unknown; binary: Uint8Array } {
	if (bytes.length < 20) throw new NodeError(`${name} is cut off: it has only ${bytes.length} bytes.`);
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const length = view.getUint32(8, true);
	if (length > bytes.length)
		throw new NodeError(
			`${name} is cut off: it says it has ${formatCount(length)} bytes, but ${formatCount(bytes.length)} came.`
		);
	let json: unknown = null;
	let binary = new Uint8Array(0);
	for (let at = 12; at + 8 <= length;) {
		const size = view.getUint32(at, true),
			kind = view.getUint32(at + 4, true);
		if (at + 8 + size > length) throw new NodeError(`${name} is cut off within one of its chunks.`);
		const chunk = bytes.subarray(at + 8, at + 8 + size);
		if (kind === 0x4e4f534a) {
			if (size > 50_000_000)
				throw new NodeError(
					`${name} has a description of ${formatCount(size)} bytes; 50,000,000 are read at most.`
				);
			try {
				json = JSON.parse(new TextDecoder().decode(chunk));
			} catch {
				throw new NodeError(`${name} is broken: its description is no JSON.`);
			}
		} else if (kind === 0x004e4942) binary = chunk as never;
		at += 8 + size + ((4 - (size % 4)) % 4);
	}
	return { json, binary };
}

function readPrimitive(
	reader: AccessorReader,
	primitive: Gltf['meshes'][number]['primitives'][number],
	materials: Material[],
	where: string,
	name: string
): Geometry {
	const { POSITION, TEXCOORD_0, NORMAL } = primitive.attributes;
	if (POSITION === undefined) throw new NodeError(`${name}, ${where} has no positions.`);
	const positions = reader.read(POSITION, 3);
	const indices =
		primitive.indices === undefined
			? Uint32Array.from({ length: positions.length / 3 }, (_, i) => i)
			: Uint32Array.from(reader.read(primitive.indices, 1));
	const corners =
		primitive.mode === 4
			? indices.slice(0, indices.length - (indices.length % 3))
			: fromStrip(indices, primitive.mode === 6);
	const faces = corners.length / 3;
	const perCorner = (index: number | undefined, width: number) => {
		if (index === undefined) return null;
		const source = reader.read(index, width);
		const out = new Float32Array(corners.length * width);
		for (let c = 0; c < corners.length; c++)
			for (let k = 0; k < width; k++) out[c * width + k] = source[corners[c] * width + k] ?? 0;
		return out;
	};
	const uvs = perCorner(TEXCOORD_0, 2);
	// glTF counts v downward, geometry upward.
	if (uvs) for (let i = 1; i < uvs.length; i += 2) uvs[i] = 1 - uvs[i];
	const material = primitive.material === undefined ? undefined : materials[primitive.material];
	return geometryFrom(
		{
			name,
			positions,
			starts: Uint32Array.from({ length: faces + 1 }, (_, f) => 3 * f),
			corners,
			uvs,
			normals: perCorner(NORMAL, 3),
			materials: material ? [material] : [],
			materialOf: material ? new Int32Array(faces) : null
		},
		() => where
	);
}

function fromStrip(indices: Uint32Array, fan: boolean): Uint32Array {
	const out: number[] = [];
	for (let i = 0; i + 2 < indices.length; i++) {
		pollAt(i);
		const [a, b, c] = fan
			? [indices[0], indices[i + 1], indices[i + 2]]
			: i % 2
				? [indices[i + 1], indices[i], indices[i + 2]]
				: [indices[i], indices[i + 1], indices[i + 2]];
		if (a !== b && b !== c && a !== c) out.push(a, b, c);
	}
	return Uint32Array.from(out);
}

/** Reads accessors as floats, with every declared length checked before memory is taken. */
class AccessorReader {
	readonly #gltf: Gltf;
	readonly #binary: Uint8Array;
	readonly #name: string;
	constructor(gltf: Gltf, binary: Uint8Array, name: string) {
		this.#gltf = gltf;
		this.#binary = binary;
		this.#name = name;
	}

	read(index: number, wanted?: number): Float32Array {
		const accessor = this.#gltf.accessors[index];
		const fail = (what: string): never => {
			throw new NodeError(`${this.#name} is broken: accessor ${index} ${what}.`);
		};
		if (!accessor) return fail('is missing');
		const width = WIDTHS[accessor.type] ?? 0;
		const size = BYTES[accessor.componentType] ?? 0;
		if (!width || !size || (wanted && width !== wanted))
			fail(`is of a kind that does not fit here (${accessor.type.slice(0, 10)})`);
		if (accessor.count * width > MOST_IN_FILE * 3) fail(`has ${formatCount(accessor.count)} elements`);
		if (accessor.bufferView === undefined && !accessor.sparse && accessor.count > 10_000_000)
			fail('is too large to be all zeros');
		const scale = accessor.normalized ? 1 / (FULL[accessor.componentType] ?? 1) : 1;
		const out = new Float32Array(accessor.bufferView === undefined ? accessor.count * width : 0);
		const data =
			accessor.bufferView === undefined
				? out
				: this.#slice(
						accessor.bufferView,
						accessor.byteOffset,
						accessor.componentType,
						accessor.count,
						width,
						fail
					);
		if (scale !== 1) for (let i = 0; i < data.length; i++) data[i] *= scale;
		if (accessor.sparse) {
			const { count, indices, values } = accessor.sparse;
			const rows = this.#slice(indices.bufferView, indices.byteOffset, indices.componentType, count, 1, fail);
			const replaced = this.#slice(
				values.bufferView,
				values.byteOffset,
				accessor.componentType,
				count,
				width,
				fail
			);
			for (let i = 0; i < count; i++) {
				if (rows[i] >= accessor.count) fail('has a sparse row that is not there');
				for (let k = 0; k < width; k++) data[rows[i] * width + k] = replaced[i * width + k] * scale;
			}
		}
		return data;
	}

	#slice(
		view: number,
		offset: number,
		component: number,
		count: number,
		width: number,
		fail: (what: string) => never
	): Float32Array {
		const from = this.#gltf.bufferViews[view];
		const size = BYTES[component];
		if (!from || !size) return fail('has no data');
		const stride = from.byteStride || width * size;
		const start = from.byteOffset + offset;
		const end = count ? start + (count - 1) * stride + width * size : start;
		if (end > this.#binary.length || end > from.byteOffset + from.byteLength)
			fail('reaches beyond the data: the file is cut off');
		const data = new DataView(this.#binary.buffer, this.#binary.byteOffset, this.#binary.byteLength);
		const out = new Float32Array(count * width);
		for (let i = 0, o = 0; i < count; i++)
			for (let k = 0; k < width; k++, o++) {
				pollAt(o);
				const at = start + i * stride + k * size;
				out[o] =
					component === 5126
						? data.getFloat32(at, true)
						: component === 5125
							? data.getUint32(at, true)
							: component === 5123
								? data.getUint16(at, true)
								: component === 5121
									? data.getUint8(at)
									: component === 5122
										? data.getInt16(at, true)
										: data.getInt8(at);
			}
		return out;
	}
}
