/**
 * A GLB being written: its lists of accessors, meshes, nodes and materials, and the binary chunk behind them. Written by
 * hand: the usual library took 4.4 times as long as the bytes alone.
 */
import { NodeError, formatCount } from '../math/index.ts';
import type { Material } from '../geometry/index.ts';

export interface Json {
	[key: string]: unknown;
}

/** GLB counts bytes in 32 bits. */
const MOST_BYTES = 4_294_967_295;
/** What a buffer view is for. */
export const VERTICES = 34962;
const INDICES = 34963;

export class GlbFile {
	readonly lists = {
		accessors: [] as Json[],
		bufferViews: [] as Json[],
		meshes: [] as Json[],
		nodes: [] as Json[],
		cameras: [] as Json[],
		materials: [] as Json[]
	};
	#chunks: { data: ArrayBufferView; at: number }[] = [];
	#length = 0;
	#materials = new Map<string, number>();

	/** The bytes of the file, with what else the JSON says. Throws NodeError where they are too many for the format. */
	bytes(more: Json): Uint8Array {
		const json: Json = { ...more };
		for (const [key, list] of Object.entries(this.lists)) if (list.length) json[key] = list;
		if (this.#length) json.buffers = [{ byteLength: this.#length }];
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

	node(node: Json): number {
		return this.lists.nodes.push(node) - 1;
	}

	indices(data: Uint32Array | Uint16Array): number {
		return this.accessor(data, 'SCALAR', INDICES);
	}

	/** Positions of vertices, with the bounds that the format asks for. */
	positions(data: Float32Array): number {
		const min = [Infinity, Infinity, Infinity],
			max = [-Infinity, -Infinity, -Infinity];
		for (let i = 0; i < data.length; i += 3)
			for (let k = 0; k < 3; k++) {
				if (data[i + k] < min[k]) min[k] = data[i + k];
				if (data[i + k] > max[k]) max[k] = data[i + k];
			}
		return this.accessor(data, 'VEC3', VERTICES, { min, max });
	}

	/** Numbers in the binary chunk; gives the accessor's place. */
	accessor(
		data: Float32Array | Uint32Array | Uint16Array,
		type: string,
		target?: number,
		more: Json = {}
	): number {
		this.#chunks.push({ data, at: this.#length });
		const view =
			this.lists.bufferViews.push({
				buffer: 0,
				byteOffset: this.#length,
				byteLength: data.byteLength,
				...(target && { target })
			}) - 1;
		this.#length += data.byteLength + ((4 - (data.byteLength % 4)) % 4);
		const component = data instanceof Float32Array ? 5126 : data instanceof Uint32Array ? 5125 : 5123;
		const width = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4 }[type]!;
		return (
			this.lists.accessors.push({
				bufferView: view,
				componentType: component,
				count: data.length / width,
				type,
				...more
			}) - 1
		);
	}

	/** The place of a material; the same for the same one. */
	material(material: Material): number {
		const key = JSON.stringify(material);
		let place = this.#materials.get(key);
		if (place === undefined) {
			place =
				this.lists.materials.push({
					name: material.name,
					pbrMetallicRoughness: {
						baseColorFactor: material.colour,
						metallicFactor: material.metallic,
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
