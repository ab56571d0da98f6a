/** What all passes of a repeat made, in one. */
import { NodeError } from '../../math/index.ts';
import type { Geometry, Table } from '../../geometry/index.ts';
import { partsOf, pollAt, sameColumn, withColumns } from '../../geometry/index.ts';
import type { List } from '../../nodes/index.ts';
import { listOf, listOfTexts } from '../../nodes/index.ts';
import { constantNumber, constantParts } from '../../varying/index.ts';
import type { Port } from '../document.ts';
import { isList, isVarying } from '../values.ts';
import type { Value } from '../values.ts';

/** Names of the passes of repeats in one another: what a repeat further in wrote keeps its name. */
const NAMES = ['pass', 'outerPass', 'outerOuterPass'];

/** A geometry whose elements know the pass that made them: faces, curves, loose points and copies. */
export function withPass(geometry: Geometry, pass: number): Geometry {
	const written = (table: Table): Table => {
		const name = NAMES.find((one) => !table.columns.has(one)) ?? NAMES[NAMES.length - 1];
		return withColumns(table, { [name]: sameColumn('int', 'plain', table.count, pass) });
	};
	const parts = partsOf(geometry).map(({ name, part, own }) => {
		const elements = part.each && part.tables[part.each]!;
		return [name, elements ? elements.write(own, written(elements.read(own)!)) : own];
	});
	return { ...geometry, ...Object.fromEntries(parts) };
}

/** The values of all passes as a list: one for each, or lists end to end. */
export function joinValues(name: string, carries: Port['carries'], values: readonly Value[]): List {
	const lists = values.filter(isList);
	if (lists.some(({ type }) => type === 'text'))
		return listOfTexts(lists.flatMap(({ data, words = [] }) => [...data].map((place) => words[place] ?? '')));
	const numbers: number[] = [];
	for (const value of values) {
		if (isList(value))
			for (const x of value.data) {
				pollAt(numbers.length);
				numbers.push(x);
			}
		else if (!isVarying(value) || !value.constant)
			throw new NodeError(
				`“${name}” differs from element to element, so the passes make no list of it. Write it to an attribute, and let the geometry be gathered.`
			);
		else if (carries === 'vector' || carries === 'colour') numbers.push(...constantParts(value));
		else numbers.push(constantNumber(value));
	}
	const type = lists[0]?.type ?? typeOf(carries);
	return listOf(type === 'text' ? 'number' : type, Float64Array.from(numbers));
}

const typeOf = (carries: Port['carries']): Exclude<List['type'], 'text'> =>
	carries === 'vector' || carries === 'colour' || carries === 'whole' || carries === 'yesno'
		? carries
		: 'number';
