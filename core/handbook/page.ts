/** What the Handbook says of a node, all of it read from the node's definition. */
import { inputKind } from '../engine/index.ts';
import { CARRIED } from '../engine/inputs/index.ts';
import type { AnyNode, Family, InputDefinition, OutputDefinition } from '../nodes/index.ts';
import { FAMILIES, offeredKinds, takesMany } from '../nodes/index.ts';

export interface PageRow {
	name: string;
	label: string;
	/** What it holds or carries. */
	holds: string;
	help: string;
	/** For a setting: what it begins with, its range and its unit; empty where there is nothing to say. */
	range: string;
	/** The kind of element by which it may differ; empty where it does not. */
	varies: string;
}

export interface HandbookPage {
	id: string;
	name: string;
	family: Family;
	does: string;
	words: readonly string[];
	/** What comes by wires, and what is set. */
	comesIn: PageRow[];
	settings: PageRow[];
	goesOut: PageRow[];
	/** What it does with nothing connected. */
	withNothing: string;
}

/** The families in the order of the Handbook, each with its nodes. */
export function chapters(): { family: Family; kinds: AnyNode[] }[] {
	return FAMILIES.map((family) => ({
		family,
		kinds: offeredKinds.filter((kind) => kind.family === family)
	})).filter(({ kinds }) => kinds.length);
}

export function pageOf(kind: AnyNode): HandbookPage {
	// Rows after the first say the same again.
	const inputs = (Object.entries(kind.inputs) as [string, InputDefinition][]).filter(([, { row }]) => !row);
	const isWired = ([, input]: [string, InputDefinition]) =>
		input.kind === 'geometry' || input.kind === 'list' || takesMany(input);
	return {
		id: kind.id,
		name: kind.name,
		family: kind.family,
		does: kind.help,
		words: kind.words,
		comesIn: inputs.filter(isWired).map(rowOf),
		// How many rows there are is told by buttons.
		settings: inputs.filter((one) => !isWired(one) && !(kind.rows && one[0] === 'rows')).map(rowOf),
		goesOut: (Object.entries(kind.outputs) as [string, OutputDefinition][]).map(([name, output]) => ({
			name,
			label: output.label,
			holds: CARRIED[output.kind].holds,
			help: output.help,
			range: '',
			varies: ''
		})),
		withNothing: withNothing(kind)
	};
}

const NEEDS: Readonly<Record<string, string>> = {
	mesh: 'a mesh',
	curves: 'curves',
	points: 'points',
	copies: 'copies'
};
function rowOf([name, input]: [string, InputDefinition]): PageRow {
	return {
		name,
		label: input.label,
		holds: holdsOf(input),
		help: input.help,
		range: rangeOf(input),
		varies: ('varies' in input && input.varies) || ''
	};
}

function holdsOf(input: InputDefinition): string {
	const many = takesMany(input) ? ', several wires' : '';
	const optional = 'optional' in input && input.optional ? ', optional' : '';
	switch (input.kind) {
		case 'geometry': {
			const needs = input.needs && input.needs !== 'anything' ? ` with ${NEEDS[input.needs]}` : '';
			return `geometry${needs}${many}${optional}`;
		}
		case 'number':
			return input.whole ? 'whole number' : 'number';
		case 'yesno':
			return 'yes or no';
		case 'choice':
			return input.options.map(({ label }) => label).join(' · ');
		case 'asset':
			return `a file (${input.accept.join(', ')})`;
		case 'path':
			return 'a curve drawn in the View';
		default:
			return `${input.kind}${many}${optional}`;
	}
}

function rangeOf(input: InputDefinition): string {
	const unit = 'unit' in input && input.unit ? (input.unit === '°' ? '°' : ` ${input.unit}`) : '';
	const start = inputKind(input).start(input);
	const begins =
		typeof start === 'number'
			? `${start}${unit}`
			: typeof start === 'boolean'
				? start
					? 'yes'
					: 'no'
				: input.kind === 'choice'
					? (input.options.find(({ id }) => id === start)?.label ?? '')
					: typeof start === 'string' && start
						? `“${start}”`
						: Array.isArray(start)
							? `${start.join(', ')}${unit}`
							: '';
	const ends =
		input.kind !== 'number'
			? ''
			: input.min !== undefined && input.max !== undefined
				? `, ${input.min} to ${input.max}`
				: input.min !== undefined
					? `, at least ${input.min}`
					: input.max !== undefined
						? `, at most ${input.max}`
						: '';
	return begins && `${begins} at first${ends}`;
}

/** Inputs of which at least one must be wired, with the settings that a new node begins with. */
function neededInputs(kind: AnyNode): InputDefinition[] {
	const settings = Object.fromEntries(
		(Object.entries(kind.inputs) as [string, InputDefinition][]).map(([name, input]) => [
			name,
			inputKind(input).start(input)
		])
	);
	return (Object.values(kind.inputs) as InputDefinition[]).filter(
		(input) =>
			(input.kind === 'geometry' || input.kind === 'list') &&
			!('optional' in input && input.optional) &&
			(!input.when || input.when(settings))
	);
}

function withNothing(kind: AnyNode): string {
	if (kind.withNothing) return kind.withNothing;
	const needed = neededInputs(kind);
	const names = needed.map(({ label }) => `“${label}”`);
	if (!needed.length) return 'It needs nothing: with nothing connected it works by its settings alone.';
	const all = names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)}` : names[0];
	return `With nothing connected it waits for ${all}.`;
}
