/** The node search: names, trade synonyms, and settings such as “hexagonal grid”. */
import MiniSearch from 'minisearch';
import type { ShelfItem } from '$core/engine/index';
import type { AnyNode, InputDefinition, OutputDefinition, WireKind } from '$core/nodes/index';
import { fits } from '$core/engine/index';
import { nodeKinds, offeredKinds } from '$core/nodes/index';

export interface SearchEntry {
	id: string;
	kind: string;
	name: string;
	family: string;
	help: string;
	/** Settings that the entry brings along. */
	settings: Record<string, unknown>;
	/** What it is on the shelf, where it comes from there. */
	shelved?: ShelfItem;
	picture?: Blob | null;
}

/** A subgraph of the artist's own. */
export interface OwnEntry extends SearchEntry {
	words: string;
	takes: readonly WireKind[];
	gives: readonly WireKind[];
}

/** Where the search is opened, and what is found there beside the kinds of node. */
export interface SearchedIn {
	isInBody?: boolean;
	own?: readonly OwnEntry[];
}

type Indexed = SearchEntry & { words: string; options: string; labels: string; outputs: string };

/** A node, its ready-made settings, and each choice it offers, such as a box whose edges are chamfered. */
function entriesOf(kind: AnyNode): Indexed[] {
	const inputs = Object.entries(kind.inputs as Record<string, InputDefinition>);
	const outputs = Object.values(kind.outputs as Record<string, OutputDefinition>);
	const base = { kind: kind.id, family: kind.family, help: kind.help, options: '', labels: '', outputs: '' };
	const choices = inputs.flatMap(([name, input]) =>
		input.kind !== 'choice'
			? []
			: input.options
					.filter(({ id }) => id !== input.default)
					.map(({ id, label }): Indexed => ({
						...base,
						id: `${kind.id} ${name} ${id}`,
						name: `${kind.name}, ${input.label.toLowerCase()}: ${label.toLowerCase()}`,
						help: input.help,
						words: '',
						options: label,
						settings: { [name]: id }
					}))
	);
	return [
		{
			...base,
			id: kind.id,
			name: kind.name,
			words: kind.words.join(' '),
			labels: inputs.map(([, input]) => input.label).join(' '),
			outputs: outputs.map((output) => output.label).join(' '),
			settings: {}
		},
		...(kind.entries ?? []).map((entry): Indexed => ({
			...base,
			id: `${kind.id} ${entry.name}`,
			name: entry.name,
			words: entry.words.join(' '),
			settings: entry.settings
		})),
		...choices
	];
}

const entries: readonly Indexed[] = [...offeredKinds].flatMap(entriesOf);
const byId = new Map(entries.map((entry) => [entry.id, entry]));
const isChoice = ({ options }: Indexed): boolean => options !== '';

const index = new MiniSearch<Indexed>({
	fields: ['title', 'words', 'options', 'labels', 'outputs', 'help'],
	// A choice is found by its own words only: its name repeats those of the node.
	extractField: (entry, field) =>
		field === 'title'
			? isChoice(entry)
				? ''
				: entry.name
			: field === 'help' && isChoice(entry)
				? ''
				: String(entry[field as keyof Indexed]),
	searchOptions: {
		prefix: true,
		// A slip of the pen in a short word would be another word.
		fuzzy: (term) => (term.length > 4 ? 0.2 : false),
		// How long a list of words is says nothing; equally good ones stay in the order of the families.
		bm25: { k: 1.2, b: 0, d: 0.5 },
		combineWith: 'AND',
		// A node's words stand in the order in which they mean it.
		boostDocument: (id, term) => {
			const { name, words, family } = byId.get(id as string)!;
			// Who types “move” or “remove” means things, not their attributes.
			if (name.endsWith(' attribute') && !'attribute'.startsWith(term)) return 0.4;
			// A path or a value is a thing; what moves is meant by who says how.
			if (family === 'motion' && name.toLowerCase().split(' ').indexOf(term) === 1) return 0.1;
			// A word that a name ends with, after others, says less than one that it begins with.
			const late = name.toLowerCase().split(' ').indexOf(term) >= 2 ? 0.6 : 1;
			const place = words.split(/[\s-]+/).indexOf(term);
			return late * (place < 0 ? 1 : 1 + 0.5 / (1 + place));
		},
		boost: { title: 6, words: 3, options: 3, labels: 0.1, outputs: 0.1, help: 0.02 }
	}
});
index.addAll(entries);

