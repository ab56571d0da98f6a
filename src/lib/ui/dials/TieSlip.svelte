<script lang="ts">
	import Unlink from '@lucide/svelte/icons/unlink';
	import type { Tie, TieEnd } from '$core/index';
	import { disagreement, inverseOf, nameOfEnd } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';

	interface Props {
		editor: Editor;
		tie: Tie;
		own: TieEnd;
		other: TieEnd;
		/** Whether the own end is the first. */
		isA: boolean;
	}
	let { editor, tie, own, other, isA }: Props = $props();

	const ownName = $derived(nameOfEnd(editor.document, own));
	const otherName = $derived(nameOfEnd(editor.document, other));
	const uneven = $derived(disagreement(editor.document, tie));

	/** Another equation. Where both agreed before, the first one takes the second with it, turned round. */
	function put(isToOther: boolean, field: HTMLInputElement) {
		const equation = field.value.trim();
		const name = isToOther === isA ? 'toB' : 'toA';
		const turned = name === 'toB' && !uneven ? inverseOf(equation) : null;
		if (!editor.dials.changeTie({ ...tie, [name]: equation, ...(turned && { toA: turned }) }))
			field.value = tie[name];
	}
</script>

{#snippet line(to: string, from: string, equation: string, isToOther: boolean)}
	<label class="flex items-baseline gap-1">
		<span class="max-w-[45%] shrink-0 truncate" title={to}>{to} =</span>
		<input
			{@attach selectAll}
			class="min-w-10 flex-1 border-b border-line bg-transparent font-mono text-[11px]"
			value={equation}
			aria-label="{to}, where x is {from}"
			title="x is {from}"
			onchange={(event) => put(isToOther, event.currentTarget)}
			onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
		/>
	</label>
{/snippet}

<div class="mt-1 rounded-sm border-l-2 border-teal bg-ground px-1.5 py-1 text-[11px]" data-testid="tie">
	<div class="flex items-start gap-1">
		<div class="min-w-0 flex-1 space-y-0.5">
			{@render line(ownName, otherName, isA ? tie.toA : tie.toB, false)}
			{@render line(otherName, ownName, isA ? tie.toB : tie.toA, true)}
		</div>
		<button
			class="icon-button h-5 w-5 shrink-0"
			aria-label="Untie {ownName} and {otherName}"
			title="Untie"
			onclick={() => editor.dials.untie(tie.id)}><Unlink size={12} /></button
		>
	</div>
	<p class="mt-0.5 text-quiet">{uneven ?? 'In each, x is the other one; the end moved last drives.'}</p>
</div>
