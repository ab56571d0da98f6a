/**
 * glTF 2.0 in its binary form. Copies are written as `EXT_mesh_gpu_instancing`, with chosen attributes as `_NAME`, or
 * flattened; curves as lines, loose points as points.
 */
import { quaternion } from '../math/index.ts';
import type { Column, Geometry, Instances, Placed } from '../geometry/index.ts';
import {
	affineAt,
	expand,
	floats,
	gatherColumn,
	geometryOf,
	matrix,
	splitLinear,
	shears
} from '../geometry/index.ts';
import type { CameraShot } from './camera-shot.ts';
import { addCamera } from './camera-shot.ts';
import { GlbFile } from './glb-file.ts';
import type { Json } from './glb-file.ts';
import { GlbMeshes, rowsOf, unitised } from './glb-meshes.ts';
import type { AttributeNames } from './glb-meshes.ts';
import { attributesOfCopies, meshOfCopies } from '../kernels/mesh-of-copies.ts';

export interface GlbOptions {
	/** Write every copy as faces of its own, for programs that do not know instancing. */
	flatten?: boolean;
	/** Attributes to write, and under which names. */
	attributes?: AttributeNames;
	/** The name of the scene. */
	name?: string;
	/** What was made, as its node is called: the objects bear that name. */
	object?: string;
	cameras?: readonly CameraShot[];
}

/** Writes a geometry. Throws NodeError where it is too large for the format. */
export function writeGlb(geometry: Geometry, options: GlbOptions = {}): Uint8Array {
	return new Writer(options).write(options.flatten && geometry.copies ? meshOfCopies(geometry) : geometry);
}

type NineNumbers = [number, number, number, number, number, number, number, number, number];

class Writer {
	readonly #options: GlbOptions;
	readonly #file = new GlbFile();
	readonly #meshes: GlbMeshes;
	#instancing = false;
	#deep = 0;

	constructor(options: GlbOptions) {
		this.#options = options;
		this.#meshes = new GlbMeshes(this.#file, options.attributes, this.#objectName);
	}

	get #objectName(): string {
		return this.#options.object || this.#options.name || 'Geometry';
	}

	write(geometry: Geometry): Uint8Array {
		const roots: number[] = [];
		const own = this.#meshes.mesh({ ...geometry, copies: null });
		if (own !== null) roots.push(this.#file.node({ name: this.#objectName, mesh: own }));
		if (geometry.copies?.copies.count) roots.push(...this.#copies(geometry.copies));
		for (const shot of this.#options.cameras ?? []) roots.push(addCamera(this.#file, shot));
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

	/** A node with instancing for each source that is one level deep and does not shear; others are written as nodes. */
	#copies(instances: Instances): number[] {
		const nodes: number[] = [];
		const deep = shears(instances.copies) || instances.sources.some((source) => source.copies);
		const { copies, sources } = instances;
		const source = copies.columns.get('source')!.data,
			shown = copies.columns.get('shown')?.data;
		if (deep) return this.#deepCopies(instances);
		sources.forEach((one, s) => {
			const mesh = this.#meshes.mesh(one);
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
				...this.#meshes.colours(copies.columns, rows, count, '_COLOR_0'),
				...this.#meshes.columns(copies.columns, rows, count, false)
			};
			this.#instancing = true;
			nodes.push(
				this.#file.node({
					name: `${this.#objectName} copies ${s + 1}`,
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
		for (const placed of expand(geometryOf({ copies: instances }))) {
			const { geometry, matrices, count } = placed;
			const mesh = matrices && this.#meshes.mesh(geometry);
			if (!matrices || mesh === null) continue;
			const moves = new Float32Array(3 * count),
				turns = new Float32Array(4 * count),
				scales = new Float32Array(3 * count);
			let plain = 0;
			const rows = new Uint32Array(count);
			for (let i = 0; i < count; i++) {
				const map = affineAt(matrices, i);
				const parts = matrix.decompose(map);
				if (parts) {
					moves.set(map.subarray(9), 3 * plain);
					turns.set(parts.q, 4 * plain);
					rows[plain] = i;
					scales.set(parts.scale, 3 * plain++);
				} else nodes.push(this.#shearedNode(map, mesh));
			}
			if (!plain) continue;
			this.#instancing = true;
			const attributes = {
				TRANSLATION: this.#file.accessor(moves.subarray(0, 3 * plain), 'VEC3'),
				ROTATION: this.#file.accessor(unitised(turns.subarray(0, 4 * plain), 4), 'VEC4'),
				SCALE: this.#file.accessor(scales.subarray(0, 3 * plain), 'VEC3'),
				...this.#ofCopies(placed, rows.subarray(0, plain))
			};
			nodes.push(
				this.#file.node({
					name: `${this.#objectName} copies ${++this.#deep}`,
					mesh,
					extensions: { EXT_mesh_gpu_instancing: { attributes } }
				})
			);
		}
		return nodes;
	}

	/** What the copies that some places lie in have: their colours, and the attributes that are asked for. */
	#ofCopies(placed: Placed, places: Uint32Array): Json {
		const columns = new Map(
			attributesOfCopies(placed).map(([name, column, rows]): [string, Column] => [
				name,
				gatherColumn(
					column,
					places.map((place) => rows[place])
				)
			])
		);
		return {
			...this.#meshes.colours(columns, null, places.length, '_COLOR_0'),
			...this.#meshes.columns(columns, null, places.length, false)
		};
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
