/** Stanford PLY, binary: points with colours, faces, and the pieces of curves as edges; copies become real faces. */
import type { Column, Geometry, PartName, Table } from '../geometry/index.ts';
import {
	PART_NAMES,
	affineAt,
	convertColumn,
	countsOf,
	expand,
	findAttribute,
	floats,
	matrix,
	ofCopies,
	partKind,
	pollAt,
	tableOf
} from '../geometry/index.ts';
import { NodeError, formatCount } from '../math/index.ts';
import { toLinear } from './polygons.ts';

/** Its counts are 32-bit numbers, and nobody opens so large a file. */
const MOST_BYTES = 2_000_000_000;
/** What is made of points, in the order in which points are written. */
const PARTS = PART_NAMES.filter((name) => partKind(name).placed === 'point');

/** Writes a geometry. Throws NodeError where it is too large. */
export function writePly(geometry: Geometry): Uint8Array {
	const groups = expand(geometry);
	// Worked out once for each geometry, however many copies show it.
	const colours = new Map(
		groups.map(({ geometry: one }) => [one, PARTS.map((part) => pointColours(one, part))] as const)
	);
	// What has no colours of its own has those of the copies in which it lies.
	const painted = new Map(groups.map((group) => [group, coloursOfCopies(group)] as const));
	const hasColours =
		[...colours.values()].some((parts) => parts.some((part) => part)) ||
		[...painted.values()].some((of) => of);
	const hasFaceColours = groups.some(({ geometry: one }) => one.mesh && coloursIn(one.mesh.faces));
	const sizes = groups.map(({ geometry: one, count }) => sizeOf(one, count));
	const sum = (name: 'points' | 'faces' | 'corners' | 'edges') =>
		sizes.reduce((all, size) => all + size[name], 0);
	const stride = hasColours ? 15 : 12;
	const bytes =
		stride * sum('points') + (hasFaceColours ? 7 : 4) * sum('faces') + 4 * sum('corners') + 8 * sum('edges');
	if (bytes > MOST_BYTES)
		throw new NodeError(
			`The file would have ${formatCount(bytes)} bytes; ${formatCount(MOST_BYTES)} fit. Export a GLB, which keeps copies as copies.`
		);
	const head = new TextEncoder().encode(
		headOf(sum('points'), sum('faces'), sum('edges'), hasColours, hasFaceColours)
	);
	const out = new Uint8Array(head.length + bytes);
	out.set(head);
	const view = new DataView(out.buffer);
	let at = head.length;
	const place = [0, 0, 0];
	each(groups, ({ geometry: one, map, group, place: nth }) => {
		const copy = painted.get(group);
		for (const [k, part] of PARTS.entries()) {
			const table = tableOf(one, part, 'point');
			if (!table) continue;
			const p = floats(table, 'position');
			const own = colours.get(one)![k]?.data;
			const from = own ?? copy?.column.data;
			for (let i = 0; i < table.count; i++) {
				pollAt(i);
				matrix.apply(place, 0, map, p[3 * i], p[3 * i + 1], p[3 * i + 2]);
				for (let k = 0; k < 3; k++) view.setFloat32(at + 4 * k, place[k], true);
				const row = own ? i : (copy?.rows[nth] ?? 0);
				if (hasColours) for (let k = 0; k < 3; k++) out[at + 12 + k] = from ? toByte(from[3 * row + k]) : 255;
				at += stride;
			}
		}
	});
	let first = 0;
	each(groups, ({ geometry: one, map }) => {
		const { mesh } = one;
		if (mesh) {
			const mirrored = matrix.determinant(map) < 0;
			const shown = mesh.faces.columns.get('shown')?.data;
			const colours = coloursIn(mesh.faces)?.data;
			const { faceStarts, cornerPoints } = mesh.topology;
			for (let f = 0; f + 1 < faceStarts.length; f++) {
				pollAt(f);
				if (shown && !shown[f]) continue;
				const [from, to] = [faceStarts[f], faceStarts[f + 1]];
				view.setInt32(at, to - from, true);
				at += 4;
				for (let c = from; c < to; c++) {
					view.setInt32(at, first + cornerPoints[mirrored ? to - 1 - (c - from) : c], true);
					at += 4;
				}
				if (!hasFaceColours) continue;
				for (let k = 0; k < 3; k++) out[at + k] = colours ? toByte(colours[3 * f + k]) : 255;
				at += 3;
			}
		}
		first += pointsOf(one);
	});
	first = 0;
	each(groups, ({ geometry: one }) => {
		const start = first + (one.mesh?.points.count ?? 0);
		for (const [a, b] of edgesOf(one)) {
			view.setInt32(at, start + a, true);
			view.setInt32(at + 4, start + b, true);
			at += 8;
		}
		first += pointsOf(one);
	});
	return out;
}

