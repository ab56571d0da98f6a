import { pollAt, scratch } from '../../geometry/index.ts';
import { defineNode, list, number, output } from '../define.ts';
import { gatherList } from '../list.ts';

export const partOfList = defineNode({
	id: 'part-of-list',
	version: 1,
	name: 'Part of list',
	family: 'values',
	words: ['sublist', 'range', 'item', 'first', 'last', 'head', 'tail', 'trim'],
	help: 'Some values of a list: from a place on, so many. Places count from 0; a negative one counts from the end, −1 is the last.',
	inputs: {
		list: list({ label: 'List', help: 'The values.' }),
		start: number({ label: 'From place', help: 'The first that is taken.', default: 0, whole: true }),
		count: number({ label: 'Count', help: 'How many at most.', default: 1, min: 0, whole: true })
	},
	outputs: {
		list: output('list', 'List', 'The part.'),
		rest: output('list', 'Rest', 'All other values, in their order.')
	},
	run({ list, start, count }) {
		const n = list.length;
		const from = Math.min(n, Math.max(0, start < 0 ? n + start : start));
		const to = Math.min(n, from + count);
		const part = scratch('index', to - from),
			rest = scratch('index', n - part.length);
		for (let i = 0, p = 0, r = 0; i < n; i++) {
			pollAt(i);
			if (i >= from && i < to) part[p++] = i;
			else rest[r++] = i;
		}
		return { list: gatherList(list, part), rest: gatherList(list, rest) };
	}
});
