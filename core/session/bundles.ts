/**
 * Many shapes that are each placed once or twice, as a few meshes: what ten thousand copies of their own look like would
 * otherwise be ten thousand things to draw, of which each costs as much as a large one.
 */
import type { Placed } from '../geometry/index.ts';
import { allocate, pollAt, triangleCount } from '../geometry/index.ts';
import type { PacketMaterial, PacketObject } from './messages.ts';

/** Copies of a set, drawn as one mesh: which of how many they are. */
export interface Bundle {
	readonly from: number;
	readonly count: number;
	readonly of: number;
	readonly triangles: number;
	make(): Omit<PacketObject, 'key'>;
}

/** Fewer shapes are drawn each by itself: what moves then sends its places anew, and not all that it shows. */
const MANY = 500;
/** What is placed more often, or is larger, is better drawn as copies. */
const FEW_PLACES = 4;
const LARGE = 1_000;
/** Triangles of a bundle: a piece that is drawn in a moment. */
const ABOUT = 12_000;

function mayBeBundled({ geometry, matrices, count }: Placed): boolean {
	const { mesh, curves, points, copies } = geometry;
	return (
		!!matrices &&
		count <= FEW_PLACES &&
		!!mesh?.faces.count &&
		!(curves || points || copies) &&
		triangleCount(mesh) <= LARGE
	);
}

/**
 * @param meshOf a shape as it is drawn by itself.
 * @returns what is drawn as it was, and the bundles of the rest.
 */
export function bundlesOf(
	all: readonly Placed[],
	meshOf: (placed: Placed) => Omit<PacketObject, 'key'>
): { alone: readonly Placed[]; bundles: readonly Bundle[] } {
	const fitting = all.filter(mayBeBundled);
	if (fitting.length < MANY) return { alone: all, bundles: [] };
	// By steps of the golden section, so that any beginning of them is spread over the whole.
	const order = fitting
		.map((placed, i) => ({ placed, at: (i * 0.6180339887498949) % 1 }))
		.sort((a, b) => a.at - b.at)
		.map(({ placed }) => placed);
	const of = order.reduce((sum, { count }) => sum + count, 0);
	const bundles: Bundle[] = [];
	let [held, triangles, from]: [Placed[], number, number] = [[], 0, 0];
	const close = () => {
		if (!held.length) return;
		const own = held;
		const count = own.reduce((sum, one) => sum + one.count, 0);
		bundles.push({ from, count, of, triangles, make: () => bundled(own, meshOf) });
		from += count;
		held = [];
		triangles = 0;
	};
	for (const placed of order) {
		held.push(placed);
		triangles += triangleCount(placed.geometry.mesh!) * placed.count;
		if (triangles >= ABOUT) close();
	}
	close();
	return { alone: all.filter((placed) => !mayBeBundled(placed)), bundles };
}

/** A run of triangles of one material in a shape that is placed. */
interface Run {
	readonly index: Uint32Array;
	readonly start: number;
	readonly count: number;
	/** Where its vertices begin among all. */
	readonly first: number;
	readonly isMirrored: boolean;
}

function bundled(
	all: readonly Placed[],
	meshOf: (placed: Placed) => Omit<PacketObject, 'key'>
): Omit<PacketObject, 'key'> {
	const shapes = all.map((placed) => ({ placed, mesh: meshOf(placed) }));
	const vertices = shapes.reduce(
		(sum, { placed, mesh }) => sum + (placed.count * mesh.positions.length) / 3,
		0
	);
	const positions = allocate('float', 3 * vertices),
		normals = allocate('float', 3 * vertices);
	const runs = new Map<string, { material: PacketMaterial | null; runs: Run[] }>();
	let first = 0;
	for (const { placed, mesh } of shapes)
		for (let i = 0; i < placed.count; i++) {
			const isMirrored = putInto(
				positions,
				normals,
				3 * first,
				mesh,
				placed.matrices!.subarray(16 * i, 16 * i + 16)
			);
			for (const { start, count, material } of mesh.groups!) {
				const key = JSON.stringify(material);
				const known = runs.get(key) ?? { material, runs: [] };
				runs.set(key, known);
				known.runs.push({ index: mesh.index!, start, count, first, isMirrored });
			}
			first += mesh.positions.length / 3;
		}
	const total = [...runs.values()].flatMap(({ runs }) => runs).reduce((sum, { count }) => sum + count, 0);
	const index = allocate('index', total);
	const groups: NonNullable<PacketObject['groups']> = [];
	let at = 0;
	for (const { material, runs: own } of runs.values()) {
		const start = at;
		for (const { index: from, start: begin, count, first: offset, isMirrored } of own)
			for (let k = 0; k < count; k += 3, at += 3) {
				pollAt(k);
				index[at] = from[begin + k] + offset;
				index[at + 1] = from[begin + k + (isMirrored ? 2 : 1)] + offset;
				index[at + 2] = from[begin + k + (isMirrored ? 1 : 2)] + offset;
			}
		groups.push({ start, count: at - start, material });
	}
	return { kind: 'mesh', positions, normals, index, groups, edges: null, colours: null };
}

/** Writes the vertices of a shape at its place; tells whether they are mirrored there. */
function putInto(
	positions: Float32Array,
	normals: Float32Array,
	at: number,
	{ positions: p, normals: n }: Omit<PacketObject, 'key'>,
	m: Float32Array
): boolean {
	// Normals go by the cofactors, which hold for shears and uneven scales too.
	const [a, b, c, d, e, f, g, h, i] = [m[0], m[4], m[8], m[1], m[5], m[9], m[2], m[6], m[10]];
	const cofactors = [
		e * i - f * h,
		f * g - d * i,
		d * h - e * g,
		c * h - b * i,
		a * i - c * g,
		b * g - a * h,
		b * f - c * e,
		c * d - a * f,
		a * e - b * d
	];
	const isMirrored = a * cofactors[0] + b * cofactors[1] + c * cofactors[2] < 0;
	const sign = isMirrored ? -1 : 1;
	for (let v = 0; v < p.length; v += 3) {
		pollAt(v);
		const [x, y, z] = [p[v], p[v + 1], p[v + 2]];
		positions[at + v] = a * x + b * y + c * z + m[12];
		positions[at + v + 1] = d * x + e * y + f * z + m[13];
		positions[at + v + 2] = g * x + h * y + i * z + m[14];
		const [nx, ny, nz] = [n![v], n![v + 1], n![v + 2]];
		const ox = cofactors[0] * nx + cofactors[1] * ny + cofactors[2] * nz,
			oy = cofactors[3] * nx + cofactors[4] * ny + cofactors[5] * nz,
			oz = cofactors[6] * nx + cofactors[7] * ny + cofactors[8] * nz;
		const size = (Math.sqrt(ox * ox + oy * oy + oz * oz) || 1) * sign;
		normals[at + v] = ox / size;
		normals[at + v + 1] = oy / size;
		normals[at + v + 2] = oz / size;
	}
	return isMirrored;
}
