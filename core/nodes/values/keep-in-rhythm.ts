import { NodeError } from '../../math/index.ts';
import { Growing } from '../../geometry/index.ts';
import { choice, defineNode, list, number, output, text } from '../define.ts';
import { gatherList } from '../list.ts';
import { checkConnected, elementsIn, keepElements, oldIndexInput, thinningInputs } from './thinning-tools.ts';

export const keepInRhythm = defineNode({
	id: 'keep-in-rhythm',
	version: 1,
	name: 'Keep in rhythm',
	family: 'values',
	words: [
		'every other',
		'pattern',
		'thin out',
		'skip',
		'alternate',
		'filter',
		'decimate',
		'dashes',
		'thinning'
	],
	help: 'Keeps some in a rhythm that repeats, such as “keep 3, skip 2”, of points, curves, faces, copies or a list. What stays keeps its identity, so random values stay with it.',
	withNothing: 'With nothing connected it waits for geometry or a list.',
	example: { settings: { keep: 2, skip: 1 }, wires: { geometry: 'sown' } },
	inputs: {
		...thinningInputs,
		method: choice({
			label: 'Method',
			help: 'How the rhythm is told.',
			default: 'pair',
			options: [
				{ id: 'pair', label: 'Keep and skip' },
				{ id: 'runs', label: 'Several runs' },
				{ id: 'list', label: 'A list of yes and no' }
			]
		}),
		keep: number({
			label: 'Keep',
			help: 'So many stay.',
			default: 1,
			min: 0,
			slider: [0, 12],
			whole: true,
			when: (s) => s.method === 'pair'
		}),
		skip: number({
			label: 'Skip',
			help: 'Then so many go.',
			default: 1,
			min: 0,
			slider: [0, 12],
			whole: true,
			when: (s) => s.method === 'pair'
		}),
		runs: text({
			label: 'Runs',
			help: 'How many stay and how many go, in turn: 3, 2, 1, 2 keeps three, skips two, keeps one, skips two.',
			default: '3, 2, 1, 2',
			placeholder: '3, 2, 1, 2',
			when: (s) => s.method === 'runs'
		}),
		pattern: list({
			label: 'Yes and no',
			help: 'One value for each element; it repeats. Numbers: all but 0 stay.',
			optional: true,
			when: (s: Record<string, unknown>) => s.method === 'list'
		}),
		shift: number({
			label: 'Shift',
			help: 'How many places later the rhythm begins.',
			default: 0,
			whole: true
		}),
		oldIndex: oldIndexInput
	},
	outputs: {
		geometry: output('geometry', 'Geometry', 'What is left of the geometry.'),
		list: output('list', 'List', 'What is left of the list.')
	},
	run({ geometry, list, elements, method, keep, skip, runs, pattern, shift, oldIndex }, context) {
		checkConnected(geometry, list);
		const round =
			method === 'pair' ? rounds([keep, skip]) : method === 'runs' ? rounds(readRuns(runs)) : null;
		if (method === 'list' && !pattern)
			throw new NodeError('Connect a list of yes and no to “Yes and no”.', { input: 'pattern' });
		const beats = round ?? Array.from(pattern!.data, (x) => x !== 0);
		const rowsOf = (count: number) => {
			const rows = new Growing('index');
			const n = beats.length;
			if (n) for (let i = 0; i < count; i++) if (beats[(((i - shift) % n) + n) % n]) rows.push(i);
			return rows.take();
		};
		const found = geometry && elementsIn(geometry, elements, context.warn);
		const kept = found ? keepElements(geometry, found, rowsOf(found.table.count), oldIndex) : geometry;
		return {
			...(kept && { geometry: kept }),
			...(list && { list: gatherList(list, rowsOf(list.length)) })
		} as never;
	}
});

/** The longest rhythm. */
const LONGEST = 100_000;

/** Runs of yes and no as one round of them. */
function rounds(runs: readonly number[]): boolean[] {
	if (runs.reduce((sum, run) => sum + run, 0) > LONGEST)
		throw new NodeError(`One round of the rhythm is longer than ${LONGEST}. Lower its numbers.`);
	return runs.flatMap((run, i) => Array<boolean>(run).fill(i % 2 === 0));
}

function readRuns(text: string): number[] {
	const words = text.split(/[\s,]+/).filter(Boolean);
	const runs = words.map(Number);
	const wrong = runs.findIndex((run) => !(Number.isInteger(run) && run >= 0));
	if (wrong >= 0)
		throw new NodeError(
			`“${words[wrong].slice(0, 40)}” in “Runs” is not a whole number. Write how many stay and how many go in turn, such as 3, 2.`,
			{ input: 'runs' }
		);
	// Without its other half the last run would join the first.
	return runs.length % 2 ? [...runs, 0] : runs;
}
