/** What nodes have in common that read and write attributes. */
import { NodeError } from '../../math/index.ts';
import type { Column, Geometry, Kind, Part, Table } from '../../geometry/index.ts';
import { attributeNames, checkAttributeName, tablesOf } from '../../geometry/index.ts';
import { nearestName } from '../../varying/index.ts';
import { choice } from '../define.ts';

/** What kinds of element are called in messages. */
export const ELEMENTS: Readonly<Record<Kind, string>> = {
	whole: 'elements',
	copy: 'copies',
	curve: 'curves',
	face: 'faces',
	edge: 'edges',
	point: 'points',
	corner: 'corners'
};

const OPTIONS = [
	{ id: 'whole', label: 'Whole geometry' },
	{ id: 'copy', label: 'Copies' },
	{ id: 'curve', label: 'Curves' },
	{ id: 'face', label: 'Faces' },
	{ id: 'edge', label: 'Edges' },
	{ id: 'point', label: 'Points' },
	{ id: 'corner', label: 'Corners' }
] as const;

/** A choice of kinds of element, from coarse to fine. */
export const kindChoice = <const Default extends Kind>(label: string, help: string, chosen: Default) =>
	choice({ label, help, default: chosen, options: OPTIONS });

export const elementsInput = kindChoice('Elements', 'The kind of element that holds it.', 'point');

const ALWAYS_THERE = new Set(['index', 'count', 'id']);

/** Throws where an attribute cannot be written under a name. */
export function checkNewName(name: string, input: string): void {
	checkAttributeName(name, input);
	if (ALWAYS_THERE.has(name))
		throw new NodeError(`“${name}” is always there and cannot be set. Choose another name.`, { input });
}

/** An attribute where it is: its column, its part and kind, and the table that holds it. */
export interface Held {
	part: Part;
	kind: Kind;
	column: Column;
	table: Table;
}

/** Every table with an attribute of a name; throws, naming what is there, where none has it. */
export function attributeIn(geometry: Geometry, kind: Kind | null, name: string, input: string): Held[] {
	const kinds: readonly Kind[] = kind
		? [kind]
		: ['point', 'corner', 'face', 'edge', 'curve', 'copy', 'whole'];
	const found = kinds.flatMap((one) =>
		tablesOf(geometry, one).flatMap(({ part, table }): Held[] => {
			const column = table.columns.get(name);
			return column ? [{ part, kind: one, column, table }] : [];
		})
	);
	if (!found.length) throw notThere(geometry, kind, name, input);
	return found;
}

function notThere(geometry: Geometry, kind: Kind | null, name: string, input: string): NodeError {
	const known = attributeNames(geometry);
	const elsewhere = known.get(name);
	if (elsewhere && kind)
		return new NodeError(
			`“${name}” is on ${ELEMENTS[elsewhere.kind]}, not on ${ELEMENTS[kind]}. Choose those, or carry it over with “Move attribute”.`,
			{ input }
		);
	const near = nearestName(name, known.keys());
	const has = known.size ? ` Attributes here: ${[...known.keys()].slice(0, 8).join(', ')}.` : '';
	return new NodeError(
		name
			? `There is no attribute “${name}” here.${near ? ` Did you mean “${near}”?` : ''}${has}`
			: `Name an attribute.${has}`,
		{ input }
	);
}
