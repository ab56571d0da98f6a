/** Geometry as the View draws it. Objects are named by identity, so that what did not change is not sent again. */
import type { Bounds, Column, Curves, Geometry, Ledger, Mesh, PartName, Placed } from '../geometry/index.ts';
import {
	PART_NAMES,
	allocate,
	boundsOf,
	cornerNormals,
	derive,
	edgesOf,
	expand,
	filled,
	floats,
	identityOf,
	ofCopies,
	pollAt,
	scratch,
	together,
	triangleCount,
	trianglesOf
} from '../geometry/index.ts';
import { bundlesOf } from './bundles.ts';
import { evenly } from './evenly.ts';
import type { Heat, HeatNumbers } from './heat.ts';
import { coloursOf } from './heat.ts';
import { colourColumn, paintOf } from './paint.ts';
import type { Packet, PacketObject } from './messages.ts';

/** Draws at most this many places. */
const MOST_PLACES = 4_000_000;

/** What one packet shows. */
export interface Drawn {
	node: string;
	geometry: Geometry;
	ghost: boolean;
}

/** Makes packets, and remembers what the page already has. What it sends is held in the ledger until it is shown no more. */
export class Packer {
	/** What the page has, by name, with what is held of it. */
	readonly #sent = new Map<string, readonly object[]>();
	/** What is held of colours, which are sent with each packet. */
	#loose: object[] = [];
	readonly #ledger: Ledger;
	readonly #name: string;

	/**
	 * @param name no other packer of this page has it: one that follows after another must not name its buffers alike.
	 */
	constructor(ledger: Ledger, name = '') {
		this.#ledger = ledger;
		this.#name = name;
	}

