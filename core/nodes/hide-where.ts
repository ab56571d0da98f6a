import { allocate, column, tableOf, withColumns, withTable } from '../geometry/index.ts';
import { choice, defineNode, geometry, number, output, yesNo } from './define.ts';

export const hideWhere = defineNode({
	id: 'hide-where',
	version: 1,
	name: 'Hide where',
	family: 'copies',
	words: ['visibility', 'mask', 'cull', 'prune', 'switch off'],
	help: 'Hides copies where a weight is high, without deleting them: their numbers stay, exports leave them out.',
	inputs: {
		copies: geometry({ label: 'Copies', help: 'What is hidden in part.', needs: 'copies' }),
		weight: number({
			label: 'Weight',
			help: 'Copies with more than the threshold are hidden.',
			default: 0,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'copy'
		}),
		threshold: number({
			label: 'Threshold',
			help: 'From which weight on copies are hidden.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01
		}),
		invert: yesNo({ label: 'Show instead', help: 'Only those above the threshold stay.', default: false }),
		before: choice({
			label: 'Hidden before',
			help: 'What becomes of copies that were hidden further up.',
			default: 'keep',
			options: [
				{ id: 'keep', label: 'Stay hidden' },
				{ id: 'show', label: 'Decide anew' }
			]
		})
	},
	outputs: { copies: output('geometry', 'Copies', 'The same, some hidden.') },
	run({ copies, weight, threshold, invert, before }, context) {
		const where = { geometry: copies, part: 'copies', kind: 'copy' } as const;
		const table = tableOf(copies, 'copies', 'copy')!;
		const weights = context.numbers(weight, where);
		const old = before === 'keep' ? table.columns.get('shown')?.data : undefined;
		const shown = allocate('byte', table.count);
		for (let i = 0; i < table.count; i++)
			shown[i] = weights[i] > threshold === invert && (!old || old[i]) ? 1 : 0;
		return {
			copies: withTable(
				copies,
				'copies',
				'copy',
				withColumns(table, { shown: column('bool', 'plain', shown) })
			)
		};
	}
});
