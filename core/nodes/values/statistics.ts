import { pollAt } from '../../geometry/index.ts';
import { constant } from '../../varying/index.ts';
import { sortNumbers } from '../../kernels/sort-numbers.ts';
import { defineNode, list, output } from '../define.ts';
import { checkNumbers, sortKeys } from '../list.ts';

export const statistics = defineNode({
	id: 'statistics',
	version: 1,
	name: 'Statistics',
	family: 'values',
	words: ['count', 'minimum', 'maximum', 'average', 'mean', 'median', 'sum', 'length of list'],
	help: 'How many values a list has, the least and the greatest, their sum, mean and median. Of vectors their lengths are taken.',
	inputs: { list: list({ label: 'List', help: 'The values.' }) },
	givesOne: true,
	outputs: {
		count: output('whole', 'Count', 'How many values.'),
		least: output('number', 'Least', 'The least value; 0 of none.'),
		greatest: output('number', 'Greatest', 'The greatest value; 0 of none.'),
		sum: output('number', 'Sum', 'All values added up.'),
		mean: output('number', 'Mean', 'The sum divided by the count; 0 of none.'),
		median: output('number', 'Median', 'Half of the values lie on either side of it.')
	},
	run({ list }) {
		checkNumbers(list, 'List', 'list');
		const keys = sortNumbers(sortKeys(list));
		const n = keys.length;
		// The small ones first, so that many of them count beside a large one.
		let sum = 0;
		for (let i = 0; i < n; i++) {
			pollAt(i);
			sum += keys[i];
		}
		const median = n === 0 ? 0 : n % 2 ? keys[(n - 1) / 2] : (keys[n / 2 - 1] + keys[n / 2]) / 2;
		return {
			count: constant(n),
			least: constant(n ? keys[0] : 0),
			greatest: constant(n ? keys[n - 1] : 0),
			sum: constant(sum),
			mean: constant(n ? sum / n : 0),
			median: constant(median)
		};
	}
});
