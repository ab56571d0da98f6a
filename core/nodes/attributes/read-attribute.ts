import { pollAt, scratch, WIDTH } from '../../geometry/index.ts';
import type { Kind } from '../../geometry/index.ts';
import { attribute } from '../../varying/index.ts';
import { defineNode, geometry, output, text } from '../define.ts';
import type { List } from '../list.ts';
import { listOf } from '../list.ts';
import { attributeIn, kindChoice } from './attribute-tools.ts';

export const readAttribute = defineNode({
	id: 'read-attribute',
	version: 1,
	name: 'Read attribute',
	family: 'attributes',
	words: ['get', 'values of', 'to list', 'load'],
	help: 'The values of an attribute: as a value that is read where it is used, and, of a geometry that is connected, as a list.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'Connect one for a list of its values.',
			needs: 'anything',
			optional: true
		}),
		name: text({ label: 'Name', help: 'The attribute.', default: 'position', attribute: true }),
		elements: kindChoice('Elements', 'Whose values the list has.', 'point')
	},
	outputs: {
		value: output('value', 'Value', 'The attribute of whatever it is used on.'),
		list: output('list', 'List', 'The values of the geometry’s elements in order, where one is connected.')
	},
	run({ geometry, name, elements }) {
		const value = attribute(name);
		if (!geometry) return { value } as never;
		const held = attributeIn(geometry, elements as Kind, name, 'name');
		const [{ column: first }] = held;
		const width = WIDTH[first.type];
		const three = width > 1;
		const data = scratch('double', held.reduce((sum, { table }) => sum + table.count, 0) * (three ? 3 : 1));
		let at = 0;
		for (const { column, table } of held)
			for (let i = 0; i < table.count; i++) {
				pollAt(i);
				if (three) for (let k = 0; k < 3; k++) data[at++] = k < width ? column.data[width * i + k] : 0;
				else data[at++] = column.data[i];
			}
		const list: List =
			first.type === 'text'
				? { kind: 'list', type: 'text', length: data.length, data, width: 1, words: first.words! }
				: listOf(
						three
							? first.role === 'colour'
								? 'colour'
								: 'vector'
							: first.type === 'bool'
								? 'yesno'
								: first.type === 'int'
									? 'whole'
									: 'number',
						data
					);
		return { value, list };
	}
});
