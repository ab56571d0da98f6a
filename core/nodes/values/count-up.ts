import { allocate, pollAt } from '../../geometry/index.ts';
import { defineNode, number, output } from '../define.ts';
import { listOf } from '../list.ts';

export const countUp = defineNode({
	id: 'count-up',
	version: 1,
	name: 'Count up',
	family: 'values',
	words: ['series', 'sequence', 'range', 'list', 'counter'],
	help: 'A list that starts at a number and goes up by a step: 0, 1, 2, 3 and so on.',
	inputs: {
		start: number({ label: 'From', help: 'The first number.', default: 0 }),
		step: number({ label: 'Spacing', help: 'What is added each time. Negative counts down.', default: 1 }),
		count: number({
			label: 'Count',
			help: 'How many numbers.',
			default: 10,
			min: 0,
			slider: [0, 100],
			whole: true
		})
	},
	outputs: { list: output('list', 'List', 'The numbers in order.') },
	estimate: ({ count }) => ({ elements: count, of: 'numbers', lower: 'Lower “Count”.' }),
	run({ start, step, count }) {
		const data = allocate('double', count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			data[i] = start + i * step;
		}
		return { list: listOf('number', data) };
	}
});
