import type { Varying } from '../../varying/index.ts';
import { operate } from '../../varying/index.ts';
import { choice, defineNode, number, value } from '../define.ts';
import { clamped, oneMinus, weightOutput } from './weight-tools.ts';

const WAYS: Record<string, (a: Varying, b: Varying) => Varying> = {
	multiply: (a, b) => operate('multiply', [a, b]),
	add: (a, b) => operate('add', [a, b]),
	subtract: (a, b) => operate('subtract', [a, b]),
	maximum: (a, b) => operate('max', [a, b]),
	minimum: (a, b) => operate('min', [a, b]),
	'soft-union': (a, b) => oneMinus(operate('multiply', [oneMinus(a), oneMinus(b)])),
	difference: (a, b) => operate('abs', [operate('subtract', [a, b])]),
	second: (_a, b) => b
};

export const combineWeights = defineNode({
	id: 'combine-weights',
	version: 1,
	name: 'Combine weights',
	family: 'weights',
	words: ['multiply', 'add', 'blend', 'maximum', 'minimum', 'mix', 'falloff', 'mask'],
	help: 'One weight from two. The result stays between 0 and 1.',
	renamed: [
		{
			before: 2,
			inputs: { how: 'operation' },
			options: { operation: { either: 'soft-union', higher: 'maximum', lower: 'minimum' } }
		}
	],
	inputs: {
		first: value({ label: 'First', help: 'A weight.', default: 1, varies: 'point' }),
		second: value({ label: 'Second', help: 'Another weight.', default: 1, varies: 'point' }),
		operation: choice({
			label: 'Operation',
			help: 'Multiply keeps what both have; soft union keeps what one of them has.',
			default: 'multiply',
			options: [
				{ id: 'multiply', label: 'Multiply' },
				{ id: 'soft-union', label: 'Soft union' },
				{ id: 'add', label: 'Add' },
				{ id: 'subtract', label: 'Subtract' },
				{ id: 'maximum', label: 'Maximum' },
				{ id: 'minimum', label: 'Minimum' },
				{ id: 'difference', label: 'Difference' },
				{ id: 'second', label: 'Second only' }
			]
		}),
		amount: number({
			label: 'Amount',
			help: 'How far from the first alone (0) to the combination (1).',
			default: 1,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'point'
		})
	},
	outputs: { weight: weightOutput },
	run: ({ first, second, operation, amount }) => ({
		weight: clamped(operate('mix', [first, WAYS[operation](first, second), amount]))
	})
});
