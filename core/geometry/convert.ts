/** Values carried from one kind of element to another, by role: most blend, ids, whole numbers and texts do not. */
import { scratch } from './allocate.ts';
import type { Geometry, Kind } from './geometry.ts';
import type { Column, Table } from './table.ts';
import type { Relation } from './blend.ts';
import { blendMany } from './blend.ts';
import { counting } from './grouped.ts';
import { derive, together } from './kept.ts';
import type { PartName } from './parts/index.ts';
import { partKind, partsOf } from './parts/index.ts';

/** The parts of a geometry whose tables hold elements, and the geometry as a whole. */
export type Part = PartName | 'whole';

/** The order in which kinds are searched for a bare name, after the kind asked for and points. */
const SEARCH: readonly Kind[] = ['point', 'corner', 'face', 'edge', 'curve', 'copy', 'whole'];

/** The parts that are there and have elements of a kind, with their tables. */
export function tablesOf(geometry: Geometry, kind: Kind): { part: Part; table: Table }[] {
	if (kind === 'whole') return [{ part: 'whole', table: geometry.whole }];
	return partsOf(geometry).flatMap(({ name }) => {
		const table = tableOf(geometry, name, kind);
		return table ? [{ part: name, table }] : [];
	});
}

/** Every table that somebody has written to, with its kind. */
export function allTables(geometry: Geometry): { kind: Kind; table: Table }[] {
	const found: { kind: Kind; table: Table }[] = [];
	for (const { part, own } of partsOf(geometry))
		for (const [kind, { read }] of Object.entries(part.tables)) {
			const table = read(own);
			if (table) found.push({ kind: kind as Kind, table });
		}
	found.push({ kind: 'whole', table: geometry.whole });
	return found;
}

/** The table of a kind in a part, or null. */
export function tableOf(geometry: Geometry, part: Part, kind: Kind): Table | null {
	if (part === 'whole' || kind === 'whole') return kind === 'whole' ? geometry.whole : null;
	const own = geometry[part];
	const elements = partKind(part).tables[kind];
	return own && elements ? (elements.read(own) ?? elements.implied?.(own) ?? null) : null;
}

/** The geometry with one table replaced. */
export function withTable(geometry: Geometry, part: Part, kind: Kind, table: Table): Geometry {
	return part === 'whole'
		? { ...geometry, whole: table }
		: { ...geometry, [part]: partKind(part).tables[kind]!.write(geometry[part], table) };
}

export interface Found {
	column: Column;
	kind: Kind;
	/** Other kinds that have a column of this name. */
	others: Kind[];
}

/** Finds an attribute: the kind asked for first, then points, then a fixed order; then the whole. */
export function findAttribute(geometry: Geometry, part: Part, kind: Kind, name: string): Found | null {
	const order = [kind, ...SEARCH.filter((other) => other !== kind)];
	const found: Found[] = [];
	for (const candidate of order) {
		const table = candidate === 'whole' ? geometry.whole : tableOf(geometry, part, candidate);
		const column = table?.columns.get(name);
		if (column) found.push({ column, kind: candidate, others: [] });
	}
	if (!found.length) return null;
	return {
		...found[0],
		others: found
			.slice(1)
			.map((f) => f.kind)
			.filter((other) => other !== 'whole')
	};
}

/** The names of all attributes that a bare name can reach, for messages and lists. */
export function attributeNames(geometry: Geometry): Map<string, { kind: Kind; part: Part; column: Column }> {
	const names = new Map<string, { kind: Kind; part: Part; column: Column }>();
	for (const kind of SEARCH)
		for (const { part, table } of tablesOf(geometry, kind))
			for (const [name, column] of table.columns)
				if (!names.has(name)) names.set(name, { kind, part, column });
	return names;
}

/** A column of one kind as a column of another, of the same part. */
export function convertColumn(geometry: Geometry, part: Part, source: Column, from: Kind, to: Kind): Column {
	if (from === to) return source;
	const target = tableOf(geometry, part, to) ?? geometry.whole;
	const shape = (part !== 'whole' && geometry[part] && partKind(part).shape(geometry[part])) || target;
	return derive(together(source, shape), `${from} to ${to} of ${target.count}`, () => {
		if (from === 'whole')
			return blendMany(source, { starts: counting(target.count + 1), items: scratch('index', target.count) });
		return blendMany(source, relate(geometry, part, from, to));
	});
}

/** Which elements of one kind make up each of another, in the same part. */
export function relate(geometry: Geometry, part: Part, from: Kind, to: Kind): Relation {
	if (part === 'whole' || to === 'whole') {
		const count = tableOf(geometry, part, from)!.count;
		return { starts: Uint32Array.of(0, count), items: counting(count) };
	}
	return partKind(part).relate!(geometry[part], from, to);
}
