/** The parts of a GLB as they are read: its two chunks, its description, and the numbers of its accessors. */
import { z } from 'zod';
import { NodeError, formatCount } from '../math/index.ts';
import { pollAt } from '../geometry/index.ts';
import { MOST_IN_FILE } from './polygons.ts';

const count = z.number().int().min(0);
/** What is read of a glTF’s description. */
export const gltfSchema = z.object({
	asset: z.object({ version: z.string() }),
	extensionsRequired: z.array(z.string()).default([]),
	animations: z.array(z.object({ name: z.string().optional() })).default([]),
	skins: z.array(z.object({})).default([]),
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
export type Gltf = z.infer<typeof gltfSchema>;

const WIDTHS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };
const BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
/** Values of whole-number components that mean 1. */
const FULL: Record<number, number> = { 5120: 127, 5121: 255, 5122: 32767, 5123: 65535 };
/** The description and the binary chunk. Throws NodeError where the file is cut off or broken. */
export function chunksOf(bytes: Uint8Array, name: string): { json: unknown; binary: Uint8Array } {
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
				throw new NodeError(`${name} is broken: its description is not JSON.`);
			}
		} else if (kind === 0x004e4942) binary = chunk as never;
		at += 8 + size + ((4 - (size % 4)) % 4);
	}
	return { json, binary };
}

/** Reads accessors as floats, with every declared length checked before memory is taken. */
export class AccessorReader {
	readonly #gltf: Gltf;
	readonly #binary: Uint8Array;
	readonly #name: string;
	constructor(gltf: Gltf, binary: Uint8Array, name: string) {
		this.#gltf = gltf;
		this.#binary = binary;
		this.#name = name;
	}

	/** How many numbers each element has, and how many elements there are; none where there is no such accessor. */
	shapeOf(index: number): { width: number; count: number } {
		const accessor = this.#gltf.accessors[index];
		return accessor ? { width: WIDTHS[accessor.type] ?? 0, count: accessor.count } : { width: 0, count: 0 };
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
		if (scale !== 1)
			for (let i = 0; i < data.length; i++) {
				pollAt(i);
				data[i] *= scale;
			}
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
				pollAt(i);
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