/** The colours of the copies in which places lie, with the row of each; null where they have none. */
const coloursOfCopies = (group: Group) => ofCopies(group, ({ copies }) => coloursIn(copies!.copies));

/** The colours of a table's elements, linear; null where they have none. */
function coloursIn(table: Table): Column | null {
	const own = table.columns.get('colour');
	return own?.role === 'colour' && own.type === 'vec3' ? own : null;
}

/** The colours of a part's points: their own, or else blended from its corners, faces or curves. */
function pointColours(geometry: Geometry, part: PartName): Column | null {
	const found = tableOf(geometry, part, 'point') && findAttribute(geometry, part, 'point', 'colour');
	if (!found || found.kind === 'whole' || found.column.role !== 'colour' || found.column.type !== 'vec3')
		return null;
	return found.kind === 'point'
		? found.column
		: convertColumn(geometry, part, found.column, found.kind, 'point');
}

function headOf(
	points: number,
	faces: number,
	edges: number,
	hasColours: boolean,
	hasFaceColours: boolean
): string {
	const colours = ['red', 'green', 'blue'].map((one) => `property uchar ${one}`);
	const lines = ['ply', 'format binary_little_endian 1.0', `element vertex ${points}`];
	lines.push(...['x', 'y', 'z'].map((axis) => `property float ${axis}`));
	if (hasColours) lines.push(...colours);
	if (faces) lines.push(`element face ${faces}`, 'property list int int vertex_indices');
	if (faces && hasFaceColours) lines.push(...colours);
	if (edges) lines.push(`element edge ${edges}`, 'property int vertex1', 'property int vertex2');
	return [...lines, 'end_header', ''].join('\n');
}

type Group = ReturnType<typeof expand>[number];

function each(
	groups: readonly Group[],
	work: (one: { geometry: Geometry; map: Float64Array; group: Group; place: number }) => void
): void {
	for (const group of groups) {
		const { geometry, matrices, count } = group;
		for (let place = 0; place < count; place++)
			work({ geometry, map: matrices ? affineAt(matrices, place) : matrix.identity(), group, place });
	}
}

const pointsOf = (geometry: Geometry): number => countsOf(geometry).points;

function sizeOf(geometry: Geometry, count: number) {
	const { mesh } = geometry;
	const shown = mesh?.faces.columns.get('shown')?.data;
	let faces = 0,
		corners = 0;
	for (let f = 0; mesh && f < mesh.faces.count; f++) {
		pollAt(f);
		if (shown && !shown[f]) continue;
		faces++;
		corners += mesh.topology.faceStarts[f + 1] - mesh.topology.faceStarts[f];
	}
	const edges = [...edgesOf(geometry)].length;
	return {
		points: count * pointsOf(geometry),
		faces: count * faces,
		corners: count * corners,
		edges: count * edges
	};
}

/** The pieces of curves, each from one point to another. */
function* edgesOf({ curves }: Geometry): Generator<readonly [number, number]> {
	if (!curves) return;
	const closed = curves.curves.columns.get('closed')!.data;
	for (let c = 0; c + 1 < curves.starts.length; c++) {
		const [from, to] = [curves.starts[c], curves.starts[c + 1]];
		for (let i = from; i + 1 < to; i++) yield [i, i + 1];
		if (closed[c] && to - from > 2) yield [to - 1, from];
	}
}

/** From linear light to a byte as screens have them (sRGB). */
function toByte(linear: number): number {
	const x = linear > 0 ? (linear < 1 ? linear : 1) : 0;
	// The root of 2.4 by halving: the curve only ever rises.
	let [low, high] = [0, 255];
	while (low < high) {
		const middle = (low + high + 1) >> 1;
		if (toLinear((middle - 0.5) / 255) <= x) low = middle;
		else high = middle - 1;
	}
	return low;
}
