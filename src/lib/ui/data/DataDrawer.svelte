<script lang="ts">
	import ChartColumn from '@lucide/svelte/icons/chart-column';
	import Columns3 from '@lucide/svelte/icons/columns-3';
	import Copy from '@lucide/svelte/icons/copy';
	import FileDown from '@lucide/svelte/icons/file-down';
	import Palette from '@lucide/svelte/icons/palette';
	import Pin from '@lucide/svelte/icons/pin';
	import PinOff from '@lucide/svelte/icons/pin-off';
	import { Popover } from 'bits-ui';
	import { untrack } from 'svelte';
	import { toast } from 'svelte-sonner';
	import type { Editor } from '$lib/editor/editor.svelte';
	import DataCharts from './DataCharts.svelte';
	import DataRows from './DataRows.svelte';
	import { DataTable } from './data-table.svelte';

	let { editor }: { editor: Editor } = $props();
	// One table for as long as the drawer shows it.
	const table = untrack(() => new DataTable(editor));
	let charted = $state(false);

	// Another node, table, order or condition, or another result.
	$effect(() => {
		void [table.node, table.chosen, table.sort, table.filter, editor.evaluation.count];
		untrack(() => table.refresh());
	});
	$effect(() => {
		const { picked } = editor;
		if (picked) untrack(() => void table.lookNear(picked));
	});
	$effect(() => {
		const { wantedRow } = editor;
		if (!wantedRow) return;
		untrack(() => void table.bring(wantedRow));
		editor.wantedRow = null;
	});
	$effect(() => () => (editor.marked = editor.picked = null));

	const { tables, matching } = $derived(table.about);
	const total = $derived(tables.find(({ key }) => key === table.about.table)?.count ?? 0);
	const number = (x: number) => x.toLocaleString('en');
</script>

<div class="flex min-h-0 flex-1 flex-col">
	<div class="flex flex-wrap items-center gap-2 border-b border-line px-2 py-1 text-xs">
		<span class="font-semibold">{table.short || 'Nothing selected'}</span>
		<button
			class="icon-button h-6 w-6"
			aria-pressed={!!table.held}
			aria-label={table.held ? 'Follow the selection' : 'Stay with this node'}
			title={table.held ? 'Follow the selection' : 'Stay with this node'}
			onclick={() => (table.held = table.held ? null : table.node)}
			>{#if table.held}<PinOff size={13} />{:else}<Pin size={13} />{/if}</button
		>
		{#if tables.length}
			<select
				class="field h-6 w-auto py-0 text-xs"
				aria-label="Table"
				value={table.about.table}
				onchange={(event) => {
					table.chosen = event.currentTarget.value;
					table.sort = null;
					void table.look(null);
				}}
			>
				{#each tables as { key, label, count } (key)}<option value={key}>{label} ({number(count)})</option
					>{/each}
			</select>
		{/if}
		<input
			class="field h-6 w-64 py-0 font-mono text-xs"
			aria-label="Filter rows"
			aria-invalid={!!table.trouble}
			placeholder="index % 5 == 0 and position.y > 1"
			value={table.filter}
			oninput={(event) => (table.filter = event.currentTarget.value)}
		/>
		<span role="status" class={table.trouble ? 'text-plum' : 'text-quiet'}>
			{table.trouble ||
				(table.filter.trim() ? `${number(matching)} of ${number(total)} rows` : `${number(total)} rows`)}
		</span>
		<span class="flex-1"></span>
		<label class="flex items-center gap-1">
			<Palette size={13} />
			<span class="text-quiet">Colour by</span>
			<select
				class="field h-6 w-auto py-0 text-xs"
				aria-label="Colour the View by"
				value={editor.heat?.[0] === '' ? editor.heat[1] : ''}
				onchange={(event) => editor.colourBy(event.currentTarget.value)}
			>
				<option value="">nothing</option>
				{#each table.about.columns.filter(({ type }) => type !== 'text') as { key } (key)}<option
						>{key}</option
					>{/each}
				{#if editor.heat?.[0] === '' && !table.about.columns.some(({ key }) => key === editor.heat?.[1])}
					<option>{editor.heat[1]}</option>
				{/if}
			</select>
		</label>
		<button
			class="flex items-center gap-1 rounded px-2 py-0.5 {charted ? 'bg-ground font-semibold' : ''}"
			aria-pressed={charted}
			disabled={!matching}
			onclick={() => (charted = !charted)}><ChartColumn size={13} /> Charts</button
		>
		<Popover.Root>
			<Popover.Trigger class="flex items-center gap-1 rounded px-2 py-0.5"
				><Columns3 size={13} /> Columns</Popover.Trigger
			>
			<Popover.Portal>
				<Popover.Content
					class="z-50 max-h-72 overflow-auto rounded border border-line bg-sheet p-2 text-xs shadow"
					sideOffset={4}
				>
					{#each table.about.columns as { key } (key)}
						<label class="flex items-center gap-2 py-0.5">
							<input
								type="checkbox"
								checked={!table.hidden.has(key)}
								onchange={() => table.toggleColumn(key)}
							/>
							{key}
						</label>
					{/each}
				</Popover.Content>
			</Popover.Portal>
		</Popover.Root>
		<button
			class="flex items-center gap-1 rounded px-2 py-0.5"
			disabled={!matching}
			onclick={() =>
				table.copy().then(
					() => toast.success('The table is in the clipboard.'),
					() => toast.error('The browser does not let this page write to the clipboard.')
				)}><Copy size={13} /> Copy</button
		>
		<button
			class="flex items-center gap-1 rounded px-2 py-0.5"
			disabled={!matching}
			onclick={() => table.save()}><FileDown size={13} /> Save CSV</button
		>
	</div>
	{#if !tables.length}
		<p class="p-3 text-sm text-quiet">
			{table.node
				? `${table.short} gives nothing that could stand in a table. Select another node.`
				: 'Select a node to see what comes out of it: every point, face, copy or value, row by row.'}
		</p>
	{:else}
		<div class="flex min-h-0 flex-1">
			<DataRows {table} />
			{#if charted}<DataCharts {editor} {table} />{/if}
		</div>
	{/if}
</div>
