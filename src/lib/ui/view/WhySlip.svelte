<script lang="ts">
	import { untrack } from 'svelte';
	import Table2 from '@lucide/svelte/icons/table-2';
	import X from '@lucide/svelte/icons/x';
	import { nodeKinds } from '$core/nodes/index';
	import type { WhyStep } from '$core/session/messages';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { showNumber } from '$lib/ui/settings/quantity';
	import type { Asking } from './why.svelte';
	import { ELEMENT_NAMES } from './why.svelte';

	let { editor, asking }: { editor: Editor; asking: Asking } = $props();
	const { slip } = $derived(asking);

	$effect(() => {
		void editor.evaluation.count;
		untrack(() => asking.again());
	});

	/** A way in words, for the last step as the one that made it. */
	function says({ how }: WhyStep, isLast: boolean): string {
		if (how === 'stands on') return isLast ? 'stands on what this made' : 'stands on';
		if (how === 'written out from') return 'written out from';
		return isLast ? 'made by' : how === 'shown' ? 'is in' : 'came through';
	}
	const valueOf = (values: readonly (number | string)[], type: string): string =>
		values
			.map((value) =>
				typeof value === 'string'
					? `“${value}”`
					: type === 'bool'
						? value
							? 'yes'
							: 'no'
						: showNumber(value)
			)
			.join(', ');
	const openRow = ({ node, table, row }: WhyStep) => {
		editor.selectViewed(node);
		editor.drawer = 'data';
		editor.wantedRow = { node, table, row };
	};
</script>

{#if slip || asking.trouble}
	<section
		class="menu absolute right-2 bottom-10 z-20 max-h-[70%] w-72 overflow-y-auto p-2 text-[13px]"
		aria-label="Why is it so?"
	>
		<header class="flex items-start gap-2">
			<h3 class="min-w-0 flex-1 text-sm">
				{#if slip}{ELEMENT_NAMES[slip.kind]}
					{slip.row.toLocaleString('en')}
					<span class="font-sans text-xs font-normal text-quiet">of {slip.count.toLocaleString('en')}</span
					>{:else}Nothing to tell{/if}
			</h3>
			{#if slip && slip.kinds.length > 1}
				<select
					class="field h-6 w-auto py-0 text-xs"
					aria-label="Kind of element"
					value={slip.kind}
					onchange={(event) => asking.ask(event.currentTarget.value as never)}
				>
					{#each slip.kinds as kind (kind)}<option value={kind}>{ELEMENT_NAMES[kind]}</option>{/each}
				</select>
			{/if}
			<button class="icon-button h-6 w-6" aria-label="Close" onclick={() => asking.close()}
				><X size={14} /></button
			>
		</header>
		{#if asking.trouble}<p class="text-plum" role="alert">{asking.trouble}</p>{/if}
		{#if slip}
			<dl class="mt-1 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 border-b border-line pb-1.5 text-xs">
				{#each slip.attributes as { name, type, values } (name)}
					<dt class="text-quiet">{name}</dt>
					<dd class="min-w-0 text-right font-mono break-words">{valueOf(values, type)}</dd>
				{/each}
			</dl>
			<ol class="mt-1.5 space-y-0.5" aria-label="How it came about">
				{#each slip.steps as step, i (i)}
					{@const node = editor.viewNode(step.node)}
					<li class="flex items-center gap-1 text-xs">
						<span class="min-w-0 flex-1">
							<span class="text-quiet">{says(step, i === slip.steps.length - 1)}</span>
							<button
								class="font-semibold underline decoration-line underline-offset-2 hover:decoration-ink"
								title={nodeKinds.get(node?.kind ?? '')?.name}
								onclick={() => editor.selectViewed(step.node)}>{node?.short ?? ''}</button
							>
						</span>
						<button
							class="flex items-center gap-1 rounded px-1 font-mono text-[11px] text-quiet hover:text-ink"
							aria-label="{ELEMENT_NAMES[step.kind]} {step.row} of {node?.short} in the table"
							title="Its row in the table"
							onclick={() => openRow(step)}
							>{ELEMENT_NAMES[step.kind].toLowerCase()} {step.row} <Table2 size={12} /></button
						>
					</li>
				{/each}
			</ol>
		{/if}
	</section>
{/if}
