/** The tables of what a node gives: elements of a geometry by kind, lists, and values on the elements that read them. */
import type { Graph, NodeResult } from '../engine/index.ts';
import type { Geometry, Kind, Part, Table } from '../geometry/index.ts';
import * as varying from '../varying/index.ts';
import { isGeometry, isList, isVarying } from '../engine/index.ts';
import { PART_NAMES, identityOf, WIDTH, partKind, tableOf, scratch } from '../geometry/index.ts';
import { NodeError } from '../math/index.ts';
import type { List } from '../nodes/index.ts';
import type { Series } from './series.ts';
import { readersOf } from './where-read.ts';

/** A table that can be looked at. */
export interface DataTable {
	key: string;
	/** Names what it is read from: equal ones have equal rows. */
	source: string;
	label: string;
	count: number;
	/** Its columns; made when it is looked at. */
	series(): Series[];
	/** One byte a row: whether a condition holds. Throws where it cannot be worked out. */
	meets(condition: string): Uint8Array;
	/** Where its rows stand, where they stand somewhere: three numbers a row. */
	places: Float32Array | null;
}

const KIND_NAMES: Readonly<Record<Kind, string>> = {
	whole: 'Whole geometry',
	copy: 'Copies',
	curve: 'Curves',
	face: 'Faces',
	edge: 'Edges',
	point: 'Points',
	corner: 'Corners'
};
const POINTS_OF: Readonly<Record<string, string>> = {
	mesh: 'Points of the mesh',
	curves: 'Points of curves',
	points: 'Loose points'
};
const FROM_COARSE: readonly Kind[] = ['copy', 'curve', 'face', 'point', 'edge', 'corner'];

/** Names the table of one kind of element at an output. */
export const keyOfTable = (port: string, part: Part, kind: Kind): string => `${port} ${part} ${kind}`;

/** All tables of a node's outputs, what is looked at most often first. */
export function tablesOfResult(
	result: NodeResult,
	graph: Graph,
	results: ReadonlyMap<string, NodeResult>
): DataTable[] {
	return [...result.outputs].flatMap(([port, value]): DataTable[] => {
		if (isGeometry(value)) return tablesOfGeometry(value, port);
		if (isList(value)) return [tableOfList(value, port)];
		return isVarying(value) ? tableOfValue(value, port, result.id, graph, results) : [];
	});
}

function tablesOfGeometry(geometry: Geometry, port: string): DataTable[] {
	const found: DataTable[] = [];
	const add = (part: Part, kind: Kind, label: string) => {
		const table =
			part === 'mesh' && kind === 'edge' && !geometry.mesh?.edges ? null : tableOf(geometry, part, kind);
		if (!table || (part === 'whole' && !table.columns.size)) return;
		found.push({
			key: keyOfTable(port, part, kind),
			source: String(identityOf(geometry)),
			label,
			count: table.count,
			series: () => seriesOf(table),
			meets: (condition) => metBy(condition, varying.elementsOf(geometry, part, kind), table.columns.keys()),
			places: (table.columns.get('position')?.data as Float32Array) ?? null
		});
	};
	for (const kind of FROM_COARSE)
		for (const part of PART_NAMES)
			if (geometry[part] && partKind(part).tables[kind])
				add(part, kind, kind === 'point' ? POINTS_OF[part] : KIND_NAMES[kind]);
	add('whole', 'whole', KIND_NAMES.whole);
	// What has elements comes before what has none.
	return found.sort((a, b) => Number(b.count > 0) - Number(a.count > 0));
}

function tableOfList(list: List, port: string): DataTable {
	return {
		key: `${port} list`,
		source: String(identityOf(list)),
		label: 'List',
		count: list.length,
		series: () =>
			partsOf(
				'value',
				list.type === 'text' ? 'text' : list.width === 3 ? 'vec3' : list.type === 'yesno' ? 'bool' : 'float',
				list.data,
				list.width,
				list.type === 'colour',
				list.words
			),
		meets(condition) {
			const about = varying.withLeaves(varying.parseCondition(condition, ['value']), ({ op, value }) =>
				op === 'attribute' && value === 'value' && list.length
					? varying.listValue(list.data, list.width)
					: null
			);
			const out = scratch('byte', list.length);
			varying.run(about, varying.plainElements(list.length), 1, out);
			return out;
		},
		places: null
	};
}

/** A value on the elements of the first node that reads it on some; one that is the same everywhere is one row. */
function tableOfValue(
	value: varying.Varying,
	port: string,
	id: string,
	graph: Graph,
	results: ReadonlyMap<string, NodeResult>
): DataTable[] {
	const readers = graph.wires
		.filter(({ from }) => from[0] === id && from[1] === port)
		.map(({ to }) => readersOf(graph, results, to))
		.find((one) => one !== null);
	const elements = value.constant ? varying.singleElement() : readers?.elements;
	if (!elements) return [];
	const label = value.constant ? 'Value' : `Value on ${readers!.called}`;
	let wide: boolean;
	try {
		wide = varying.typeOn(value, elements) === 'vector';
	} catch (error) {
		if (error instanceof NodeError) return [];
		throw error;
	}
	return [
		{
			key: `${port} value`,
			source: `${identityOf(elements)} ${value.hash}`,
			label,
			count: elements.count,
			series() {
				const data = scratch('float', elements.count * (wide ? 3 : 1));
				varying.run(value, elements, wide ? 3 : 1, data);
				return partsOf(
					'value',
					wide ? 'vec3' : value.type === 'yesno' ? 'bool' : 'float',
					data,
					wide ? 3 : 1,
					false
				);
			},
			meets: (condition) => metBy(condition, elements, []),
			places: null
		}
	];
}

function metBy(condition: string, elements: varying.Elements, names: Iterable<string>): Uint8Array {
	const out = scratch('byte', elements.count);
	varying.run(varying.parseCondition(condition, names), elements, 1, out);
	return out;
}

/** The columns of a table, their parts apart; positions first. */
function seriesOf({ columns }: Table): Series[] {
	return [...columns]
		.sort(([a], [b]) => Number(b === 'position') - Number(a === 'position'))
		.flatMap(([name, { type, role, data, words }]) =>
			partsOf(name, type, data, WIDTH[type], role === 'colour', words)
		);
}

function partsOf(
	name: string,
	type: Series['type'],
	data: ArrayLike<number>,
	width: number,
	isColour: boolean,
	words?: readonly string[]
): Series[] {
	const letters = isColour ? 'rgba' : name === 'uv' ? 'uv' : 'xyzw';
	return Array.from({ length: width }, (_, offset) => ({
		key: width > 1 ? `${name}.${letters[offset]}` : name,
		name,
		part: width > 1 ? letters[offset] : '',
		type,
		data,
		width,
		offset,
		words
	}));
}
