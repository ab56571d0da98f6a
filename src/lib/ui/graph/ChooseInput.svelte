<script lang="ts">
	import { toast } from 'svelte-sonner';
	import { bodyNameOf, inputsFitting, outputOf } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import PlacedMenu from './PlacedMenu.svelte';

	interface Props {
		editor: Editor;
		/** Where the wire was let go on the screen. */
		x: number;
		y: number;
		/** The output it comes from, and the node it was let go over. */
		from: readonly [string, string];
		node: string;
		onclose: () => void;
	}
	let { editor, x, y, from, node, onclose }: Props = $props();

	const target = $derived(editor.node(node));
	const output = $derived(outputOf(editor.node(from[0]), from[1]));
	const inputs = $derived(target && output ? inputsFitting(target, output.kind) : []);
	function choose(name: string) {
		const reason = editor.connect(from, [node, name]);
		if (reason) toast.error(reason);
		onclose();
	}
</script>

<PlacedMenu {x} {y} label="Connect to which setting?" {onclose}>
	<p class="px-2 pb-1 text-xs text-quiet">Connect to which setting?</p>
	{#each inputs as [name, input] (name)}
		<button class="menu-item" role="menuitem" onclick={() => choose(name)}>{input.label}</button>
	{/each}
	{#if target && bodyNameOf(target) !== null}<button
			class="menu-item"
			role="menuitem"
			onclick={() => {
				editor.place.addInputFor(from, node);
				onclose();
			}}>A new input</button
		>{/if}
</PlacedMenu>
