<script lang="ts">
	import Spline from '@lucide/svelte/icons/spline';
	import Unlink2 from '@lucide/svelte/icons/unlink-2';
	import type { Wire } from '$core/engine/index';
	import type { InputDefinition } from '$core/nodes/index';
	import { outputOf } from '$core/engine/index';
	import { takesMany } from '$core/nodes/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		input: InputDefinition;
		wires: readonly Wire[];
		/** Whether it is being asked where a wire shall come from. */
		wiring: boolean;
	}
	let { editor, input, wires, wiring = $bindable() }: Props = $props();

	const takesMore = $derived(!wires.length || takesMany(input));
	const sourceOf = ({ from: [id, port] }: Wire): string => {
		const from = editor.node(id);
		return from ? `${from.short}, ${outputOf(from, port)?.label ?? ''}` : '';
	};
</script>

{#each wires as wire (wire.from.join('.'))}
	<div class="flex min-w-0 items-center gap-1 text-xs">
		<button
			class="line-clamp-2 min-w-0 flex-1 rounded border border-line bg-ground px-1.5 py-0.5 text-left break-words"
			title="Go to {sourceOf(wire)}"
			onclick={() => editor.select([wire.from[0]])}>← {sourceOf(wire)}</button
		>
		<button
			class="icon-button h-5 w-5"
			aria-label="Disconnect {sourceOf(wire)}"
			onclick={() => editor.disconnect([wire])}><Unlink2 size={13} /></button
		>
	</div>
{/each}
{#if takesMore}
	<p class="flex items-center justify-between gap-1 pt-0.5 text-xs text-quiet">
		{#if !wires.length}{'optional' in input && input.optional ? 'nothing connected' : 'needs a wire'}{/if}
		<button
			class="button text-xs"
			aria-label="Connect {input.label}"
			aria-haspopup="dialog"
			aria-expanded={wiring}
			onclick={() => (wiring = !wiring)}><Spline size={13} /> Connect</button
		>
	</p>
{/if}
