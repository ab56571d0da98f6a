import { NodeError, mix } from '../../math/index.ts';
import { pollAt, scratch } from '../../geometry/index.ts';
import { choice, defineNode, list, number, output, yesNo } from '../define.ts';
import { gatherList, sortKeys } from '../list.ts';

export const reorderList = defineNode({
	id: 'reorder-list',
	version: 1,
	name: 'Reorder list',
	family: 'values',
	words: ['sort', 'reverse', 'shuffle', 'rotate', 'shift', 'order', 'permute'],
	help: 'The same values in another order: reversed, turned by some places, sorted, or shuffled.',
	inputs: {
		list: list({ label: 'List', help: 'The values.' }),
		method: choice({
			label: 'Method',
			help: 'How they are ordered.',
			default: 'reversed',
			options: [
				{ id: 'reversed', label: 'Reversed' },
				{ id: 'turned', label: 'Turned' },
				{ id: 'sorted', label: 'Sorted' },
				{ id: 'shuffled', label: 'Shuffled' }
			]
		}),
		places: number({
			label: 'Places',
			help: 'By how many places all values move towards the end; those that fall off come in at the front.',
			default: 1,
			whole: true,
			when: (s) => s.method === 'turned'
		}),
		by: list({
			label: 'Sort by',
			help: 'Another list, whose values say the order: the value beside its least comes first. Unwired: the values themselves.',
			optional: true,
			when: (s: Record<string, unknown>) => s.method === 'sorted'
		}),
		descending: yesNo({
			label: 'Greatest first',
			help: 'From the greatest to the least. Equal ones stay in their order.',
			default: false,
			when: (s) => s.method === 'sorted'
		}),
		seed: number({
			label: 'Seed',
			help: 'Another seed, another order.',
			default: 0,
			whole: true,
			min: 0,
			when: (s) => s.method === 'shuffled'
		})
	},
	outputs: { list: output('list', 'List', 'The values in their new order.') },
	seeded: true,
	run({ list, method, places, by, descending, seed }, context) {
		const n = list.length;
		if (method === 'sorted' && by && by.length < n)
			throw new NodeError(
				`“Sort by” has ${by.length} values for ${n}. Connect a list that is as long, or repeat it with “Repeat list”.`,
				{ input: 'by' }
			);
		const order = scratch('index', n);
		for (let i = 0; i < n; i++) {
			pollAt(i);
			order[i] = method === 'reversed' ? n - 1 - i : method === 'turned' ? (((i - places) % n) + n) % n : i;
		}
		if (method === 'sorted' || method === 'shuffled') {
			const [first, second] = context.stream(`shuffle ${seed}`);
			const keys = method === 'sorted' ? sortKeys(by ?? list) : scratch('double', n);
			// Each place draws a number of its own; sorted by these, every order is as likely.
			if (method === 'shuffled')
				for (let i = 0; i < n; i++) {
					pollAt(i);
					keys[i] = (mix(mix(first, i), second) >>> 0) * 2097152 + (mix(mix(second, i), first) >>> 11);
				}
			const sign = method === 'sorted' && descending ? -1 : 1;
			order.sort((a, b) => sign * (keys[a] - keys[b]) || a - b);
		}
		return { list: gatherList(list, order) };
	}
});
