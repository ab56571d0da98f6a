import { firstOfEach } from '../../kernels/first-of-each.ts';
import { pollAt, scratch } from '../../geometry/index.ts';
import { defineNode, list, number, output } from '../define.ts';
import { gatherList, listOf } from '../list.ts';

export const uniqueValues = defineNode({
	id: 'unique-values',
	version: 1,
	name: 'Unique values',
	family: 'values',
	words: ['distinct', 'deduplicate', 'remove duplicates', 'set', 'different'],
	help: 'Every different value of a list once, in the order in which it first comes, and how often each is there.',
	inputs: {
		list: list({ label: 'List', help: 'The values.' }),
		tolerance: number({
			label: 'Tolerance',
			help: 'Numbers count as the same where rounding to steps of this size makes them so. 0: only equal ones.',
			default: 0,
			min: 0
		})
	},
	outputs: {
		list: output('list', 'List', 'The different values.'),
		times: output('list', 'Occurrences', 'How often each is there.'),
		place: output(
			'list',
			'Place',
			'For every value of the list the place of its like among the different ones.'
		)
	},
	run({ list, tolerance }) {
		const { width, data, type } = list;
		const rounds = tolerance > 0 && type !== 'text';
		let keys: ArrayLike<number> = data;
		if (rounds) {
			const steps = (keys = scratch('double', data.length));
			for (let i = 0; i < data.length; i++) {
				pollAt(i);
				steps[i] = Math.floor(data[i] / tolerance + 0.5);
			}
		}
		const { firsts, places, times } = firstOfEach(keys, width);
		return {
			list: gatherList(list, firsts),
			times: listOf('whole', times),
			place: listOf('whole', places)
		};
	}
});
