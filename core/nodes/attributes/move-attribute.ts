import { NodeError } from '../../math/index.ts';
import { tableOf, tablesOf, withColumns, withTable } from '../../geometry/index.ts';
import type { Column, Kind, Part } from '../../geometry/index.ts';
import type { Carry } from '../../kernels/carry.ts';
import { carried } from '../../kernels/carry.ts';
import { choice, defineNode, geometry, output, text, yesNo } from '../define.ts';
import { ELEMENTS, attributeIn, checkNewName, kindChoice } from './attribute-tools.ts';

export const moveAttribute = defineNode({
	id: 'move-attribute',
	version: 1,
	name: 'Move attribute',
	family: 'attributes',
	words: ['transfer', 'average', 'per face', 'convert', 'points to faces', 'aggregate'],
	help: 'Carries an attribute from one kind of element to another: from points to the faces they make, from faces to the whole, and so on.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What has the attribute.', needs: 'anything' }),
		name: text({ label: 'Name', help: 'The attribute.', default: '', attribute: true }),
		from: kindChoice('From', 'The kind of element that has it.', 'point'),
		to: kindChoice('To', 'The kind of element that gets it.', 'face'),
		method: choice({
			label: 'Method',
			help: 'What several values become on one element.',
			default: 'mean',
			options: [
				{ id: 'mean', label: 'Mean' },
				{ id: 'sum', label: 'Sum' },
				{ id: 'least', label: 'Least' },
				{ id: 'greatest', label: 'Greatest' },
				{ id: 'first', label: 'First' }
			]
		}),
		newName: text({ label: 'New name', help: 'What it is called there. Empty: as before.', default: '' }),
		keep: yesNo({ label: 'Keep', help: 'It stays where it was, too.', default: false })
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with the attribute moved.') },
	run({ geometry, name, from, to, method, newName, keep }, context) {
		if (!name) {
			context.warn('Name an attribute: nothing was moved yet.');
			return { geometry };
		}
		const name2 = newName || name;
		checkNewName(name2, newName ? 'newName' : 'name');
		const how = { from: from as Kind, to: to as Kind, how: method as Carry };
		let out = geometry;
		let moved = 0;
		const put = (part: Part, kind: Kind, changes: Record<string, Column | null>) => {
			const holder = kind === 'whole' ? 'whole' : part;
			out = withTable(out, holder, kind, withColumns(tableOf(out, holder, kind)!, changes));
		};
		for (const { part, column } of attributeIn(geometry, how.from, name, 'name')) {
			const targets =
				how.from === 'whole'
					? tablesOf(geometry, how.to).map((one) => one.part)
					: tableOf(geometry, part, how.to)
						? [part]
						: [];
			const made = targets.map((target) => carried(geometry, target, column, how));
			if (targets.length && !keep && name !== 'position' && how.from !== how.to)
				put(part, how.from, { [name]: null });
			targets.forEach((target, i) => put(target, how.to, { [name2]: made[i] }));
			moved += targets.length;
		}
		if (!moved)
			throw new NodeError(
				`What has “${name}” on ${ELEMENTS[how.from]} has no ${ELEMENTS[how.to]}. Choose another kind of element.`,
				{ input: 'to' }
			);
		return { geometry: out };
	}
});
