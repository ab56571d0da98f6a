<script lang="ts" module>
	import type { Wire } from '$core/engine/index';

	/** Where a menu was asked for on the screen, and of what. */
	export type GraphMenuAt = { x: number; y: number } & (
		{ on: 'ground' } | { on: 'node'; id: string } | { on: 'wire'; wire: Wire }
	);
</script>

<script lang="ts">
	import { bodyNameOf } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import PlacedMenu from './PlacedMenu.svelte';

	interface Props {
		editor: Editor;
		at: GraphMenuAt;
		onadd: () => void;
		oninsert: (wire: Wire) => void;
		onbend: (wire: Wire) => void;
		onnote: () => void;
		ontidy: () => void;
		onfit: () => void;
		onclose: () => void;
	}
	let { editor, at, onadd, oninsert, onbend, onnote, ontidy, onfit, onclose }: Props = $props();

	interface Entry {
		name: string;
		keys?: string;
		run: () => void;
	}
	const entries = $derived.by((): Entry[] => {
		if (at.on === 'ground')
			return [
				{ name: 'Add a node here …', keys: '/', run: onadd },
				{ name: 'Add a note', run: onnote },
				{
					name: 'Select all',
					keys: 'Ctrl+A',
					run: () => editor.select(editor.graph.nodes.map(({ id }) => id))
				},
				{ name: 'Arrange', run: ontidy },
				{ name: 'Fit the graph', keys: 'Shift+F', run: onfit }
			];
		if (at.on === 'wire') {
			const { wire } = at;
			return [
				{ name: 'Put a node into it …', keys: '/', run: () => oninsert(wire) },
				{ name: 'Bend it here', run: () => onbend(wire) },
				...(wire.bends ? [{ name: 'Straighten it', run: () => editor.bend(wire, []) }] : []),
				{ name: 'Delete the wire', keys: 'Delete', run: () => editor.disconnect([wire]) }
			];
		}
		const node = editor.node(at.id);
		// A note.
		if (!node) return [{ name: 'Delete', keys: 'Delete', run: () => editor.deleteSelected() }];
		const several = editor.selected.size > 1;
		const shown = editor.shown.includes(node.id);
		return [
			{
				name: shown ? 'Hide in the View' : 'Show in the View',
				keys: 'H',
				run: () => editor.toggleSelectedShown()
			},
			...(bodyNameOf(node) !== null && !several
				? [{ name: 'Go into it', keys: 'Enter', run: () => editor.place.enter(node.id) }]
				: []),
			{ name: node.bypassed ? 'Enable' : 'Bypass', keys: 'Shift+H', run: () => editor.bypassSelected() },
			{ name: 'Duplicate', keys: 'Ctrl+D', run: () => editor.duplicate() },
			{ name: 'Make a subgraph', run: () => editor.place.makeOfSelected('subgraph') },
			{ name: 'Make a repeat', run: () => editor.place.makeOfSelected('repeat') },
			{ name: 'Vary each copy by it', run: () => editor.place.makeOfSelected('vary-each-copy') },
			...(bodyNameOf(node) !== null && !several
				? [{ name: 'Take it apart', run: () => editor.place.takeApart() }]
				: []),
			{ name: 'Delete', keys: 'Delete', run: () => editor.deleteSelected() }
		];
	});

	function choose({ run }: Entry) {
		run();
		onclose();
	}
	const NAMES = { ground: 'Graph', node: 'Node', wire: 'Wire' };
</script>

<PlacedMenu x={at.x} y={at.y} label={NAMES[at.on]} {onclose}>
	{#each entries as entry (entry.name)}
		<button class="menu-item flex w-full items-baseline gap-6" role="menuitem" onclick={() => choose(entry)}
			><span class="flex-1 text-left">{entry.name}</span>{#if entry.keys}<kbd class="text-xs text-quiet"
					>{entry.keys}</kbd
				>{/if}</button
		>
	{/each}
</PlacedMenu>
