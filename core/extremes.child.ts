/**
 * Evaluates every kind of node with one number after another at an extreme, in a process of its own that can be ended
 * from outside. Prints a line of JSON before each case and its message after it.
 */
import { Evaluator } from './engine/index.ts';
import { generator } from './testing/index.ts';
import type { Row } from './testing/index.ts';
import type { AnyNode, InputDefinition } from './nodes/index.ts';
import { offeredKinds } from './nodes/index.ts';

const SOURCES: Row[] = [
	['even-steps', 'steps', { count: 6 }],
	['grid', 'sheet', { columns: 20, rows: 20 }],
	['helix', 'spring', { turns: 3 }],
	['row-of-points', 'row'],
	['box', 'box'],
	['grid-of-points', 'cage', { countX: 2, countY: 2, countZ: 2 }],
	['place-copies', 'copies', {}, { points: 'row.points', source: 'box.mesh' }]
];
const FITTING: Record<string, string> = {
	mesh: 'sheet.mesh',
	curves: 'spring.curve',
	points: 'row.points',
	copies: 'copies.copies'
};
const EXTREMES = [1e9, 1e-9, -1e9];

const inputsOf = (kind: AnyNode) => Object.entries(kind.inputs) as [string, InputDefinition][];

function wiresFor(kind: AnyNode): Record<string, string> {
	const wires: Record<string, string> = {};
	for (const [name, input] of inputsOf(kind))
		if (input.kind === 'list') wires[name] = 'steps.list';
		else if (input.kind === 'geometry' && !(input.optional && !input.needs))
			wires[name] = kind.id === 'bend-lattice' ? 'cage.points' : (FITTING[input.needs ?? ''] ?? 'sheet.mesh');
	return wires;
}

/** Choices under which a setting has a say. */
function choicesFor(kind: AnyNode, input: InputDefinition): Record<string, string> {
	const defaults = Object.fromEntries(
		inputsOf(kind).map(([name, one]) => [name, 'default' in one ? one.default : undefined])
	);
	if (!input.when || input.when(defaults)) return {};
	for (const [name, one] of inputsOf(kind))
		if (one.kind === 'choice')
			for (const { id } of one.options) if (input.when({ ...defaults, [name]: id })) return { [name]: id };
	return {};
}

for (const kind of offeredKinds)
	for (const [name, input] of inputsOf(kind)) {
		if (input.kind !== 'number' && input.kind !== 'vector') continue;
		for (const extreme of EXTREMES) {
			console.log(JSON.stringify({ kind: kind.id, name, extreme }));
			const value = input.kind === 'vector' ? [extreme, extreme, extreme] : extreme;
			const document = generator([
				...SOURCES,
				[kind.id, 'it', { ...choicesFor(kind, input), [name]: value }, wiresFor(kind)]
			]);
			const { id } = document.graphs.main.nodes.find(({ short }) => short === 'it')!;
			const evaluator = new Evaluator({ memory: 300e6, seconds: 1 });
			const { error } = evaluator.evaluate(document, [id]).results.get(id)!;
			if (error) console.log(JSON.stringify({ message: error.message }));
		}
	}
console.log(JSON.stringify({ done: true }));
