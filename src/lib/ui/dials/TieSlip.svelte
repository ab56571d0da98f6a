<script lang="ts">
	import Unlink from '@lucide/svelte/icons/unlink';
	import type { Tie, TieEnd } from '$core/engine/index';
	import { disagreement, inverseOf, nameOfEnd, troubleOfTie } from '$core/engine/index';
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

	const trouble = $derived(troubleOfTie(editor.document, tie));

	/** Another equation. Where both agreed before, the first takes the second with it, turned round; else that is offered. */
	function put(isToOther: boolean, field: HTMLInputElement) {
		const equation = field.value.trim();
		const name = isToOther === isA ? 'toB' : 'toA';
		const turned = name === 'toB' && !uneven ? inverseOf(equation) : null;
		if (!editor.dials.changeTie({ ...tie, [name]: equation, ...(turned && { toA: turned }) }))
			field.value = tie[name];
	}
	/** What would make an uneven pair agree: an equation turned round, in place of the other one. */
	const turns = $derived(
		uneven
			? (['toB', 'toA'] as const).flatMap((from) => {
					const turned = inverseOf(tie[from]);
					const to = from === 'toB' ? 'toA' : 'toB';
					return turned ? [{ to, turned, of: nameOfEnd(editor.document, to === 'toB' ? tie.b : tie.a) }] : [];
				})
			: []
	);
</script>

{#snippet line(to: string, from: string, equation: string, isToOther: boolean)}
	<label class="flex flex-wrap items-baseline gap-x-1">
		<span class="max-w-full break-words">{to} =</span>
		<input
			{@attach selectAll}
			class="min-w-16 flex-1 border-b border-line bg-transparent font-mono text-[11px]"
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
	{#each turns as { to, turned, of } (to)}
		<button
			class="button mt-0.5 mr-1 px-1.5 py-0 text-[11px]"
			onclick={() => editor.dials.changeTie({ ...tie, [to]: turned })}>Make {of} = {turned}</button
		>
	{/each}
	{#if trouble}<p class="mt-0.5 text-ochre" role="status">{trouble}</p>{/if}
</div>
