import { element, operate, vector as vectorOf } from '../../varying/index.ts';
import { defineNode, number, vector } from '../define.ts';
import { wayBetween, weightOutput } from './weight-tools.ts';

export const weightByHeight = defineNode({
	id: 'weight-by-height',
	version: 1,
	name: 'Weight by height',
	family: 'weights',
	words: ['elevation', 'altitude', 'gradient', 'linear', 'falloff', 'mask'],
	help: 'By how high an element lies: 0 up to one height, 1 from another. Another direction makes it a gradient any way.',
	inputs: {
		from: number({
			label: 'From',
			help: 'The height that weighs 0.',
			default: 0,
			slider: [-5, 5],
			unit: 'm',
			varies: 'point'
		}),
		to: number({
			label: 'To',
			help: 'The height that weighs 1.',
			default: 1,
			slider: [-5, 5],
			unit: 'm',
			varies: 'point'
		}),
		direction: vector({ label: 'Direction', help: 'The way that counts as up.', default: [0, 1, 0] })
	},
	outputs: { weight: weightOutput },
	run: ({ from, to, direction: [x, y, z] }) => ({
		weight: wayBetween(
			operate('dot', [element('position'), operate('normalize', [vectorOf(x, y, z)])]),
			from,
			to
		)
	})
});
