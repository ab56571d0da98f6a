import { cos, quaternion, sin } from '../../math/index.ts';
import { defineNode, number, output } from '../define.ts';
import { facingInput, flatCurve, range } from './curve-tools.ts';

export const arc = defineNode({
	id: 'arc',
	version: 1,
	name: 'Arc',
	family: 'curves',
	words: ['part of circle', 'bow', 'segment', 'spline', 'path'],
	help: 'A part of a circle about the origin, open.',
	inputs: {
		radius: number({
			label: 'Radius',
			help: 'From the middle to the curve.',
			default: 1,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		start: number({
			label: 'Start',
			help: 'Where it begins.',
			default: 0,
			slider: [-360, 360],
			step: 1,
			unit: '°'
		}),
		sweep: number({
			label: 'Sweep',
			help: 'How far it goes round.',
			default: 90,
			slider: [-360, 360],
			step: 1,
			unit: '°'
		}),
		points: number({
			label: 'Points',
			help: 'How many points lie on it, ends included.',
			default: 17,
			min: 2,
			slider: [2, 128],
			whole: true
		}),
		facing: facingInput
	},
	outputs: { curve: output('geometry', 'Curve', 'The arc.') },
	estimate: ({ points }) => ({ elements: points, of: 'points', lower: 'Lower “Points”.' }),
	run({ radius, start, sweep, points, facing }) {
		const places = range(points).map((i) => {
			const angle = quaternion.radians(start + (sweep * i) / (points - 1));
			return [radius * cos(angle), radius * sin(angle)];
		});
		return { curve: flatCurve(places, facing, false) };
	}
});
