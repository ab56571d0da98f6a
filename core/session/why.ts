/**
 * Why an element is as it is: its attributes, and the nodes that it passed through, back to the one that made it. An element
 * is known again by its id, and where ids were made anew by the place where it is.
 */
import type { Graph, NodeResult } from '../engine/index.ts';
import type { Geometry, Kind, Part, Table } from '../geometry/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { isGeometry } from '../engine/index.ts';
import {
	floats,
	idOfRow,
	pollAt,
	tableOf,
	tablesOf,
	trianglesOf,
	WIDTH,
	placedIn
} from '../geometry/index.ts';
import { NodeError } from '../math/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { treeOfMesh } from '../kernels/nearest.ts';
import { nearestPlace } from './element-tables.ts';
import type { Element } from './element-tables.ts';
import type { Why, WhyAsk, WhyStep } from './messages.ts';
import { keyOfTable } from './tables.ts';

/** The longest way back that is told. */
const MOST_STEPS = 200;

type Results = ReadonlyMap<string, Pick<NodeResult, 'outputs'>>;

/** A geometry on the way back: which node gives it, and at which output. */
interface Given {
	node: string;
	port: string;
	geometry: Geometry;
}

/** The element that stands nearest to a place in what a node gives, and how it came about. */
export function whyIsIt({ node, at, kind }: WhyAsk, graph: Graph, results: Results): Why {
	const given = givenBy(node, null, results);
	if (!given) throw new NodeError('There is nothing here any more.');
	const kinds = kindsIn(given.geometry);
	const wanted = kind && kinds.includes(kind) ? kind : kinds[0];
	const element = wanted && nearestElement(given.geometry, wanted, at);
	if (!element) throw new NodeError('There is no element here.');
	const table = tableOf(given.geometry, element.part, element.kind)!;
	return {
		kind: element.kind,
		kinds,
		row: element.row,
		count: table.count,
		at: placeOf(given.geometry, element) ?? [...at],
		attributes: attributesOf(table, element.row),
		steps: stepsBack(given, element, graph, results)
	};
}

/** The kinds of element that can be pointed at, the likeliest first. */
function kindsIn(geometry: Geometry): Kind[] {
	const order: readonly Kind[] = ['copy', 'face', 'curve', 'point'];
	return order.filter((kind) => tablesOf(geometry, kind).some(({ table }) => table.count));
}

function givenBy(node: string, port: string | null, results: Results): Given | null {
	const outputs = results.get(node)?.outputs;
	for (const [name, value] of outputs ?? [])
		if ((port === null || name === port) && isGeometry(value)) return { node, port: name, geometry: value };
	return null;
}

function nearestElement(geometry: Geometry, kind: Kind, at: readonly number[]): Element | null {
	const { mesh, curves } = geometry;
	if (kind === 'face' && mesh?.faces.count) {
		const { faces } = trianglesOf(mesh);
		const { primitive } = treeOfMesh(mesh).nearest(at[0], at[1], at[2]);
		return primitive < 0 ? null : { part: 'mesh', kind, row: faces[primitive] };
	}
	const placed = kind === 'curve' ? 'point' : kind;
	let best: Element | null = null,
		least = Infinity;
	for (const { part, kind: own, table } of placedIn(geometry)) {
		if (own !== placed || (kind === 'curve' && part !== 'curves')) continue;
		const { row, square } = nearestPlace(floats(table, 'position'), at);
		if (row >= 0 && square < least) [best, least] = [{ part, kind: own, row }, square];
	}
	if (kind !== 'curve' || !best) return best;
	const { starts } = curves!;
	let row = 0;
	while (row + 2 < starts.length && starts[row + 1] <= best.row) row++;
	return { part: 'curves', kind, row };
}

/** Where an element is: its position, or the middle of a face's corners. */
function placeOf(geometry: Geometry, { part, kind, row }: Element): number[] | null {
	const table = tableOf(geometry, part, kind)!;
	if (table.columns.has('position')) return [...floats(table, 'position').subarray(3 * row, 3 * row + 3)];
	if (part !== 'mesh' || kind !== 'face') return null;
	const { faceStarts, cornerPoints } = geometry.mesh!.topology;
	const p = floats(geometry.mesh!.points, 'position');
	const corners = [...cornerPoints.subarray(faceStarts[row], faceStarts[row + 1])];
	return [0, 1, 2].map((k) => corners.reduce((sum, point) => sum + p[3 * point + k], 0) / corners.length);
}

function attributesOf(table: Table, row: number): Why['attributes'] {
	return [...table.columns].map(([name, { type, data, words }]) => ({
		name,
		type,
		values: words
			? [words[data[row]].slice(0, 200)]
			: [...data.subarray(row * WIDTH[type], (row + 1) * WIDTH[type])]
	}));
}

/** The node itself, and those before it in which the element was there already. */
function stepsBack(from: Given, element: Element, graph: Graph, results: Results): WhyStep[] {
	const byId = new Map(graph.nodes.map((node) => [node.id, node]));
	const steps: WhyStep[] = [];
	let at: { given: Given; element: Element; how: WhyStep['how'] } | null = {
		given: from,
		element,
		how: 'shown'
	};
	while (at && steps.length < MOST_STEPS) {
		const { given, element: own, how }: { given: Given; element: Element; how: WhyStep['how'] } = at;
		const node = byId.get(given.node);
		steps.push({
			node: given.node,
			table: keyOfTable(given.port, own.part, own.kind),
			kind: own.kind,
			row: own.row,
			how
		});
		at = node ? before(given, own, node.id, node.kind, graph, results) : null;
	}
	return steps;
}

