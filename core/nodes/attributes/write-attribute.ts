import { NodeError } from '../../math/index.ts';
import type { Column, ColumnType, Geometry, Kind, Role } from '../../geometry/index.ts';
import {
	allocate,
	column,
	pollAt,
	tablesOf,
	withColumns,
	withTable,
	withWritten
} from '../../geometry/index.ts';
import type { Elements, Varying } from '../../varying/index.ts';
import { inWholes, elementsOf, run, typeOn } from '../../varying/index.ts';
import type { Context, List, ResolvedInputs } from '../define.ts';
import { choice, defineNode, geometry, output, text, value } from '../define.ts';
import { laterRows, nameInRow, readRows } from '../rows.ts';
import { ELEMENTS, checkNewName, elementsInput } from './attribute-tools.ts';

/** One attribute: each row is one, and may read those above it. */
const ROW = {
	name: text({ label: 'Name', help: 'What formulas call it.', default: 'value', attribute: true }),
	type: choice({
		label: 'Type',
		help: 'What it holds. By value takes what arrives.',
		default: 'auto',
		options: [
			{ id: 'auto', label: 'By value' },
			{ id: 'float', label: 'Number' },
			{ id: 'int', label: 'Whole number' },
			{ id: 'bool', label: 'Yes or no' },
			{ id: 'vec3', label: 'Vector' },
			{ id: 'colour', label: 'Colour' }
		]
	}),
	value: value({
		label: 'Value',
		help: 'A number, a random range, a formula, or a wire. A list of words gives words.',
		default: 1,
		varies: 'point',
		words: true
	})
};

export const writeAttribute = defineNode({
	id: 'write-attribute',
	version: 1,
	name: 'Write attribute',
	family: 'attributes',
	words: ['store', 'vertex colour', 'custom data', 'paint'],
	help: 'Stores a value on every element under a name; several at once, in rows. Formulas further on read it by that name, and exports can carry it.',
	renamed: [{ before: 2, id: 'set-attribute', inputs: { on: 'elements' } }],
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What gets the attribute.', needs: 'anything' }),
		elements: elementsInput,
		...ROW,
		...laterRows(ROW, 'attribute')
	},
	rows: { of: 'attribute', inputs: Object.keys(ROW) },
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its attributes.') },
	run(inputs, context) {
		return {
			geometry: readRows(inputs, ROW).reduce(
				(geometry, row, place) => withAttribute(geometry, inputs.elements as Kind, row, place, context),
				inputs.geometry
			)
		};
	}
});

/** A geometry with one attribute more, on every element of a kind. */
function withAttribute(
	geometry: Geometry,
	kind: Kind,
	{ name, type, value }: ResolvedInputs<typeof ROW>,
	row: number,
	context: Context
): Geometry {
	checkNewName(name, nameInRow('name', row));
	const tables = tablesOf(geometry, kind);
	if (!tables.length) context.warn(`There are no ${ELEMENTS[kind]} here, so nothing was set.`);
	let out = geometry;
	for (const { part, table } of tables) {
		const elements = elementsOf(geometry, part, kind);
		const made = blaming(nameInRow('value', row), () =>
			value.kind === 'list'
				? columnOfWords(value, elements, context)
				: columnOf(value, elements, name, type, context)
		);
		const written = part === 'copies' ? withWritten(table, name, made) : withColumns(table, { [name]: made });
		out = withTable(out, part, kind, written);
	}
	return out;
}

/** What goes wrong is told of an input. */
function blaming<Result>(input: string, work: () => Result): Result {
	try {
		return work();
	} catch (error) {
		if (!(error instanceof NodeError) || error.input) throw error;
		throw new NodeError(error.message, { input, fixes: error.fixes });
	}
}

function columnOf(value: Varying, elements: Elements, name: string, type: string, { warn }: Context): Column {
	const is = typeOn(value, elements);
	const isVector = type === 'vec3' || type === 'colour' || (type === 'auto' && is === 'vector');
	const columnType: ColumnType = isVector
		? 'vec3'
		: type === 'int' || type === 'bool'
			? type
			: is === 'yesno' && type === 'auto'
				? 'bool'
				: 'float';
	const data = allocate(
		columnType === 'int' ? 'int' : columnType === 'bool' ? 'byte' : 'float',
		elements.count * (isVector ? 3 : 1)
	);
	run(columnType === 'int' ? inWholes(value) : value, elements, isVector ? 3 : 1, data, { warn });
	return column(columnType, roleOf(name, type, columnType), data);
}

/** Words of a list, from the first again where there are more elements. */
function columnOfWords(
	{ length, data, words }: List,
	{ count, called }: Elements,
	{ warn }: Context
): Column {
	if (!length) throw new NodeError('The list of words is empty. Write some into it, or give a number.');
	if (length > 1 && length < count) warn(`${length} words repeated over ${count} ${called ?? 'elements'}.`);
	const places = allocate('int', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		places[i] = data[i % length];
	}
	return { ...column('text', 'plain', places), words };
}

/** Attributes that the trade knows by name keep their role; a colour is a colour. */
function roleOf(name: string, type: string, columnType: ColumnType): Role {
	if (columnType !== 'vec3') return 'plain';
	if (type === 'colour' || name === 'colour') return 'colour';
	return name === 'position'
		? 'position'
		: name === 'normal'
			? 'normal'
			: name === 'tangent'
				? 'direction'
				: 'plain';
}
