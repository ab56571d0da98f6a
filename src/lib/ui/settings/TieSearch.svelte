<script lang="ts">
	import type { TieEnd } from '$core/engine/index';
	import { PARTS, endAt, inputsShown, partName } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import SearchList from '../SearchList.svelte';

	interface Props {
		editor: Editor;
		/** The node and the setting, or part of one, that shall be tied. */
		node: string;
		name: string;
		anchor: HTMLElement | null;
		open: boolean;
	}
	let { editor, node, name, anchor, open = $bindable() }: Props = $props();

	const own = $derived(endAt(editor.graphId, node, name));
	interface Other {
		id: string;
		text: string;
		hints: string[];
		end: TieEnd;
	}
	/** All that could be tied to it: settings and parts of this graph, and dials. */
	const others = (): Other[] => {
		const settings = editor.graph.nodes.flatMap((one) =>
			inputsShown(one).flatMap(([setting, input]): Other[] => {
				const isParted =
					input.kind === 'vector' && Array.isArray(editor.playing.rawAt({ node: one.id, setting }));
				const names = isParted ? PARTS.map((part) => partName(setting, part)) : [setting];
				return names.map((of) => ({
					id: `${one.id} ${of}`,
					text: `${one.short}.${of}`,
					hints: [input.label],
					end: endAt(editor.graphId, one.id, of)
				}));
			})
		);
		const dials = editor.dials.all.map(({ key, name: text }): Other => ({
			id: `dial ${key}`,
			text: `dial.${key}`,
			hints: [text],
			end: { dial: key }
		}));
		return [...dials, ...settings].filter(({ end }) => editor.dials.whyNoTie(own, end) === null);
	};
	function pick(id: string) {
		const other = others().find((one) => one.id === id);
		if (other) editor.dials.tie(own, other.end);
	}
</script>

<SearchList
	bind:open
	{anchor}
	label="What it is tied to"
	items={others}
	empty="Nothing here could be tied to it: ties bind plain numbers."
	onpick={pick}
/>
