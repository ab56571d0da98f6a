import { constant, element, operate, vector as vectorOf } from '../../varying/index.ts';
import { defineNode, number, vector } from '../define.ts';
import { wayBetween, weightOutput } from './weight-tools.ts';

export const weightBySlope = defineNode({
	id: 'weight-by-slope',
	version: 1,
	name: 'Weight by slope',
	family: 'weights',
	words: ['steepness', 'angle', 'normal', 'falloff', 'mask'],
	help: 'By how steep the surface is: 0 up to one angle, 1 from another. Change them over to weigh what is flat.',
	inputs: {
		from: number({
			label: 'From',
			help: 'The slope that weighs 0.',
			default: 0,
			min: 0,
			max: 180,
			unit: '°',
			varies: 'point'
		}),
		to: number({
			label: 'To',
			help: 'The slope that weighs 1.',
			default: 45,
			min: 0,
			max: 180,
			unit: '°',
			varies: 'point'
		}),
		up: vector({ label: 'Up', help: 'The way from which slope is measured.', default: [0, 1, 0] })
	},
	outputs: { weight: weightOutput },
	run({ from, to, up }) {
		const cosine = operate('dot', [
			operate('normalize', [element('normal')]),
			operate('normalize', [vectorOf(up[0], up[1], up[2])])
		]);
		const slope = operate('degrees', [
			operate('acos', [operate('clamp', [cosine, constant(-1), constant(1)])])
		]);
		return { weight: wayBetween(slope, from, to) };
	}
});
