<script lang="ts">
	import SmallBars from '$lib/ui/fields/SmallBars.svelte';
	import type { GraphNode, Wire } from '$core/engine/index';
	import { outputOf } from '$core/engine/index';
	import type { TableWindow } from '$core/session/messages';
	import type { Statistics } from '$core/session/series';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { Newest } from '$lib/editor/newest';
	import { written } from '../data/written';

	let { editor, node }: { editor: Editor; node: GraphNode } = $props();

	/** How many values are told from the beginning, and from the end. */
	const FIRST = 4,
		LAST = 2;
	/** What a label has room for: the parts of a vector. */
	const MOST_COLUMNS = 3;

	interface Told {
		wire: Wire | null;
		/** How many values there are. */
		count: number;
		columns: { part: string; facts: Statistics | null }[];
		/** The first values and the last ones in a line. */
		line: string;
		/** Instead of all that: what the wire says of itself. */
		words: string;
	}
	const NOTHING = { count: 0, columns: [], line: '', words: '' };
	let told = $state.raw<Told>({ wire: null, ...NOTHING });
	const wire = $derived(editor.graph.wires.find(({ to }) => to[0] === node.id && to[1] === 'value'));

	/** The table of that very output; where there is none, what the wire says of itself. */
	const asking = new Newest<Wire>(async (wire) => {
		const { client } = editor.evaluation;
		const [source, port] = wire.from;
		const isList = outputOf(editor.node(source), port)?.kind === 'list';
		const about = { node: source, table: `${port} ${isList ? 'list' : 'value'}`, sort: null, filter: '' };
		const window = await client.table({ ...about, from: 0, count: FIRST + LAST }).catch(() => null);
		if (window?.table !== about.table) {
			told = { wire, ...NOTHING, words: await client.peek(wire) };
			return;
		}
		const count = window.matching;
		const columns = window.columns.slice(0, MOST_COLUMNS);
		const asked = { ...about, from: 0, count: 0 };
		const facts = await client
			.statistics(
				asked,
				columns.map(({ key }) => key)
			)
			.catch(() => null);
		const all = textsOf(window);
		const isMore = count > FIRST + LAST;
		const end = isMore
			? await client.table({ ...about, from: count - LAST, count: LAST }).catch(() => null)
			: null;
		told = {
			wire,
			count,
			columns: columns.map(({ part }, i) => ({ part, facts: facts?.statistics[i] ?? null })),
			line: isMore
				? `${all.slice(0, FIRST).join(', ')} … ${end ? textsOf(end).join(', ') : ''}`
				: all.join(', '),
			words: ''
		};
	});
	$effect(() => {
		void editor.evaluation.count;
		if (wire) asking.ask(wire);
	});

	function textsOf({ rows, cells, columns }: TableWindow): string[] {
		return Array.from(rows, (_, i) => {
			const parts = cells.map((own, c) => {
				const cell = own[i];
				return typeof cell === 'string' ? cell : written(cell, columns[c].type);
			});
			return parts.length > 1 ? `(${parts.join(', ')})` : parts[0];
		});
	}
</script>

<div
	class="nodrag nowheel space-y-0.5 border-t border-line px-2 py-1 font-mono text-[10.5px]"
	role="group"
	aria-label="Values of {node.short}"
>
	{#if !wire}<p class="font-sans text-quiet">Wire a value to it.</p>
	{:else if told.wire === wire && told.words}<p class="break-words whitespace-pre-line text-quiet">
			{told.words}
		</p>
	{:else}
		<p class="font-sans text-quiet">
			{told.count.toLocaleString('en')}
			{told.count === 1 ? 'value' : 'values'}
		</p>
		{#each told.columns as { part, facts } (part)}
			{#if facts?.count}
				<p class="flex gap-1">
					{#if part}<span class="text-quiet">{part}</span>{/if}
					<span class="min-w-0 break-words">{written(facts.least)} to {written(facts.greatest)}</span>
				</p>
				{#if facts.least < facts.greatest}
					<SmallBars bars={facts.bars} />
				{/if}
			{/if}
		{/each}
		<p class="line-clamp-3 break-words" title={told.line}>{told.line}</p>
	{/if}
</div>
