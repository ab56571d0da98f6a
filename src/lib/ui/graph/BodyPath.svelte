<script lang="ts">
	import ChevronLeft from '@lucide/svelte/icons/chevron-left';
	import ChevronRight from '@lucide/svelte/icons/chevron-right';
	import CornerLeftUp from '@lucide/svelte/icons/corner-left-up';
	import { selectAll } from '$lib/ui/fields/select-all';
	import type { Editor } from '$lib/editor/editor.svelte';

	let { editor }: { editor: Editor } = $props();

	const { place } = $derived(editor);
	const crumbs = $derived(place.crumbs);
	/** What is looked into, where the body is evaluated more than once. */
	const looked = $derived(editor.evaluation.inside);
	const what = $derived(place.use?.kind === 'vary-each-copy' ? 'Shape' : 'Pass');
	const isRepeated = $derived(place.use?.kind === 'vary-each-copy' || place.use?.kind === 'repeat');
</script>

<nav
	class="flex flex-wrap items-center gap-x-1 gap-y-1 border-b border-line bg-sheet px-1.5 py-1 text-[13px]"
	aria-label="Path of subgraphs"
>
	<button class="icon-button" aria-label="Go out" title="Go out (Shift+Enter)" onclick={() => place.leave()}
		><CornerLeftUp size={15} /></button
	>
	{#each crumbs as { name, depth } (depth)}
		{#if depth > 0}<span class="text-quiet" aria-hidden="true">›</span>{/if}
		<button
			class="max-w-40 truncate rounded px-1 hover:bg-line/50 {depth === crumbs.length - 1
				? 'font-semibold'
				: ''}"
			aria-current={depth === crumbs.length - 1 ? 'page' : undefined}
			title={name}
			onclick={() => place.leaveTo(depth)}>{name}</button
		>
	{/each}
	<span class="ml-auto flex items-center gap-1">
		{#if isRepeated && looked}
			<span class="flex items-center" role="group" aria-label="{what} that is looked into">
				<button
					class="icon-button"
					aria-label="{what} before"
					disabled={looked.place <= 0}
					onclick={() => place.lookAt(looked.place - 1)}><ChevronLeft size={15} /></button
				>
				<label class="flex items-center gap-1 text-xs text-quiet"
					>{what}
					<input
						{@attach selectAll}
						class="field w-12 px-1 text-right font-mono text-xs text-ink"
						type="number"
						min="0"
						max={looked.places - 1}
						value={looked.place}
						aria-label={what}
						onchange={(event) => place.lookAt(Math.round(Number(event.currentTarget.value)) || 0)}
					/></label
				>
				<span class="pl-1 text-xs text-quiet">of {looked.places.toLocaleString('en')}</span>
				<button
					class="icon-button"
					aria-label="{what} after"
					disabled={looked.place >= looked.places - 1}
					onclick={() => place.lookAt(looked.place + 1)}><ChevronRight size={15} /></button
				>
			</span>
		{/if}
		<button
			class="button px-1.5 py-0.5 text-xs"
			aria-pressed={place.isShownInside}
			title={place.isShownInside
				? 'The View shows what is inside. Click for the whole.'
				: 'The View shows the whole. Click for what is inside.'}
			onclick={() => place.showInside(!place.isShownInside)}
			>View: {place.isShownInside ? 'inside' : 'whole'}</button
		>
	</span>
	{#if !looked && editor.evaluation.count > 0 && !editor.evaluation.working}
		<p class="w-full px-1 text-xs text-quiet" role="status">
			{place.use?.short ?? 'The node'} is not evaluated: it waits for what goes into it, or has an error.
		</p>
	{/if}
</nav>