/** What a text finds, the best first. A choice follows its node where the node itself was found better. */
function findAll(text: string): Indexed[] {
	const hits = index.search(text).map((hit) => byId.get(hit.id as string)!);
	// Where no entry has all the words, those that have some.
	const some = hits.length
		? hits
		: index.search(text, { combineWith: 'OR' }).map((hit) => byId.get(hit.id as string)!);
	const isNamed = ({ name }: Indexed): number => Number(name.toLowerCase() === text.trim().toLowerCase());
	some.sort((a, b) => isNamed(b) - isNamed(a));
	const nodes = new Set<string>();
	return some.filter((entry) => {
		if (isChoice(entry) && nodes.has(entry.kind)) return false;
		nodes.add(entry.kind);
		return true;
	});
}

/** What a new node must take or give. */
export interface Wanted {
	/** Takes what this kind of output gives. */
	takes?: WireKind;
	/** Gives what this input takes. */
	gives?: InputDefinition;
}

/** Those of one's own in whose name or words all that is typed begins something. */
function ownFound(text: string, { takes, gives }: Wanted, own: readonly OwnEntry[]): SearchEntry[] {
	const typed = text.toLowerCase().split(/\s+/).filter(Boolean);
	return own.filter((one) => {
		const words = `${one.name} ${one.words}`.toLowerCase().split(/[\s,]+/);
		if (!typed.every((word) => words.some((other) => other.startsWith(word)))) return false;
		if (takes && !one.takes.includes(takes)) return false;
		return !gives || one.gives.some((kind) => fits(kind, gives).fits);
	});
}

/** Entries for a text, the best first; all by family for none. */
export function searchNodes(
	text: string,
	wanted: Wanted = {},
	{ isInBody = false, own = [] }: SearchedIn = {}
): SearchEntry[] {
	const found = text.trim() ? findAll(text) : entries.filter((entry) => entry.id === entry.kind);
	const mine = ownFound(text, wanted, own);
	const kinds = fitting(found, wanted, isInBody);
	return text.trim() ? [...mine, ...kinds] : [...kinds, ...mine];
}

/** What is written most like a text, where nothing has its words: by slips of the pen, then by letters. */
export function nearestNodes(
	text: string,
	wanted: Wanted = {},
	{ isInBody = false }: SearchedIn = {}
): SearchEntry[] {
	const like = index
		.search(text, { fuzzy: 0.45, combineWith: 'OR' })
		.map((hit) => byId.get(hit.id as string)!);
	const plain = fitting(like, wanted, isInBody).filter((entry) => !isChoice(entry));
	if (plain.length) return plain.slice(0, MOST_NEAR);
	const typed = new Set(text.toLowerCase().replace(/\W/g, ''));
	const shared = ({ name }: Indexed) =>
		new Set([...name.toLowerCase()].filter((letter) => typed.has(letter))).size;
	const all = fitting(entries, wanted, isInBody).filter((entry) => !isChoice(entry));
	return all.sort((a, b) => shared(b) / b.name.length - shared(a) / a.name.length).slice(0, MOST_NEAR);
}
const MOST_NEAR = 5;

/** Those that can stand there. Where a weight is wanted, weights come first. */
function fitting(found: readonly Indexed[], wanted: Wanted, isInBody: boolean): Indexed[] {
	const kinds = found.filter(({ kind }) => {
		const { inputs, outputs, inBodies, ownPorts } = nodeKinds.get(kind)!;
		if (inBodies && !isInBody) return false;
		// What goes in and out of them is what is wired to them.
		if (inBodies && ownPorts) return !(kind === 'input' ? wanted.takes : wanted.gives);
		if (
			wanted.takes &&
			!Object.values(inputs as Record<string, InputDefinition>).some(
				(input) => fits(wanted.takes!, input).fits
			)
		)
			return false;
		return (
			!wanted.gives ||
			Object.values(outputs as Record<string, { kind: WireKind }>).some(
				(output) => fits(output.kind, wanted.gives!).fits
			)
		);
	});
	if (wanted.gives?.label !== 'Weight') return kinds;
	const isWeight = ({ family }: Indexed): boolean => family === 'weights';
	return [...kinds.filter(isWeight), ...kinds.filter((entry) => !isWeight(entry))];
}
