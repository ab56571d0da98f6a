import type { Column, ColumnType, Kind, Role } from '../../geometry/index.ts';
import { allocate, column, tablesOf, withColumns, withTable, withWritten } from '../../geometry/index.ts';
import { inWholes, elementsOf, run, typeOn } from '../../varying/index.ts';
import { choice, defineNode, geometry, output, text, value } from '../define.ts';
import { ELEMENTS, checkNewName, elementsInput } from './attribute-tools.ts';

export const writeAttribute = defineNode({
	id: 'write-attribute',
	version: 1,
	name: 'Write attribute',
	family: 'attributes',
	words: ['store', 'vertex colour', 'custom data', 'paint'],
	help: 'Stores a value on every element under a name. Formulas further on read it by that name, and exports can carry it.',
	renamed: [{ before: 2, id: 'set-attribute', inputs: { on: 'elements' } }],
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What gets the attribute.', needs: 'anything' }),
		elements: elementsInput,
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
			help: 'A number, a random range, a formula, or a wire.',
			default: 1,
			varies: 'point'
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its attribute.') },
	run({ geometry, elements, name, type, value }, context) {
		checkNewName(name, 'name');
		const kind = elements as Kind;
		const tables = tablesOf(geometry, kind);
		if (!tables.length) context.warn(`There are no ${ELEMENTS[kind]} here, so nothing was set.`);
		let out = geometry;
		for (const { part, table } of tables) {
			const elements = elementsOf(geometry, part, kind);
			const isVector =
				type === 'vec3' || type === 'colour' || (type === 'auto' && typeOn(value, elements) === 'vector');
			const columnType: ColumnType = isVector
				? 'vec3'
				: type === 'int' || type === 'bool'
					? type
					: typeOn(value, elements) === 'yesno' && type === 'auto'
						? 'bool'
						: 'float';
			const data = allocate(
				columnType === 'int' ? 'int' : columnType === 'bool' ? 'byte' : 'float',
				elements.count * (isVector ? 3 : 1)
			);
			run(columnType === 'int' ? inWholes(value) : value, elements, isVector ? 3 : 1, data, {
				warn: context.warn
			});
			const made: Column = column(columnType, roleOf(name, type, columnType), data);
			const written =
				part === 'copies' ? withWritten(table, name, made) : withColumns(table, { [name]: made });
			out = withTable(out, part, kind, written);
		}
		return { geometry: out };
	}
});

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
