import type { Geometry } from '../../geometry/index.ts';
import { digestOf, pollAt } from '../../geometry/index.ts';
import { treeOfCurves } from '../../kernels/nearest.ts';
import { constant, defineField, fieldAt, operate, rampOf, throughRamp } from '../../varying/index.ts';
import { defineNode, geometry, number, output, ramp, yesNo } from '../define.ts';
import { clamped, oneMinus, weightOutput } from './weight-tools.ts';

export const weightAlongCurve = defineNode({
	id: 'weight-along-curve',
	version: 1,
	name: 'Weight along curve',
	family: 'weights',
	words: ['falloff', 'mask', 'gradient', 'spline', 'u', 'path'],
	help: 'Where the nearest place on a curve lies along it, from 0 at its start to 1 at its end, through a ramp. With “Limit distance” the weight also falls away from the curve.',
	renamed: [
		{
			before: 2,
			inputs: { flip: 'reverse', limited: 'limitDistance', reachRamp: 'rampAround', ramp: 'rampAlong' }
		}
	],
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The curve, or several.', needs: 'curves' }),
		reverse: yesNo({ label: 'Reverse', help: 'Measures from the other end.', default: false }),
		rampAlong: ramp({
			label: 'Ramp along',
			help: 'The weight along the curve.',
			default: rampOf('linear', [0, 0], [1, 1])
		}),
		limitDistance: yesNo({
			label: 'Limit distance',
			help: 'The weight falls away from the curve.',
			default: false,
			group: 'Around the curve'
		}),
		reach: number({
			label: 'Reach',
			help: 'How far from the curve the weight reaches.',
			default: 1,
			min: 0.0001,
			slider: [0, 5],
			unit: 'm',
			varies: 'point',
			when: (s) => s.limitDistance === true
		}),
		rampAround: ramp({
			label: 'Ramp around',
			help: 'How it falls, from the curve (0) to the reach (1).',
			default: rampOf('smooth', [0, 1], [1, 0]),
			when: (s) => s.limitDistance === true
		})
	},
	outputs: {
		weight: weightOutput,
		along: output('number', 'Along', 'From 0 at the start of the curve to 1 at its end, without the ramp.'),
		distance: output('number', 'Distance', 'To the curve, in metres.')
	},
	run({ curve, reverse, rampAlong, limitDistance, reach, rampAround }, context) {
		if (!curve.curves!.points.count) {
			context.warn('The curve has no points, so the weight is 0.');
			return { weight: constant(0), along: constant(0), distance: constant(1e9) };
		}
		const raw = fieldAt(curveField(curve, 'along'));
		const along = reverse ? oneMinus(raw) : raw;
		const distance = fieldAt(curveField(curve, 'distance'));
		let weight = throughRamp(along, rampAlong);
		if (limitDistance)
			weight = operate('multiply', [
				weight,
				throughRamp(clamped(operate('divide', [distance, reach])), rampAround)
			]);
		return { weight: clamped(weight), along, distance };
	}
});

/** The u of the nearest place, or the distance to it. */
const curveField = (curve: Geometry, what: 'along' | 'distance') =>
	fieldOfCurve(`${what} ${digestOf(curve)}`, { curve, what });

const fieldOfCurve = defineField('curve', ({ curve, what }: { curve: Geometry; what: string }) => {
	const { tree, u } = treeOfCurves(curve.curves!);
	return (n, out, x, y, z) => {
		for (let i = 0; i < n; i++) {
			pollAt(i);
			const found = tree.nearest(x[i], y[i], z[i]);
			const piece = 2 * found.primitive;
			out[i] = what === 'distance' ? found.distance : u[piece] + (u[piece + 1] - u[piece]) * found.u;
		}
	};
});