type Found = { given: Given; element: Element; how: WhyStep['how'] };

/** The same element in what comes into the node that gives it, or what it stands on; null where the node made it. */
function before(
	{ geometry }: Given,
	element: Element,
	id: string,
	kindId: string,
	graph: Graph,
	results: Results
): Found | null {
	const inputs = Object.entries((nodeKinds.get(kindId)?.inputs ?? {}) as Record<string, InputDefinition>)
		.filter(([, input]) => input.kind === 'geometry')
		.map(([port]) =>
			graph.wires
				.filter(({ to }) => to[0] === id && to[1] === port)
				.map(({ from }) => givenBy(from[0], from[1], results))
				.filter((one) => one !== null)
		);
	const first = inputs.find((all) => all.length) ?? [];
	const own = tableOf(geometry, element.part, element.kind)!;
	const same = inputs.flat().flatMap((given) =>
		tablesOf(given.geometry, element.kind)
			.filter(({ part }) => part === element.part)
			.map(({ part, table }) => ({ given, part, kind: element.kind, table }))
	);
	const stoodOn = first.flatMap((given) =>
		element.kind === 'copy'
			? tablesOf(given.geometry, 'point').map(({ part, table }) => ({
					given,
					part,
					kind: 'point' as Kind,
					table
				}))
			: []
	);
	const through = known(own, element.row, same, first);
	if (through) return { ...through, how: 'through' };
	const point = known(own, element.row, stoodOn, first);
	if (point) return { ...point, how: 'stands on' };
	return copyOf(geometry, element, first) ?? faceUnder(geometry, element, first);
}

interface Candidate {
	given: Given;
	part: Part;
	kind: Kind;
	table: Table;
}

/** The row that an element was: by its id and its place, or by its id alone in what came in first, or by its place alone. */
function known(
	own: Table,
	row: number,
	candidates: readonly Candidate[],
	first: readonly Given[]
): Pick<Found, 'given' | 'element'> | null {
	const id = idOfRow(own, row);
	const place = own.columns.has('position') ? floats(own, 'position').subarray(3 * row, 3 * row + 3) : null;
	let byId: Pick<Found, 'given' | 'element'> | null = null,
		byPlace: Pick<Found, 'given' | 'element'> | null = null;
	for (const { given, part, kind, table } of candidates) {
		const found = rowOfId(table, id, row);
		const as = (at: number) => ({ given, element: { part, kind, row: at } });
		if (found >= 0 && place && isAt(table, found, place)) return as(found);
		if (found >= 0 && first.includes(given)) byId ??= as(found);
		if (place && !byPlace) {
			const at = rowAt(table, place, row);
			if (at >= 0) byPlace = as(at);
		}
	}
	return byId ?? byPlace;
}

function rowOfId(table: Table, [low, high]: readonly [number, number], likely: number): number {
	const { ids, count } = table;
	if (!ids) return high === 0 && low < count ? low : -1;
	if (likely < count && ids[2 * likely] === low && ids[2 * likely + 1] === high) return likely;
	for (let i = 0; i < count; i++) {
		pollAt(i);
		if (ids[2 * i] === low && ids[2 * i + 1] === high) return i;
	}
	return -1;
}

function isAt(table: Table, row: number, place: Float32Array): boolean {
	if (!table.columns.has('position')) return false;
	const p = floats(table, 'position');
	return p[3 * row] === place[0] && p[3 * row + 1] === place[1] && p[3 * row + 2] === place[2];
}

function rowAt(table: Table, place: Float32Array, likely: number): number {
	if (likely < table.count && isAt(table, likely, place)) return likely;
	if (!table.columns.has('position')) return -1;
	const p = floats(table, 'position');
	for (let i = 0, o = 0; i < table.count; i++, o += 3) {
		pollAt(i);
		if (p[o] === place[0] && p[o + 1] === place[1] && p[o + 2] === place[2]) return i;
	}
	return -1;
}

/** The copy that a point or a face was written out from. */
function copyOf(geometry: Geometry, { part, kind, row }: Element, first: readonly Given[]): Found | null {
	const point =
		kind === 'face' && geometry.mesh
			? geometry.mesh.topology.cornerPoints[geometry.mesh.topology.faceStarts[row]]
			: kind === 'point'
				? row
				: -1;
	const number = point < 0 ? undefined : tableOf(geometry, part, 'point')?.columns.get('copy')?.data[point];
	const given = first.find((one) => one.geometry.copies);
	if (number === undefined || !given || number >= given.geometry.copies!.copies.count) return null;
	return { given, element: { part: 'copies', kind: 'copy', row: number }, how: 'written out from' };
}

/** The face on which a loose point stands. */
function faceUnder(geometry: Geometry, element: Element, first: readonly Given[]): Found | null {
	const given = first.find((one) => one.geometry.mesh?.faces.count);
	const place = element.kind === 'point' && element.part === 'points' ? placeOf(geometry, element) : null;
	if (!given || !place) return null;
	const mesh = given.geometry.mesh!;
	const { distance, primitive } = treeOfMesh(mesh).nearest(place[0], place[1], place[2]);
	const reach = 1e-4 * (1 + Math.abs(place[0]) + Math.abs(place[1]) + Math.abs(place[2]));
	if (primitive < 0 || !(distance < reach)) return null;
	return {
		given,
		element: { part: 'mesh', kind: 'face', row: trianglesOf(mesh).faces[primitive] },
		how: 'stands on'
	};
}
