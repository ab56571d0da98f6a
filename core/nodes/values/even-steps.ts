import { allocate, pollAt } from '../../geometry/index.ts';
import { defineNode, number, output } from '../define.ts';
import { listOf } from '../list.ts';

export const evenSteps = defineNode({
	id: 'even-steps',
	version: 1,
	name: 'Even steps',
	family: 'values',
	words: ['linspace', 'range', 'divide', 'series', 'list', 'interpolate'],
	help: 'A list of numbers at even distances from one end to the other, both included.',
	inputs: {
		from: number({ label: 'From', help: 'The first number.', default: 0 }),
		to: number({ label: 'To', help: 'The last number.', default: 1 }),
		count: number({
			label: 'Count',
			help: 'How many numbers. One alone is the first.',
			default: 11,
			min: 0,
			slider: [2, 100],
			whole: true
		})
	},
	outputs: { list: output('list', 'List', 'The numbers in order.') },
	estimate: ({ count }) => ({ elements: count, of: 'numbers', lower: 'Lower “Count”.' }),
	run({ from, to, count }) {
		const data = allocate('double', count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			data[i] = i === count - 1 && count > 1 ? to : from + ((to - from) * i) / Math.max(1, count - 1);
		}
		return { list: listOf('number', data) };
	}
});
