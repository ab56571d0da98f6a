import { NodeError, formatCount } from '../../math/index.ts';
import { allocate, floats, tableOf, pollAt } from '../../geometry/index.ts';
import { defineNode, geometry, output } from '../define.ts';
import { withMoved } from './deform-tools.ts';
import { weightInputs, weightsOn } from '../weights/weight-tools.ts';

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
			label: 'Target',
			help: 'The shape to go to: as many points, in the same order.',
			needs: 'anything'
		}),
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The shape between the two.') },
	run({ geometry, target, ...given }, context) {
		let out = geometry;
		for (const part of ['mesh', 'curves', 'points', 'copies'] as const) {
			const kind = part === 'copies' ? 'copy' : 'point';
			const table = tableOf(geometry, part, kind),
				goal = tableOf(target, part, kind);
			if (!table?.count) continue;
			if (goal?.count !== table.count)
				throw new NodeError(
					`“Target” has ${formatCount(goal?.count ?? 0)} ${kind === 'copy' ? 'copies' : 'points'} where ${formatCount(table.count)} are blended. Make both from the same shape, with the same counts.`,
					{ input: 'target' }
				);
			const weights = weightsOn(context, given, { geometry, part, kind });
			const p = floats(table, 'position'),
				q = floats(goal, 'position');
			const moved = allocate('float', p.length);
			for (let i = 0; i < table.count; i++) {
				pollAt(i);
				for (let k = 3 * i; k < 3 * i + 3; k++) moved[k] = p[k] + (q[k] - p[k]) * weights[i];
			}
			out = withMoved(out, part, kind, moved);
		}
		return { geometry: out };
	}
});
