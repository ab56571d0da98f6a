import { pollAt, scratch } from '../../geometry/index.ts';
import { choice, defineNode, list, number, output } from '../define.ts';
import { gatherList } from '../list.ts';

export const repeatList = defineNode({
	id: 'repeat-list',
	version: 1,
	name: 'Repeat list',
	family: 'values',
	words: ['cycle', 'tile', 'duplicate values', 'loop', 'fill', 'extend'],
	help: 'A list several times over: as a whole, each value by itself, there and back, or as far as a count.',
	inputs: {
		list: list({ label: 'List', help: 'The values.' }),
		method: choice({
			label: 'Method',
			help: 'What is repeated.',
			default: 'whole',
			options: [
				{ id: 'whole', label: 'The whole list' },
				{ id: 'each', label: 'Each value' },
				{ id: 'back', label: 'There and back' },
				{ id: 'count', label: 'As far as a count' }
			]
		}),
		times: number({
			label: 'Repeats',
			help: 'How often. There and back: the list and its way back are one time; the ends stand once at each turn.',
			default: 2,
			min: 0,
			whole: true,
			when: (s) => s.method !== 'count'
		}),
		count: number({
			label: 'Count',
			help: 'How many values there shall be. Fewer than there are cuts the list off.',
			default: 24,
			min: 0,
			whole: true,
			when: (s) => s.method === 'count'
		})
	},
	outputs: { list: output('list', 'List', 'The longer list.') },
	estimate: ({ list, method, times, count }) => ({
		elements: method === 'count' ? count : lengthOf(list.length, method, times),
		of: 'values',
		lower: method === 'count' ? 'Lower “Count”.' : 'Lower “Repeats”.'
	}),
	run({ list, method, times, count }) {
		const n = list.length;
		const total = n === 0 ? 0 : method === 'count' ? count : lengthOf(n, method, times);
		const places = scratch('index', total);
		const round = Math.max(1, 2 * n - 2);
		for (let i = 0; i < total; i++) {
			pollAt(i);
			const back = i % round;
			places[i] =
				method === 'each'
					? Math.floor(i / times)
					: method === 'back'
						? back < n
							? back
							: round - back
						: i % n;
		}
		return { list: gatherList(list, places) };
	}
});

const lengthOf = (n: number, method: string, times: number): number =>
	method === 'back' && n > 0 && times > 0 ? times * Math.max(1, 2 * n - 2) + (n > 1 ? 1 : 0) : n * times;
