import { Growing, pollAt, scratch } from '../../geometry/index.ts';
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
		const { length, width, data, type } = list;
		const places = new Map<string, number>();
		const first = new Growing('index'),
			times = new Growing('double');
		const place = scratch('double', length);
		const rounds = tolerance > 0 && type !== 'text';
		for (let i = 0; i < length; i++) {
			pollAt(i);
			let key = '';
			for (let k = 0; k < width; k++) {
				const x = data[i * width + k];
				key += `${rounds ? Math.floor(x / tolerance + 0.5) : x} `;
			}
			let at = places.get(key);
			if (at === undefined) {
				places.set(key, (at = places.size));
				first.push(i);
				times.push(0);
			}
			times.view()[at]++;
			place[i] = at;
		}
		return {
			list: gatherList(list, first.view()),
			times: listOf('whole', times.take()),
			place: listOf('whole', place)
		};
	}
});
