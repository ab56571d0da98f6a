/** What the Handbook shows: its chapters, what is searched for, and the example of a page at work. */
import type { AnyNode } from '$core/nodes/index';
import { chapters, exampleOf, pageOf } from '$core/handbook/index';
import { nodeKinds } from '$core/nodes/index';
import { Editor } from '$lib/editor/editor.svelte';
import { NotKept } from '$lib/editor/not-kept.svelte';
import { ranked } from '../rank';

/** Every page with the words by which it is found. */
const ALL = chapters().flatMap(({ family, kinds }) =>
	kinds.map((kind) => ({
		kind,
		family,
		text: kind.name,
		hints: [
			family,
			...kind.words,
			...(Object.values(kind.inputs) as { label: string }[]).map(({ label }) => label)
		]
	}))
);

/** Chapters with those pages that fit what is typed, the best first where something is. */
export function found(typed: string): { family: string; kinds: AnyNode[] }[] {
	if (!typed.trim()) return chapters();
	const fitting = ranked(ALL, typed);
	return fitting.length ? [{ family: 'Found', kinds: fitting.map(({ kind }) => kind) }] : [];
}

/** The page of a node by its id; null where there is none. */
export const pageFor = (id: string) => {
	const kind = nodeKinds.get(id);
	return kind ? pageOf(kind) : null;
};

/** The example of a node in an editor of its own, which keeps nothing; null where a node has none. */
export function openExample(id: string): { editor: Editor; subject: string } | null {
	const kind = nodeKinds.get(id);
	const example = kind ? exampleOf(kind) : null;
	if (!example) return null;
	const editor = new Editor('handbook', example.document, new NotKept());
	editor.select([example.subject]);
	return { editor, subject: example.subject };
}
