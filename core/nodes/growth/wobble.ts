import { mix } from '../../math/index.ts';
import { idsOf } from '../../geometry/index.ts';
import { wobbleFront } from '../../kernels/branch-way.ts';
import { restepCurves } from '../../kernels/restep-curves.ts';
import { defineNode, geometry, output } from '../define.ts';
import { MOVED_BY, driftAt, driftInputs } from '../values/noise-inputs.ts';
import { inRadians, wobbleInputs } from './growth-inputs.ts';

export const wobble = defineNode({
	id: 'wobble',
	// 2: turns no further than set.
	version: 2,
	name: 'Wobble',
	family: 'growth',
	words: ['crooked', 'gnarled', 'irregular', 'twisted', 'noise'],
	help: 'Curves turn to the sides as they go on, each in its own way: how far, and over which length. With a speed they sway. Their lengths stay, and so does how they look with more points.',
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The curves, each from where it grows.', needs: 'curves' }),
		...wobbleInputs,
		wobble: { ...wobbleInputs.wobble, default: 20, group: undefined },
		...driftInputs,
		drift: { ...driftInputs.drift, varies: 'curve' }
	},
	outputs: { curve: output('geometry', 'Curve', 'The same, crooked.') },
	seeded: true,
	timed: MOVED_BY,
	run({ curve, wobble, wave, ...moving }, context) {
		const where = { geometry: curve, part: 'curves', kind: 'curve' } as const;
		const most = context.numbers(wobble, where);
		const drift = driftAt(moving, context.moment);
		const gone = drift && context.numbers(drift.w, where);
		const period = (drift?.period.value as number | undefined) ?? 0;
		const ids = idsOf(curve.curves!.curves);
		const [first, second] = context.stream();
		return {
			curve: {
				...curve,
				curves: restepCurves(curve.curves!, (at, c, _t, _pieces, { before, step }) =>
					wobbleFront(at, {
						most: inRadians(most[c]),
						from: before / wave,
						to: (before + step) / wave,
						drift: gone ? { w: gone[c], period } : undefined,
						words: [mix(mix(first, ids[2 * c]), ids[2 * c + 1]), mix(mix(second, ids[2 * c]), ids[2 * c + 1])]
					})
				)
			}
		};
	}
});
