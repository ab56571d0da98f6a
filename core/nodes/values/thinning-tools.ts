/** What nodes have in common that keep some elements of a geometry, or some values of a list. */
import { NodeError } from '../../math/index.ts';
import type { Geometry, PartName, Table } from '../../geometry/index.ts';
import {
	allocate,
	checkAttributeName,
	column,
	keepRows,
	pollAt,
	tableOf,
	withColumns,
	withTable
} from '../../geometry/index.ts';
import type { Varying } from '../../varying/index.ts';
import { listValue, withLeaves } from '../../varying/index.ts';
import { choice, geometry, list, text } from '../define.ts';
import type { List } from '../list.ts';

/** Either will do, so both stand on the label before anything is wired. */
export const either = (): boolean => true;

export const thinningInputs = {
	geometry: geometry({
		label: 'Geometry',
		help: 'What is thinned; or connect a list.',
		needs: 'anything',
		optional: true,
		when: either
	}),
	list: list({
		label: 'List',
		help: 'A list that is thinned, in place of geometry or beside it.',
		optional: true,
		when: either
	}),
	elements: choice({
		label: 'Elements',
		help: 'Which elements of the geometry go or stay.',
		default: 'point',
		options: [
			{ id: 'copy', label: 'Copies' },
			{ id: 'curve', label: 'Curves' },
			{ id: 'face', label: 'Faces' },
			{ id: 'point', label: 'Loose points' }
		]
	})
} as const;

export const oldIndexInput = text({
	label: 'Old index',
	help: 'The name of an attribute in which every element keeps the number that it had. Empty: none.',
	default: 'oldIndex',
	attribute: true
});

const PART_OF: Readonly<Record<string, PartName>> = {
	copy: 'copies',
	curve: 'curves',
	face: 'mesh',
	point: 'points'
};
const NAMES: Readonly<Record<string, string>> = {
	copy: 'copies',
	curve: 'curves',
	face: 'faces',
	point: 'loose points'
};

export type Thinned = 'copy' | 'curve' | 'face' | 'point';

/** What is to be thinned: throws where nothing is connected. */
export function checkConnected(geometry: Geometry | null, list: List | null): void {
	if (!geometry && !list)
		throw new NodeError('Connect geometry or a list: there is nothing to thin yet.', { input: 'geometry' });
}

/** Where the elements of a geometry are; null, with a word on the node, where there are none. */
export function elementsIn(
	geometry: Geometry,
	elements: string,
	warn: (message: string) => void
): { part: PartName; kind: Thinned; table: Table } | null {
	const part = PART_OF[elements];
	const kind = elements as Thinned;
	const table = tableOf(geometry, part, kind);
	if (table) return { part, kind, table };
	warn(`There are no ${NAMES[elements]} here, so nothing was thinned.`);
	return null;
}

/** Some elements of a geometry; each remembers its number under a name, where one is given. */
export function keepElements(
	geometry: Geometry,
	{ part, kind }: { part: PartName; kind: Thinned },
	rows: Uint32Array,
	name: string
): Geometry {
	const kept = keepRows(geometry, part, kind, rows);
	if (!name) return kept;
	checkAttributeName(name, 'oldIndex');
	const numbers = allocate('int', rows.length);
	for (let i = 0; i < rows.length; i++) {
		pollAt(i);
		numbers[i] = rows[i];
	}
	const table = tableOf(kept, part, kind)!;
	return withTable(kept, part, kind, withColumns(table, { [name]: column('int', 'id', numbers) }));
}

/** A condition about the values of a list, which it calls “value”. */
export const aboutList = (condition: Varying, list: List): Varying =>
	withLeaves(condition, ({ op, value }) =>
		op === 'attribute' && value === 'value' && list.length ? listValue(list.data, list.width) : null
	);
