import { NodeError } from '../../math/index.ts';
import { withTable } from '../../geometry/index.ts';
import { defineNode, geometry, output, text } from '../define.ts';
import { ELEMENTS, attributeIn, checkNewName } from './attribute-tools.ts';

export const renameAttribute = defineNode({
	id: 'rename-attribute',
	version: 1,
	name: 'Rename attribute',
	family: 'attributes',
	words: ['name', 'alias', 'relabel'],
	help: 'Gives an attribute another name, on every kind of element that has it.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What has the attribute.', needs: 'anything' }),
		name: text({ label: 'Name', help: 'The name it has.', default: '', attribute: true }),
		newName: text({ label: 'New name', help: 'The name it gets.', default: '' })
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same under the new name.') },
	run({ geometry, name, newName }, context) {
		if (!name || !newName) {
			context.warn('Name an attribute and its new name: nothing was renamed yet.');
			return { geometry };
		}
		checkNewName(newName, 'newName');
		if (name === 'position')
			throw new NodeError('“position” says where everything is and keeps its name.', { input: 'name' });
		let out = geometry;
		for (const { part, kind, table, column } of attributeIn(geometry, null, name, 'name')) {
			if (name !== newName && table.columns.has(newName))
				throw new NodeError(
					`The ${ELEMENTS[kind]} have a “${newName}” already. Remove it first with “Remove attribute”, or choose another name.`,
					{ input: 'newName' }
				);
			const columns = new Map(
				[...table.columns].map(([key, one]) => (key === name ? [newName, column] : [key, one]))
			);
			out = withTable(out, part, kind, { ...table, columns });
		}
		return { geometry: out };
	}
});
