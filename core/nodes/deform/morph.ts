import { NodeError, formatCount } from '../../math/index.ts';
import { floats, pollAt, tableOf } from '../../geometry/index.ts';
import { defineNode, geometry, output } from '../define.ts';
import { movePoints } from './deform-tools.ts';
import { weightInputs } from '../weights/weight-tools.ts';

export const morph = defineNode({
	id: 'morph',
	version: 1,
	name: 'Morph',
	family: 'deform',
	words: ['blend shapes', 'mix', 'interpolate', 'target', 'deform'],
	help: 'Moves points towards where the same points are on another shape, by a weight for each.',
	renamed: [{ before: 2, id: 'blend-shapes' }],
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'The shape to start from.', needs: 'anything' }),
		target: geometry({
			label: 'Target shape',
			help: 'The shape to go to: as many points, in the same order.',
			needs: 'anything'
		}),
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The shape between the two.') },
	run({ geometry, target, ...given }, context) {
		const out = movePoints(
			geometry,
			given,
			context,
			({ where: { part, kind }, table, weights, p, moved }) => {
				const goal = tableOf(target, part, kind);
				if (goal?.count !== table.count)
					throw new NodeError(
						`“Target” has ${formatCount(goal?.count ?? 0)} ${kind === 'copy' ? 'copies' : 'points'} where ${formatCount(table.count)} are blended. Make both from the same shape, with the same counts.`,
						{ input: 'target' }
					);
				const q = floats(goal, 'position');
				for (let i = 0; i < weights.length; i++) {
					pollAt(i);
					for (let k = 3 * i; k < 3 * i + 3; k++) moved[k] = p[k] + (q[k] - p[k]) * weights[i];
				}
			}
		);
		return { geometry: out };
	}
});
