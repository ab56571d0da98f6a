import { elementsOf, attribute, typeOn } from '../../varying/index.ts';
import { column, tablesOf, withColumns, withTable } from '../../geometry/index.ts';
import type { Kind } from '../../geometry/index.ts';
import { defineNode, geometry, output, text, value } from '../define.ts';
import { ELEMENTS, checkNewName, elementsInput } from './attribute-tools.ts';

export const holdValue = defineNode({
	id: 'hold-value',
	version: 1,
	name: 'Hold value',
	family: 'attributes',
	words: ['freeze', 'bake', 'as it was', 'remember', 'snapshot'],
	help: 'Works a value out here and lets the geometry carry it along: further on it is what it was at this node, whatever has moved since.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'On which the value is worked out.', needs: 'anything' }),
		value: value({
			label: 'Value',
			help: 'Worked out for each element as it is here.',
			default: 0,
			varies: 'point'
		}),
		elements: elementsInput,
		name: text({
			label: 'Name',
			help: 'The attribute in which it is carried.',
			default: 'held',
			attribute: true
		})
	},
	outputs: {
		geometry: output('geometry', 'Geometry', 'The same, carrying the value.'),
		value: output('value', 'Value', 'The value as it was here, on whatever comes of this geometry.')
	},
	run({ geometry, value, elements, name }, context) {
		checkNewName(name, 'name');
		const kind = elements as Kind;
		let out = geometry;
		const tables = tablesOf(geometry, kind);
		if (!tables.length) context.warn(`There are no ${ELEMENTS[kind]} here, so nothing was held.`);
		for (const { part, table } of tables) {
			const where = { geometry, part, kind };
			const type = typeOn(value, elementsOf(geometry, part, kind));
			const made =
				type === 'vector'
					? column('vec3', 'plain', context.vectors(value, where))
					: type === 'yesno'
						? column('bool', 'plain', context.yesNos(value, where))
						: column('float', 'plain', context.numbers(value, where));
			out = withTable(out, part, kind, withColumns(table, { [name]: made }));
		}
		return { geometry: out, value: attribute(name) };
	}
});
