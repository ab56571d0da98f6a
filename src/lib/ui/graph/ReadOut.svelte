<script lang="ts">
	import type { GraphNode, Wire } from '$core/index';
	import { outputOf } from '$core/index';
	import type { TableWindow } from '$core/session/messages';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { Newest } from '$lib/editor/newest';
	import { written } from '../data/written';

	let { editor, node }: { editor: Editor; node: GraphNode } = $props();

	/** Rows that a label has room for. */
	const ROWS = 8;
	const wire = $derived(editor.graph.wires.find(({ to }) => to[0] === node.id && to[1] === 'value'));
	let told = $state.raw<{ wire: Wire | null; window: TableWindow | null; words: string }>({
		wire: null,
		window: null,
		words: ''
	});

	/** The table of that very output; where there is none, what the wire says of itself. */
	const asking = new Newest<Wire>(async (wire) => {
		const { client } = editor.evaluation;
		const [source, port] = wire.from;
		const isList = outputOf(editor.node(source), port)?.kind === 'list';
		const table = `${port} ${isList ? 'list' : 'value'}`;
		const window = await client
			.table({ node: source, table, sort: null, filter: '', from: 0, count: ROWS })
			.catch(() => null);
		const isIt = window?.table === table;
		told = { wire, window: isIt ? window : null, words: isIt ? '' : await client.peek(wire) };
	});
	$effect(() => {
		void editor.evaluation.count;
		if (wire) asking.ask(wire);
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
	{:else if told.wire === wire && told.words}<p class="break-words whitespace-pre-line text-quiet">
			{told.words}
		</p>
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
