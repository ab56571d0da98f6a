<script lang="ts">
	import { selectAll } from '$lib/ui/fields/select-all';
	import CircleAlert from '@lucide/svelte/icons/circle-alert';
	import Dices from '@lucide/svelte/icons/dices';
	import PackagePlus from '@lucide/svelte/icons/package-plus';
	import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
	import SlotsPanel from '$lib/ui/dials/SlotsPanel.svelte';
	import KeptGrid from '$lib/ui/dials/KeptGrid.svelte';
	import PresetGrid from '$lib/ui/dials/PresetGrid.svelte';
	import DialsPanel from '$lib/ui/dials/DialsPanel.svelte';
	import type { Editor } from '$lib/editor/editor.svelte';

	let { editor }: { editor: Editor } = $props();

	/** How many of the slowest nodes are named. */
	const SLOWEST = 5;

	const reports = $derived(
		editor.graph.nodes.flatMap((node) => {
			const report = editor.evaluation.reports.get(node.id);
			return report ? [{ node, report }] : [];
		})
	);
	const messages = $derived(
		reports.flatMap(({ node, report }) => [
			// Those that only wait for another one are left out: the other one is named.
			...(report.error && !report.error.waitsFor
				? [{ node, message: report.error.message, bad: report.state === 'error' }]
				: []),
			...report.warnings.map(({ message }) => ({ node, message, bad: false }))
		])
	);
	const milliseconds = $derived(reports.reduce((sum, { report }) => sum + report.milliseconds, 0));
	const slowest = $derived(
		reports
			.filter(({ report }) => report.milliseconds >= 1)
			.sort((a, b) => b.report.milliseconds - a.report.milliseconds)
			.slice(0, SLOWEST)
	);

	const another = () => editor.setSeed(crypto.getRandomValues(new Uint32Array(1))[0] % 10_000);
</script>

<div class="min-h-0 flex-1 overflow-y-auto p-4 text-sm">
	{#if editor.selected.size > 1}
		<h2 class="mb-2 text-base">{editor.selected.size} selected</h2>
		<div class="flex flex-wrap gap-1">
			<button class="button text-xs" onclick={() => editor.duplicate()}>Duplicate</button>
			<button class="button text-xs" onclick={() => editor.bypassSelected()}>Bypass or enable</button>
			<button class="button text-xs" onclick={() => editor.deleteSelected()}>Delete</button>
			<button class="button text-xs" onclick={() => editor.place.makeOfSelected('subgraph')}
				>Make a subgraph</button
			>
			<button class="button text-xs" onclick={() => editor.place.makeOfSelected('repeat')}
				>Make a repeat</button
			>
			<button class="button text-xs" onclick={() => editor.place.makeOfSelected('vary-each-copy')}
				>Vary each copy</button
			>
		</div>
		<p class="mt-3 text-quiet">Select one node to see its settings.</p>
	{:else}
		<h2 class="mb-1 text-base">Dials</h2>
		<DialsPanel {editor} />
		<SlotsPanel {editor} />
		<h2 class="mt-4 mb-1.5 border-t border-line pt-3 text-base">Presets</h2>
		<PresetGrid {editor} />
		<h2 class="mt-4 mb-1.5 border-t border-line pt-3 text-base">Kept variations</h2>
		<KeptGrid {editor} />
		<h2 class="mt-4 mb-2 border-t border-line pt-3 text-base">The generator</h2>
		<div class="mb-1 flex items-center gap-2">
			<label class="flex flex-1 items-center justify-between gap-2"
				>Seed
				<input
					{@attach selectAll}
					class="field w-24 text-right font-mono text-xs"
					type="number"
					min="0"
					max="4294967295"
					value={editor.document.seed}
					aria-label="Seed of the generator"
					onchange={(event) => editor.setSeed(Number(event.currentTarget.value))}
				/>
			</label>
			<button class="button text-xs" onclick={another}><Dices size={14} /> New seed</button>
		</div>
		<p class="text-xs text-quiet">Every random value is drawn from it.</p>
		<button
			class="button mt-2 text-xs"
			title="Its dials become settings of a node in other generators"
			onclick={() => editor.place.shelveWhole()}
			><PackagePlus size={14} /> Put the generator on the shelf</button
		>

		{#if messages.length}
			<h3 class="mt-4 mb-1 text-[13px]">What needs a look</h3>
			<ul class="space-y-1">
				{#each messages as { node, message, bad }, i (i)}
					<li>
						<button
							class="flex w-full items-start gap-1.5 rounded border p-1.5 text-left text-xs {bad
								? 'border-plum'
								: 'border-ochre'}"
							onclick={() => editor.select([node.id])}
						>
							{#if bad}<CircleAlert size={14} class="mt-0.5 shrink-0 text-plum" />{:else}<TriangleAlert
									size={14}
									class="mt-0.5 shrink-0 text-ochre"
								/>{/if}
							<span class="min-w-0"><strong class="font-semibold">{node.short}</strong>: {message}</span>
						</button>
					</li>
				{/each}
			</ul>
		{/if}

		{#if slowest.length}
			<h3 class="mt-4 mb-1 text-[13px]">Where the time goes</h3>
			<table class="w-full text-xs">
				<tbody>
					{#each slowest as { node, report } (node.id)}
						<tr>
							<td class="max-w-0 py-0.5"
								><button
									class="block w-full truncate text-left hover:underline"
									onclick={() => editor.select([node.id])}>{node.short}</button
								></td
							>
							<td class="w-16 text-right font-mono">{Math.round(report.milliseconds)} ms</td>
						</tr>
					{/each}
					<tr class="border-t border-line text-quiet">
						<td class="py-0.5">all {editor.graph.nodes.length} nodes, when all is new</td>
						<td class="text-right font-mono">{Math.round(milliseconds)} ms</td>
					</tr>
				</tbody>
			</table>
		{/if}
		<p class="mt-4 text-quiet">Select a node to see its settings.</p>
	{/if}
</div>
