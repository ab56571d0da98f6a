import { constant, operate } from '../../varying/index.ts';
import type { Varying } from '../../varying/index.ts';
import { choice, defineNode, number, output, value } from '../define.ts';

export const compare = defineNode({
	id: 'compare',
	version: 1,
	name: 'Compare',
	family: 'values',
	words: ['greater than', 'less than', 'equal', 'condition', 'threshold', 'if', 'logic'],
	help: 'Yes where one value is less than, equal to or greater than another, and no elsewhere.',
	inputs: {
		a: value({ label: 'Value', help: 'What is compared.', default: 0, varies: 'point' }),
		operation: choice({
			label: 'Operation',
			help: 'When the answer is yes.',
			default: 'less',
			options: [
				{ id: 'less', label: 'is less than' },
				{ id: 'atMost', label: 'is at most' },
				{ id: 'equal', label: 'is equal to' },
				{ id: 'unequal', label: 'is not equal to' },
				{ id: 'atLeast', label: 'is at least' },
				{ id: 'greater', label: 'is greater than' }
			]
		}),
		b: value({ label: 'Other', help: 'What it is compared with.', default: 0.5, varies: 'point' }),
		tolerance: number({
			label: 'Tolerance',
			help: 'Values that differ by no more count as equal.',
			default: 0.000001,
			min: 0,
			varies: 'point',
			when: (s) => s.operation === 'equal' || s.operation === 'unequal'
		})
	},
	outputs: { value: output('yesno', 'Yes or no', 'For each element.') },
	run({ a, operation, b, tolerance }) {
		return { value: answer(operation, a, b, tolerance) };
	}
});

function answer(operation: string, a: Varying, b: Varying, tolerance: Varying): Varying {
	switch (operation) {
		case 'less':
		case 'atMost':
			return operate(operation, [a, b]);
		case 'greater':
			return operate('less', [b, a]);
		case 'atLeast':
			return operate('atMost', [b, a]);
		default: {
			const apart = operate('abs', [operate('subtract', [a, b])]);
			const same = operate('atMost', [apart.type === 'vector' ? operate('len', [apart]) : apart, tolerance]);
			return operation === 'equal' ? same : operate('equal', [same, constant(0)]);
		}
	}
}
