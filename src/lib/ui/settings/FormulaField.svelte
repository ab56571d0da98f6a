<script lang="ts">
	import type { Attachment } from 'svelte/attachments';
	import type { FormulaOf } from './formula-field.svelte';
	import { FormulaFieldState } from './formula-field.svelte';
	import type { FormulaText } from './formula-text';
	import { Steady } from '$lib/ui/pointer-held.svelte';

	interface Props extends FormulaOf {
		label: string;
		/** Makes an unknown name an input of the node, where it may have such. */
		ondeclare?: (name: string) => void;
	}
	let { place, value, settingOf, label, ondeclare, onchange }: Props = $props();
	const field = new FormulaFieldState(() => ({ place, value, settingOf, onchange }));
	const { trouble } = $derived(field);
	/** A name that is being written is no mistake yet. */
	const seen = $derived(field.isProposing ? null : trouble);
	/** What stands under the field; rows below keep their places while one of them is pressed. */
	const under = new Steady(() => ({
		trouble: seen,
		comesTo: field.isFocused ? field.comesTo : '',
		strangers: field.strangers
	}));
	const shown = $derived(under.value);

	let editor = $state.raw<FormulaText | null>(null);
	const mount: Attachment<HTMLElement> = (parent) => {
		let isGone = false;
		void import('./formula-text').then(({ makeFormulaText }) => {
			if (isGone) return;
			editor = makeFormulaText({
				parent,
				text: field.text,
				label,
				proposals: () => field.proposals,
				ontype: (text) => (field.typed = text),
				ondone: field.commit,
				oncancel: field.cancel,
				onfocus: (focused) => (field.isFocused = focused),
				onpropose: (open) => (field.isProposing = open)
			});
		});
		return () => {
			isGone = true;
			editor?.close();
			editor = null;
		};
	};
	$effect(() => editor?.show(field.text));
	$effect(() => editor?.underline(seen));
</script>

<span class="block min-w-0 flex-1">
	<span
		class="nodrag nopan block min-h-[23px] w-full min-w-0 rounded-[0.2rem] border bg-sheet {seen
			? 'border-plum'
			: 'border-line'}"
		data-formula={label}
		{@attach mount}
	></span>
	{#if shown.trouble}
		{@const { trouble } = shown}
		<span class="mt-0.5 block text-xs text-plum" role="alert">
			Character {trouble.from + 1}: {trouble.message}
			<span class="flex flex-wrap gap-1">
				{#if trouble.mending}<button
						class="button mt-1 text-xs"
						onmousedown={(event) => event.preventDefault()}
						onclick={field.mend}>{trouble.mending.label}</button
					>{/if}
				{#if ondeclare && trouble.unknown}<button
						class="button mt-1 text-xs"
						onmousedown={(event) => event.preventDefault()}
						onclick={() => {
							field.commit();
							ondeclare(trouble.unknown!);
						}}>Make “{trouble.unknown}” an input</button
					>{/if}
			</span>
		</span>
	{:else if shown.comesTo}
		<span class="mt-0.5 block font-mono text-[11px] leading-snug break-words text-quiet" role="status"
			>{shown.comesTo}</span
		>
	{/if}
	{#if ondeclare}
		{#each shown.strangers as name (name)}
			<span class="mt-1 flex items-center gap-2 text-xs text-quiet">
				<span>“{name}” is read as an attribute.</span>
				<button
					class="button px-1.5 py-0 text-xs"
					onmousedown={(event) => event.preventDefault()}
					onclick={() => {
						field.commit();
						ondeclare(name);
					}}>Make it an input</button
				>
			</span>
		{/each}
	{/if}
</span>
