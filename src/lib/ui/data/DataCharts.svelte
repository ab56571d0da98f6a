<script lang="ts">
	import { untrack } from 'svelte';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { drawCharts } from './draw-charts';
	import { Charts } from './charts.svelte';
	import { written } from './written';
	import type { DataTable } from './data-table.svelte';

	let { editor, table }: { editor: Editor; table: DataTable } = $props();
	const charts = untrack(() => new Charts(editor, table));

	$effect(() => {
		void [table.about, table.filter, charts.first, charts.second];
		untrack(() => void charts.refresh());
	});

	const [one] = $derived(charts.statistics);
	const label = $derived(
		charts.second && charts.correlation
			? `${charts.first} against ${charts.second}. ${charts.sentence}`
			: one
				? `How the values of ${charts.first} spread from ${written(one.least)} to ${written(one.greatest)}`
				: 'No numbers'
	);
</script>

<section class="flex w-96 shrink-0 flex-col gap-1 border-l border-line p-2 text-xs" aria-label="Charts">
	<div class="flex items-center gap-2">
		<select class="field h-6 py-0 text-xs" aria-label="Column" bind:value={charts.first}>
			{#each charts.columns as key (key)}<option value={key}>{key}</option>{/each}
		</select>
		<span class="shrink-0 text-quiet">against</span>
		<select class="field h-6 py-0 text-xs" aria-label="Other column" bind:value={charts.second}>
			<option value="">nothing: its spread</option>
			{#each charts.columns.filter((key) => key !== charts.first) as key (key)}<option value={key}
					>{key}</option
				>{/each}
		</select>
	</div>
	<div class="relative min-h-0 flex-1" role="img" aria-label={label}>
		{#if one}
			<canvas
				{@attach drawCharts({
					statistics: one,
					correlation: charts.second ? charts.correlation : null,
					names: [charts.first, charts.second]
				})}
			></canvas>
		{/if}
	</div>
	{#if charts.second}
		<p role="status">{charts.sentence}</p>
	{:else}
		<dl class="flex flex-wrap gap-x-3 font-mono">
			{#each charts.facts as { name, value } (name)}
				<div class="flex gap-1">
					<dt class="font-sans text-quiet">{name}</dt>
					<dd>{value}</dd>
				</div>
			{/each}
		</dl>
	{/if}
</section>
