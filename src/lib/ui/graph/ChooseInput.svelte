<script lang="ts">
	import { toast } from 'svelte-sonner';
	import { bodyNameOf, inputsFitting, outputOf } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';

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

	let list = $state<HTMLElement>();
	const target = $derived(editor.node(node));
	const output = $derived(outputOf(editor.node(from[0]), from[1]));
	const inputs = $derived(target && output ? inputsFitting(target, output.kind) : []);
	$effect(() => list?.querySelector('button')?.focus());

	function choose(name: string) {
		const reason = editor.connect(from, [node, name]);
		if (reason) toast.error(reason);
		onclose();
	}
	function key(event: KeyboardEvent) {
		const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
		if (event.key === 'Escape') onclose();
		else if (step) {
			const all = [...list!.querySelectorAll('button')];
			const at = all.indexOf(document.activeElement as HTMLButtonElement);
			all[(at + step + all.length) % all.length].focus();
		} else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<div class="fixed inset-0 z-40" role="presentation" onpointerdown={onclose}></div>
<div
	bind:this={list}
	class="menu fixed z-50 max-h-80 overflow-y-auto"
	style="left: {Math.min(x, innerWidth - 200)}px; top: {Math.min(y, innerHeight - 330)}px"
	role="menu"
	tabindex="-1"
	aria-label="Connect to which setting?"
	onkeydown={key}
>
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
</div>
