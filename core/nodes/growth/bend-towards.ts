import { bendFront } from '../../kernels/branch-way.ts';
import { restepCurves } from '../../kernels/restep-curves.ts';
import { defineNode, geometry, output } from '../define.ts';
import { bendInputs, bendingOf } from './growth-inputs.ts';

export const bendTowards = defineNode({
	id: 'bend-towards',
	version: 1,
	name: 'Bend towards',
	family: 'growth',
	words: ['tropism', 'phototropism', 'gravity', 'attract', 'light', 'droop'],
	help: 'Curves turn from their first point on towards the light, up, down or a place, as if they grew so. Their lengths stay.',
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The curves, each from where it grows.', needs: 'curves' }),
		...bendInputs
	},
	outputs: { curve: output('geometry', 'Curve', 'The same, bent.') },
	run({ curve, towards, direction, target, pull, pullRamp }, context) {
		const strength = context.numbers(pull, { geometry: curve, part: 'curves', kind: 'curve' });
		const bending = bendingOf(towards, direction, target, pullRamp);
		return {
			curve: {
				...curve,
				curves: restepCurves(curve.curves!, (at, c, t, pieces) =>
					bendFront(at, { ...bending, strength: strength[c] }, t, pieces)
				)
			}
		};
	}
});