	/** A packet of what is shown. Where it fails, what the page has counts as it did before. */
	pack(nodes: readonly Drawn[], wireframe: boolean, heat: Heat | null = null): Packet {
		return this.#ledger.work(() => {
			const packet: Packet = { objects: [], draws: [], triangles: 0 };
			const used = new Set<string>();
			const fresh = new Map<string, ArrayBufferView[]>();
			for (const drawn of nodes) this.#draw(drawn, { packet, used, fresh, wireframe, heat });
			if (heat) packet.heat = heat.facts(nodes.filter(({ ghost }) => !ghost).map(({ geometry }) => geometry));
			// Nothing can fail from here on.
			for (const [name, arrays] of fresh)
				this.#sent.set(
					name,
					arrays.map((array) => this.#ledger.holdArray(array))
				);
			const loose = packet.draws.flatMap(({ colours }) => (colours ? [this.#ledger.holdArray(colours)] : []));
			this.#letGo(this.#loose);
			this.#loose = loose;
			for (const [name, held] of this.#sent)
				if (!used.has(name)) {
					this.#letGo(held);
					this.#sent.delete(name);
				}
			return packet;
		});
	}

	/** Lets go of all that was sent: another packer follows. */
	close(): void {
		for (const held of this.#sent.values()) this.#letGo(held);
		this.#letGo(this.#loose);
		this.#sent.clear();
		this.#loose = [];
	}

	#letGo(held: readonly object[]): void {
		for (const thing of held) this.#ledger.letGo(thing);
	}

	#nameOf(object: object): string {
		return `${this.#name}o${identityOf(object)}`;
	}

	#draw({ node, geometry, ghost }: Drawn, at: Packing): void {
		const { packet, used, fresh, wireframe, heat } = at;
		const isNew = (name: string): boolean => {
			used.add(name);
			return !this.#sent.has(name) && !fresh.has(name);
		};
		const need = (name: string, make: () => Omit<PacketObject, 'key'>): string => {
			if (isNew(name)) {
				const object = { ...make(), key: name };
				fresh.set(name, arraysOf(object));
				packet.objects.push(object);
			}
			return name;
		};
		const all = derive(geometry, 'placed', () => placesOf(geometry));
		const { alone, bundles } =
			wireframe || heat || hasColours(geometry, all)
				? { alone: all, bundles: [] }
				: derive(geometry, 'bundles', () =>
						bundlesOf(all, ({ geometry: own }) => meshObject(own.mesh!, own, false, null, null))
					);
		bundles.forEach(({ make, triangles, from, count, of }, i) => {
			const object = need(`${this.#nameOf(geometry)} bundle ${i}`, make);
			if (!ghost) packet.triangles += triangles;
			packet.draws.push({
				object,
				share: { from, count, of },
				matricesKey: null,
				matrices: null,
				count: 1,
				node,
				ghost
			});
		});
		for (const placed of alone) {
			// What is not copied is read on the geometry itself, so that a heat map's numbers are worked out once.
			const own = placed.matrices ? placed.geometry : geometry;
			// Copies are coloured as wholes, what is not copied point by point.
			const hot = ghost || placed.matrices ? null : heat;
			const seen: Seen = { own, hot, ghost, wireframe, mark: hot ? ` heat ${hot.key}` : '' };
			const keys = PART_NAMES.flatMap((part) => {
				const object = OBJECTS[part](seen, (thing) => this.#nameOf(thing));
				return object ? need(object.name, object.make) : [];
			});
			if (!keys.length) continue;
			if (!ghost && own.mesh) packet.triangles += triangleCount(own.mesh) * placed.count;
			const matricesKey = placed.matrices && this.#nameOf(placed.matrices);
			const areNew = matricesKey !== null && isNew(matricesKey);
			if (areNew) fresh.set(matricesKey, [placed.matrices!]);
			const onCopies = placed.origins && !ghost && heat ? heat.read(geometry, 'copies') : null;
			// Sent with each packet, but worked out once.
			const painted =
				ghost || onCopies
					? null
					: derive(together(geometry, placed.levels), 'paint of copies', () => paintOfCopies(placed));
			const colours = painted ?? coloursFor(onCopies, placed.origins, placed.count);
			keys.forEach((object, i) =>
				packet.draws.push({
					colours,
					...(painted && { painted: true }),
					object,
					matricesKey,
					matrices: areNew && i === 0 ? placed.matrices : null,
					count: placed.count,
					node,
					ghost
				})
			);
		}
	}
}

/** Whether copies, or what they show, have colours of their own. */
const hasColours = (geometry: Geometry, all: readonly Placed[]): boolean =>
	derive(together(geometry, all), 'has colours', () =>
		all.some(
			(placed) =>
				colourColumn(placed.geometry, 'mesh', 'point') ||
				ofCopies(placed, (one) => colourColumn(one, 'copies', 'copy'))
		)
	);

/** The colours of the copies that places lie in, of the innermost that have some; null where none has. */
function paintOfCopies(placed: Placed): Uint8Array | null {
	const found = ofCopies(placed, (geometry) => colourColumn(geometry, 'copies', 'copy'));
	return found && paintOf(found.column, found.rows, placed.count);
}

/** What of one geometry is drawn, and how. */
interface Seen {
	own: Geometry;
	hot: Heat | null;
	ghost: boolean;
	wireframe: boolean;
	/** Of the heat map, in names. */
	mark: string;
}
/** An object of a packet: its name, which says all that it hangs from, and how it is made. */
interface Drawable {
	name: string;
	make: () => Omit<PacketObject, 'key'>;
}

/** How each part is drawn; null where there is nothing of it. */
const OBJECTS: Readonly<
	Record<PartName, (seen: Seen, nameOf: (thing: object) => string) => Drawable | null>
> = {
	mesh({ own, hot, ghost, wireframe, mark }, nameOf) {
		const { mesh } = own;
		if (!mesh?.faces.count) return null;
		const colours = hot || ghost ? null : colourColumn(own, 'mesh', 'point');
		return {
			name: `${nameOf(mesh)} ${nameOf(own.materials)}${wireframe ? ' w' : ''}${colours ? ` paint ${identityOf(colours)}` : mark}`,
			make: () => meshObject(mesh, own, wireframe, hot, colours)
		};
	},
	curves({ own, hot, mark }, nameOf) {
		const { curves } = own;
		return curves?.points.count
			? { name: nameOf(curves) + mark, make: () => linesObject(curves, own, hot) }
			: null;
	},
	points({ own, hot, mark }, nameOf) {
		if (!own.points?.points.count) return null;
		const table = own.points.points;
		return {
			name: `${nameOf(table.columns.get('position')!)} p${mark}`,
			make: () => ({
				kind: 'points',
				positions: floats(table, 'position'),
				colours: coloursFor(hot?.read(own, 'points') ?? null, null, table.count)
			})
		};
	},
	// What they show is drawn at their places.
	copies: () => null
};

/** A packet in the making. */
interface Packing {
	packet: Packet;
	used: Set<string>;
	fresh: Map<string, ArrayBufferView[]>;
	wireframe: boolean;
	heat: Heat | null;
}

/** The box around all that is shown, ghosts aside; null where there is nothing. */
export function boundsOfDrawn(nodes: readonly Drawn[]): Bounds | null {
	let all: Bounds | null = null;
	for (const { geometry, ghost } of nodes) {
		const own = ghost ? null : boundsOf(geometry);
		if (!own) continue;
		const low: number[] = all ? own.low.map((x, k) => Math.min(x, all!.low[k])) : own.low;
		const high: number[] = all ? own.high.map((x, k) => Math.max(x, all!.high[k])) : own.high;
		all = { low: low as Bounds['low'], high: high as Bounds['high'] };
	}
	return all;
}

const arraysOf = ({ positions, normals, index, edges, colours }: PacketObject): ArrayBufferView[] =>
	[positions, normals, index, edges, colours].filter((array) => !!array);

/** Matrices of all places, in an order of which every beginning is spread evenly. */
const placesOf = (geometry: Geometry): Placed[] =>
	expand(geometry, MOST_PLACES).map((placed) =>
		evenly(geometry, placed, (length) => allocate('float', length))
	);

const coloursFor = (
	numbers: HeatNumbers | null,
	rows: ArrayLike<number> | null,
	count: number
): Uint8Array | null => (numbers ? coloursOf(numbers, rows, allocate('byte', 3 * count)) : null);

/** Triangles with normals, sorted into runs by material. */
function meshObject(
	mesh: Mesh,
	geometry: Geometry,
	wireframe: boolean,
	heat: Heat | null,
	own: Column | null
): Omit<PacketObject, 'key'> {
	const { corners, faces } = trianglesOf(mesh);
	const normalsOf = cornerNormals(mesh);
	const p = floats(mesh.points, 'position');
	const { cornerPoints } = mesh.topology;
	const visible = mesh.faces.columns.get('shown')?.data;
	const drawn = visible ? trianglesShown(faces, visible) : null;
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
	const first = filled('int', mesh.points.count, -1);
	const next = scratch('int', 3 * count);
	const cornerOf = scratch('index', 3 * count);
	const index = allocate('index', 3 * count);
	let vertices = 0;
	for (let i = 0; i < count; i++) {
		pollAt(i);
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
	const positions = allocate('float', 3 * vertices),
		normals = allocate('float', 3 * vertices);
	for (let v = 0; v < vertices; v++) {
		pollAt(v);
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
		edges = allocate('float', ends.length * 3);
		for (let i = 0; i < ends.length; i++) {
			pollAt(i);
			for (let k = 0; k < 3; k++) edges[3 * i + k] = p[3 * ends[i] + k];
		}
	}
	const points = (heat ?? own) && Uint32Array.from({ length: vertices }, (_, v) => cornerPoints[cornerOf[v]]);
	const colours = own
		? paintOf(own, points, vertices)
		: coloursFor(heat?.read(geometry, 'mesh') ?? null, points, vertices);
	return { kind: 'mesh', positions, normals, index, groups, edges, colours, ...(own && { painted: true }) };
}

function linesObject(curves: Curves, geometry: Geometry, heat: Heat | null): Omit<PacketObject, 'key'> {
	const p = floats(curves.points, 'position');
	const closed = curves.curves.columns.get('closed')!.data;
	const pieces: number[] = [];
	for (let c = 0; c + 1 < curves.starts.length; c++) {
		pollAt(c);
		for (let i = curves.starts[c]; i + 1 < curves.starts[c + 1]; i++) pieces.push(i, i + 1);
		if (closed[c] && curves.starts[c + 1] - curves.starts[c] > 2)
			pieces.push(curves.starts[c + 1] - 1, curves.starts[c]);
	}
	const out = allocate('float', pieces.length * 3);
	for (let i = 0; i < pieces.length; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = p[3 * pieces[i] + k];
	const colours = coloursFor(heat?.read(geometry, 'curves') ?? null, pieces, pieces.length);
	return { kind: 'lines', positions: out, colours };
}

/** The triangles of faces that are shown. */
function trianglesShown(faces: Uint32Array, visible: ArrayLike<number>): Uint32Array {
	const shown = scratch('index', faces.length);
	let count = 0;
	for (let t = 0; t < faces.length; t++) if (visible[faces[t]]) shown[count++] = t;
	return shown.subarray(0, count);
}

const sameNormal = (normals: Float32Array, a: number, b: number): boolean =>
	Math.abs(normals[3 * a] - normals[3 * b]) < 1e-5 &&
	Math.abs(normals[3 * a + 1] - normals[3 * b + 1]) < 1e-5 &&
	Math.abs(normals[3 * a + 2] - normals[3 * b + 2]) < 1e-5;
