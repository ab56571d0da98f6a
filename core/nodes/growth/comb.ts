import { nearestTangents } from '../../kernels/nearest-tangents.ts';
import { combCurves } from '../../kernels/comb.ts';
import { defineNode, geometry, number, output, vector } from '../define.ts';

export const comb = defineNode({
	id: 'comb',
	version: 1,
	name: 'Comb',
	family: 'growth',
	words: ['groom', 'brush', 'direct', 'wind', 'flow', 'align strands'],
	help: 'Turns strands about their roots: along a direction, or along the nearest place of guide curves. By how much may differ from strand to strand.',
	inputs: {
		strands: geometry({ label: 'Strands', help: 'The curves that are combed.', needs: 'curves' }),
		guides: geometry({
			label: 'Guides',
			help: 'Curves that they follow, each at its place nearest to the root; without any, the direction counts.',
			needs: 'curves',
			optional: true
		}),
		direction: vector({
			label: 'Direction',
			help: 'Where their ends go.',
			default: [1, 0.3, 0],
			varies: 'curve'
		}),
		amount: number({
			label: 'Amount',
			help: '0 leaves them, 1 turns them wholly.',
			default: 0.5,
			min: 0,
			max: 1,
			varies: 'curve'
		})
	},
	outputs: { strands: output('geometry', 'Strands', 'The same, combed.') },
	run({ strands, guides, direction, amount }, context) {
		const where = { geometry: strands, part: 'curves' as const, kind: 'curve' as const };
		const towards = guides?.curves
			? nearestTangents(strands.curves!, guides.curves)
			: context.vectors(direction, where);
		return {
			strands: { ...strands, curves: combCurves(strands.curves!, towards, context.numbers(amount, where)) }
		};
	}
});
