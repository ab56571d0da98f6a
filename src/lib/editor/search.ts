/** The node search: names, trade synonyms, and settings such as “hexagonal grid”. */
import MiniSearch from 'minisearch';
import type { InputDefinition, WireKind } from '$core/index';
import { fits, nodeKinds } from '$core/index';

export interface SearchEntry {
	id: string;
	kind: string;
	name: string;
	family: string;
	help: string;
	/** Settings that the entry brings along. */
	settings: Record<string, unknown>;
}

const entries: (SearchEntry & { words: string; labels: string })[] = [...nodeKinds.values()].flatMap(
	(kind) => {
		const labels = Object.values(kind.inputs as Record<string, InputDefinition>)
			.map((input) => input.label)
			.join(' ');
		const base = { kind: kind.id, family: kind.family, help: kind.help, labels };
		return [
			{ ...base, id: kind.id, name: kind.name, words: kind.words.join(' '), settings: {} },
			...(kind.entries ?? []).map((entry) => ({
				...base,
				id: `${kind.id} ${entry.name}`,
				name: entry.name,
				words: entry.words.join(' '),
				labels: '',
				settings: entry.settings as Record<string, unknown>
			}))
		];
	}
);
const byId = new Map(entries.map((entry) => [entry.id, entry]));

const index = new MiniSearch({
	fields: ['name', 'words', 'labels', 'help'],
	searchOptions: { prefix: true, fuzzy: 0.2, boost: { name: 6, words: 3, labels: 0.5, help: 0.3 } }
});
index.addAll(entries);

/** What a new node must take or give. */
export interface Wanted {
	/** Takes what this kind of output gives. */
	takes?: WireKind;
	/** Gives what this input takes. */
	gives?: InputDefinition;
}

/** Entries for a text, the best first; all by family for none. */
export function searchNodes(text: string, wanted: Wanted = {}): SearchEntry[] {
	const found = text.trim()
		? index.search(text).map((hit) => byId.get(hit.id as string)!)
		: entries.filter((entry) => entry.id === entry.kind);
	return found.filter(({ kind }) => {
		const { inputs, outputs } = nodeKinds.get(kind)!;
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
}
