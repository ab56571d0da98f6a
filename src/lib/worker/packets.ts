/** Geometry as the View draws it. Objects are named by identity, so that what did not change is not sent again. */
import type { Column, Curves, Geometry, Mesh, Placed } from '../../../core/index.ts';
import {
	Memory,
	cornerNormals,
	derive,
	edgesOf,
	expand,
	floats,
	trianglesOf,
	withMemory
} from '../../../core/index.ts';
import { evenly } from './evenly.ts';
import type { Heat } from './heat.ts';
import { coloursOf } from './heat.ts';
import type { Packet, PacketObject } from './messages.ts';

const names = new WeakMap<object, string>();
let named = 0;
const nameOf = (object: object): string => {
	let name = names.get(object);
	if (!name) names.set(object, (name = `o${++named}`));
	return name;
};

/** Draws at most this many places. */
const MOST_PLACES = 4_000_000;

/** Makes packets, and remembers what the page already has. */
export class Packer {
	#sent = new Set<string>();
	readonly #shared: boolean;

	constructor(shared: boolean) {
		this.#shared = shared;
	}

	pack(
		nodes: readonly { node: string; geometry: Geometry; ghost: boolean }[],
		wireframe: boolean,
		heat: Heat | null = null
	): Packet {
		const packet: Packet = { objects: [], draws: [] };
		const used = new Set<string>();
		const need = (key: string, make: () => Omit<PacketObject, 'key'>): string => {
			used.add(key);
			if (!this.#sent.has(key)) {
				this.#sent.add(key);
				packet.objects.push({ ...make(), key });
			}
			return key;
		};
		for (const { node, geometry, ghost } of nodes)
			for (const placed of derive(geometry, 'placed', () => this.#places(geometry))) {
				// What is not copied is read on the geometry itself, so that a heat map's numbers are worked out once.
				const own = placed.matrices ? placed.geometry : geometry;
				const { mesh, curves, points } = own;
				const keys: string[] = [];
				// Copies are coloured as wholes, what is not copied point by point.
				const hot = ghost || placed.matrices ? null : heat;
				const mark = hot ? ` heat ${hot.key}` : '';
				if (mesh?.faces.count)
					keys.push(
						need(`${nameOf(mesh)} ${nameOf(own.materials)}${wireframe ? ' w' : ''}${mark}`, () =>
							this.#mesh(mesh, own, wireframe, hot)
						)
					);
				if (curves?.points.count) keys.push(need(nameOf(curves) + mark, () => this.#lines(curves, own, hot)));
				if (points?.points.count) {
					const position = points.points.columns.get('position') as Column;
					keys.push(
						need(`${nameOf(position)} p${mark}`, () => ({
							kind: 'points',
							positions: floats(points.points, 'position'),
							colours: this.#colours(hot?.read(own, 'points') ?? null, null, points.points.count)
						}))
					);
				}
				if (!keys.length) continue;
				let matricesKey: string | null = null;
				let matrices: Float32Array | null = null;
				if (placed.matrices) {
					matricesKey = nameOf(placed.matrices);
					used.add(matricesKey);
					if (!this.#sent.has(matricesKey)) {
						this.#sent.add(matricesKey);
						matrices = placed.matrices;
					}
				}
				const onCopies = placed.origins && !ghost && heat ? heat.read(geometry, 'copies') : null;
				const colours = this.#colours(onCopies, placed.origins, placed.count);
				keys.forEach((object, i) =>
					packet.draws.push({
						colours,
						object,
						matricesKey,
						matrices: i === 0 ? matrices : null,
						count: placed.count,
						node,
						ghost
					})
				);
			}
		for (const key of this.#sent) if (!used.has(key)) this.#sent.delete(key);
		if (heat) packet.heat = heat.facts(nodes.filter(({ ghost }) => !ghost).map(({ geometry }) => geometry));
		return packet;
	}

	#colours(numbers: Float32Array | null, rows: ArrayLike<number> | null, count: number): Uint8Array | null {
		if (!numbers) return null;
		const bytes = 3 * count;
		return coloursOf(
			numbers,
			rows,
			this.#shared ? new Uint8Array(new SharedArrayBuffer(bytes)) : new Uint8Array(bytes)
		);
	}

	#floats(length: number): Float32Array {
		return this.#shared ? new Float32Array(new SharedArrayBuffer(length * 4)) : new Float32Array(length);
	}

	/** Matrices in shared memory where it can be had, so that the page takes them as they are. */
	#places(geometry: Geometry): Placed[] {
		return withMemory(new Memory(MOST_PLACES * 100, this.#shared), () =>
			expand(geometry, MOST_PLACES).map((placed) =>
				evenly(geometry, placed, (length) => this.#floats(length))
			)
		);
	}

	/** Triangles with normals, sorted into runs by material. */
	#mesh(mesh: Mesh, geometry: Geometry, wireframe: boolean, heat: Heat | null): Omit<PacketObject, 'key'> {
		const { corners, faces } = trianglesOf(mesh);
		const normalsOf = cornerNormals(mesh);
		const p = floats(mesh.points, 'position');
		const { cornerPoints } = mesh.topology;
		const visible = mesh.faces.columns.get('shown')?.data;
		const drawn = visible ? Uint32Array.from(faces.keys()).filter((t) => visible[faces[t]]) : null;
		const count = drawn ? drawn.length : faces.length;
		const materialOf = mesh.faces.columns.get('material')?.data;
		const materials = geometry.materials;
		const slot = (t: number) => (materialOf ? materialOf[faces[t]] : materials.length ? 0 : -1);
		const order = new Map<number, number>();
		const triangle = (i: number) => (drawn ? drawn[i] : i);
		for (let i = 0; i < count; i++) order.set(slot(triangle(i)), (order.get(slot(triangle(i))) ?? 0) + 1);
		const starts = new Map<number, number>();
		const groups: PacketObject['groups'] = [];
		let at = 0;
		for (const [m, size] of [...order].sort((a, b) => a[0] - b[0])) {
			starts.set(m, at);
			groups.push({ start: 3 * at, count: 3 * size, material: materials[m] ?? null });
			at += size;
		}
		// Corners that share point and normal share a vertex: chains of vertices by point, as in `edgesOf`.
		const first = new Int32Array(mesh.points.count).fill(-1);
		const next = new Int32Array(3 * count);
		const cornerOf = new Uint32Array(3 * count);
		const index = this.#shared
			? new Uint32Array(new SharedArrayBuffer(12 * count))
			: new Uint32Array(3 * count);
		let vertices = 0;
		for (let i = 0; i < count; i++) {
			const t = triangle(i);
			const m = slot(t);
			const place = starts.get(m)!;
			starts.set(m, place + 1);
			for (let k = 0; k < 3; k++) {
				const c = corners[3 * t + k];
				const point = cornerPoints[c];
				let v = first[point];
				while (v >= 0 && !sameNormal(normalsOf, cornerOf[v], c)) v = next[v];
				if (v < 0) {
					v = vertices++;
					cornerOf[v] = c;
					next[v] = first[point];
					first[point] = v;
				}
				index[3 * place + k] = v;
			}
		}
		const positions = this.#floats(3 * vertices),
			normals = this.#floats(3 * vertices);
		for (let v = 0; v < vertices; v++) {
			const c = cornerOf[v];
			const q = 3 * cornerPoints[c];
			for (let k = 0; k < 3; k++) {
				positions[3 * v + k] = p[q + k];
				normals[3 * v + k] = normalsOf[3 * c + k];
			}
		}
		let edges: Float32Array | null = null;
		if (wireframe) {
			const ends = edgesOf(mesh.topology).points;
			edges = this.#floats(ends.length * 3);
			for (let i = 0; i < ends.length; i++) for (let k = 0; k < 3; k++) edges[3 * i + k] = p[3 * ends[i] + k];
		}
		const points = heat && Uint32Array.from({ length: vertices }, (_, v) => cornerPoints[cornerOf[v]]);
		const colours = this.#colours(heat?.read(geometry, 'mesh') ?? null, points, vertices);
		return { kind: 'mesh', positions, normals, index, groups, edges, colours };
	}

	#lines(curves: Curves, geometry: Geometry, heat: Heat | null): Omit<PacketObject, 'key'> {
		const p = floats(curves.points, 'position');
		const closed = curves.curves.columns.get('closed')!.data;
		const pieces: number[] = [];
		for (let c = 0; c + 1 < curves.starts.length; c++) {
			for (let i = curves.starts[c]; i + 1 < curves.starts[c + 1]; i++) pieces.push(i, i + 1);
			if (closed[c] && curves.starts[c + 1] - curves.starts[c] > 2)
				pieces.push(curves.starts[c + 1] - 1, curves.starts[c]);
		}
		const out = this.#floats(pieces.length * 3);
		for (let i = 0; i < pieces.length; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = p[3 * pieces[i] + k];
		const colours = this.#colours(heat?.read(geometry, 'curves') ?? null, pieces, pieces.length);
		return { kind: 'lines', positions: out, colours };
	}
}

const sameNormal = (normals: Float32Array, a: number, b: number): boolean =>
	Math.abs(normals[3 * a] - normals[3 * b]) < 1e-5 &&
	Math.abs(normals[3 * a + 1] - normals[3 * b + 1]) < 1e-5 &&
	Math.abs(normals[3 * a + 2] - normals[3 * b + 2]) < 1e-5;
