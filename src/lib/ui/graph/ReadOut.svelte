<script lang="ts">
	import type { GraphNode } from '$core/index';
	import type { TableWindow } from '$core/session/messages';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { written } from '../data/written';

	let { editor, node }: { editor: Editor; node: GraphNode } = $props();

	/** Rows that a label has room for. */
	const ROWS = 8;
	const wire = $derived(editor.graph.wires.find(({ to }) => to[0] === node.id && to[1] === 'value'));
	let told = $state.raw<{ window: TableWindow | null; words: string }>({ window: null, words: '' });

	$effect(() => {
		void editor.evaluation.count;
		if (!wire) return void (told = { window: null, words: '' });
		const { client } = editor.evaluation;
		const [source, port] = wire.from;
		let stale = false;
		// The table of that very output; where there is none, what the wire says of itself.
		const ask = { node: source, sort: null, filter: '', from: 0, count: ROWS };
		void (async () => {
			const first = await client.table({ ...ask, table: `${port} list` }).catch(() => null);
			const key = first?.tables.find(({ key }) => key.startsWith(`${port} `))?.key;
			const window =
				key && key !== first?.table ? await client.table({ ...ask, table: key }).catch(() => null) : first;
			const words = key ? '' : await client.peek(wire).catch(() => '');
			if (!stale) told = { window: key ? window : null, words };
		})();
		return () => (stale = true);
	});
	const rows = $derived.by(() => {
		const { window } = told;
		if (!window) return [];
		return Array.from(window.rows, (row, i) => ({
			row,
			text: window.cells
				.map((cells, c) => {
					const cell = cells[i];
					return typeof cell === 'string' ? cell : written(cell, window.columns[c].type);
				})
				.join(', ')
		}));
	});
	const count = $derived(told.window?.matching ?? 0);
</script>

<div
	class="nodrag nowheel border-t border-line px-2 py-1 font-mono text-[10.5px]"
	role="group"
	aria-label="Values of {node.short}"
>
	{#if !wire}<p class="font-sans text-quiet">Wire a value to it.</p>
	{:else if told.words}<p class="break-words whitespace-pre-line text-quiet">{told.words}</p>
	{:else}
		<ol>
			{#each rows as { row, text } (row)}
				<li class="flex gap-2">
					<span class="w-6 shrink-0 text-right text-quiet">{row}</span>
					<span class="min-w-0 flex-1 truncate text-right" title={text}>{text}</span>
				</li>
			{/each}
		</ol>
		<p class="pt-0.5 text-right text-quiet">
			{count > rows.length
				? `… ${(count - rows.length).toLocaleString('en')} more of `
				: ''}{count.toLocaleString('en')}
			{count === 1 ? 'value' : 'values'}
		</p>
	{/if}
</div>
