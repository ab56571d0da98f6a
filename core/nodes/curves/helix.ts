import { TAU, cos, quaternion, sin } from '../../math/index.ts';
import { defineNode, number, output } from '../define.ts';
import { facingInput, flatCurveAlong } from './curve-tools.ts';

export const helix = defineNode({
	id: 'helix',
	version: 1,
	name: 'Helix',
	family: 'curves',
	words: ['coil', 'spring', 'screw', 'corkscrew', 'strand', 'spline', 'path'],
	help: 'A curve that winds about an axis while it goes along it.',
	inputs: {
		radius: number({
			label: 'Radius',
			help: 'Where it begins.',
			default: 0.5,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		endRadius: number({
			label: 'End radius',
			help: 'Where it ends.',
			default: 0.5,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		height: number({
			label: 'Height',
			help: 'How far it goes along its axis.',
			default: 2,
			slider: [-10, 10],
			unit: 'm'
		}),
		turns: number({
			label: 'Turns',
			help: 'How often it goes round. Negative winds the other way.',
			default: 4,
			slider: [-20, 20],
			step: 0.05
		}),
		start: number({
			label: 'Start',
			help: 'The angle at which it begins.',
			default: 0,
			slider: [-360, 360],
			step: 1,
			unit: '°'
		}),
		points: number({
			label: 'Points a turn',
			help: 'How finely it is made.',
			default: 24,
			min: 3,
			slider: [6, 128],
			whole: true
		}),
		facing: facingInput
	},
	outputs: { curve: output('geometry', 'Curve', 'The helix.') },
	estimate: ({ turns, points }) => ({
		elements: Math.ceil(Math.abs(turns) * points) + 2,
		of: 'points',
		lower: 'Lower “Turns” or “Points a turn”.'
	}),
	run({ radius, endRadius, height, turns, start, points, facing }) {
		const n = Math.max(1, Math.ceil(Math.abs(turns) * points));
		const from = quaternion.radians(start);
		return {
			curve: flatCurveAlong(n + 1, facing, false, (i) => {
				const t = i / n,
					r = radius + (endRadius - radius) * t;
				return [r * cos(from + TAU * turns * t), r * sin(from + TAU * turns * t), height * t];
			})
		};
	}
});
