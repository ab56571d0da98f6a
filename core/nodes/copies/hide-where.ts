import { allocate, column, tableOf, withColumns, withTable, pollAt } from '../../geometry/index.ts';
import { choice, defineNode, geometry, number, output, yesNo } from '../define.ts';
import { weightInputs, weightsOn } from '../weights/weight-tools.ts';

export const hideWhere = defineNode({
	id: 'hide-where',
	version: 1,
	name: 'Hide where',
	family: 'copies',
	words: ['visibility', 'mask', 'invisible', 'switch off'],
	help: 'Hides copies or faces where a weight is high, without deleting them: their numbers stay, exports leave them out.',
	renamed: [{ before: 2, inputs: { what: 'elements', before: 'alreadyHidden' } }],
	inputs: {
		copies: geometry({ label: 'Geometry', help: 'What is hidden in part.', needs: 'anything' }),
		elements: choice({
			label: 'Elements',
			help: 'Which elements are hidden.',
			default: 'copy',
			options: [
				{ id: 'copy', label: 'Copies' },
				{ id: 'face', label: 'Faces' }
			]
		}),
		...weightInputs,
		weight: number({
			...weightInputs.weight,
			help: 'Elements with more than the threshold are hidden. Wire a weight in, or type a formula.',
			default: 0,
			varies: 'copy'
		}),
		threshold: number({
			label: 'Threshold',
			help: 'From which weight on they are hidden.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01
		}),
		invert: yesNo({ label: 'Invert', help: 'Only those above the threshold stay.', default: false }),
		alreadyHidden: choice({
			label: 'Already hidden',
			help: 'What becomes of those that were hidden further up.',
			default: 'keep',
			options: [
				{ id: 'keep', label: 'Keep hidden' },
				{ id: 'show', label: 'Ignore' }
			]
		})
	},
	outputs: { copies: output('geometry', 'Geometry', 'The same, some hidden.') },
	run({ copies, elements, weight, strength, weightAt, threshold, invert, alreadyHidden }, context) {
		const [part, kind] = elements === 'face' ? (['mesh', 'face'] as const) : (['copies', 'copy'] as const);
		const table = tableOf(copies, part, kind);
		if (!table) {
			context.warn(`There are no ${elements === 'face' ? 'faces' : 'copies'} here, so nothing was hidden.`);
			return { copies };
		}
		const weights = weightsOn(context, { weight, strength, weightAt }, { geometry: copies, part, kind });
		const old = alreadyHidden === 'keep' ? table.columns.get('shown')?.data : undefined;
		const shown = allocate('byte', table.count);
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			shown[i] = weights[i] > threshold === invert && (!old || old[i]) ? 1 : 0;
		}
		return {
			// What comes to lie beside them in one table, and was never hidden, is shown.
			copies: withTable(
				copies,
				part,
				kind,
				withColumns(table, { shown: { ...column('bool', 'plain', shown), default: [1] } })
			)
		};
	}
});
