import { NodeError, plural } from '../../math/index.ts';
import { pollAt, scratch } from '../../geometry/index.ts';
import { choice, defineNode, list, output } from '../define.ts';
import type { List } from '../list.ts';
import { LIST_TYPES, gatherList, listOf, listOfTexts } from '../list.ts';

export const combineLists = defineNode({
	id: 'combine-lists',
	version: 1,
	name: 'Combine lists',
	family: 'values',
	words: ['join', 'append', 'concatenate', 'alternate', 'zip', 'interleave', 'merge lists'],
	help: 'Several lists as one: end to end, or in turn, one value of each.',
	inputs: {
		lists: list({ label: 'Lists', help: 'In the order of their wires.', many: true }),
		method: choice({
			label: 'Method',
			help: 'In turn goes on with the longer ones when a list has ended.',
			default: 'end',
			options: [
				{ id: 'end', label: 'End to end' },
				{ id: 'turn', label: 'In turn' }
			]
		})
	},
	outputs: { list: output('list', 'List', 'All values.') },
	run({ lists, method }, context) {
		const all = endToEnd(lists);
		if (method === 'end') return { list: all };
		const longest = Math.max(0, ...lists.map(({ length }) => length));
		if (lists.some(({ length }) => length !== longest))
			context.warn(
				`The lists have ${lists.map(({ length }) => plural(length, 'value', 'values')).join(', ')}: the longer ones go on alone at the end.`
			);
		const order = scratch('index', all.length);
		let at = 0;
		for (let i = 0; i < longest; i++) {
			pollAt(i);
			let start = 0;
			for (const { length } of lists) {
				if (i < length) order[at++] = start + i;
				start += length;
			}
		}
		return { list: gatherList(all, order) };
	}
});

function endToEnd(lists: readonly List[]): List {
	const [first, ...others] = lists;
	const isText = first.type === 'text';
	const odd = others.find(({ type, width }) => (type === 'text') !== isText || width !== first.width);
	if (odd)
		throw new NodeError(
			`A list of ${LIST_TYPES[odd.type]} cannot follow one of ${LIST_TYPES[first.type]}. Connect lists of one type.`,
			{ input: 'lists' }
		);
	if (isText)
		return listOfTexts(lists.flatMap(({ data, words }) => Array.from(data, (place) => words![place])));
	const data = scratch(
		'double',
		lists.reduce((sum, list) => sum + list.data.length, 0)
	);
	let at = 0;
	for (const list of lists) {
		data.set(list.data, at);
		at += list.data.length;
	}
	const type = others.every((list) => list.type === first.type) ? first.type : 'number';
	return listOf(type as Exclude<typeof type, 'text'>, data);
}
