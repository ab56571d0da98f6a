<script lang="ts">
	import ArrowDown from '@lucide/svelte/icons/arrow-down';
	import ArrowUp from '@lucide/svelte/icons/arrow-up';
	import { tick } from 'svelte';
	import { Virtualizer } from 'virtua/svelte';
	import type { VirtualizerHandle } from 'virtua/svelte';
	import type { DataTable } from './data-table.svelte';

	let { table }: { table: DataTable } = $props();
	const HEIGHT = 22;
	const HEAD = 24;
	let scroller = $state<HTMLElement>();
	let made = $state<object>();
	const list = $derived(made as VirtualizerHandle | undefined);
	// Holes take no memory: only their count matters.
	const data = $derived(new Array<undefined>(table.about.matching));
	const wide = (type: string) => (type === 'text' ? 'w-40' : 'w-28');

	function seen(): void {
		if (!list || !scroller) return;
		const first = list.findItemIndex(list.getScrollOffset());
		table.see(first, first + Math.ceil(scroller.clientHeight / HEIGHT) + 1);
	}
	/** Arrows go from row to row. */
	function step(event: KeyboardEvent, place: number): void {
		const to = event.key === 'ArrowDown' ? place + 1 : event.key === 'ArrowUp' ? place - 1 : -1;
		const next = to < 0 ? null : table.at(to);
		if (!next) return;
		event.preventDefault();
		list?.scrollToIndex(to, { align: 'nearest' });
		void table.look(next.row);
		void tick().then(() => scroller?.querySelector<HTMLElement>('[aria-selected="true"]')?.focus());
	}
	$effect(() => {
		if (table.goTo === null) return;
		list?.scrollToIndex(table.goTo, { align: 'center' });
		table.goTo = null;
	});
	// Another table may be shorter than where one was.
	$effect(() => {
		void table.about.matching;
		seen();
	});
</script>

<div
	class="min-w-0 flex-1 overflow-auto font-mono text-xs"
	role="table"
	aria-label="Rows of {table.short}"
	aria-rowcount={table.about.matching}
	bind:this={scroller}
>
	<div
		class="sticky top-0 z-10 flex w-max min-w-full border-b border-line bg-sheet"
		style="height: {HEAD}px"
		role="row"
	>
		<span class="w-20 shrink-0 px-2 py-1 text-right text-quiet" role="columnheader">index</span>
		{#each table.columns as { key, name, part, type } (key)}
			{@const sorted =
				table.sort?.column === key ? (table.sort.descending ? 'descending' : 'ascending') : 'none'}
			<span class="{wide(type)} shrink-0" role="columnheader" aria-sort={sorted}>
				<button
					class="flex h-full w-full items-center justify-end gap-1 px-2 {sorted === 'none'
						? ''
						: 'font-semibold'}"
					title="Sort by {key}"
					onclick={() => table.sortBy(key)}
					>{#if sorted === 'ascending'}<ArrowUp size={11} />{:else if sorted === 'descending'}<ArrowDown
							size={11}
						/>{/if}
					<span class="truncate">{part ? `${name} ${part}` : name}{name === 'position' ? ', m' : ''}</span
					></button
				>
			</span>
		{/each}
	</div>
	{#if scroller}
		<Virtualizer
			bind:this={made}
			{data}
			getKey={(_: undefined, i: number) => i}
			itemSize={HEIGHT}
			scrollRef={scroller}
			startMargin={HEAD}
			onscroll={seen}
		>
			{#snippet children(_: undefined, place: number)}
				{@const found = table.at(place)}
				<div
					class="flex w-max min-w-full cursor-pointer border-b border-line/40 {found &&
					found.row === table.row
						? 'bg-coral/15'
						: 'hover:bg-ground'}"
					style="height: {HEIGHT}px"
					role="row"
					aria-rowindex={place + 1}
					aria-selected={!!found && found.row === table.row}
					tabindex={found && (table.row === null ? place === 0 : found.row === table.row) ? 0 : -1}
					onclick={() => found && table.look(found.row === table.row ? null : found.row)}
					onkeydown={(event) => step(event, place)}
				>
					<span class="w-20 shrink-0 px-2 text-right text-quiet" role="rowheader">{found?.row ?? '…'}</span>
					{#each table.columns as { key, type } (key)}
						<span class="{wide(type)} shrink-0 truncate px-2 text-right" role="cell"
							>{found?.cell(key) ?? ''}</span
						>
					{/each}
				</div>
			{/snippet}
		</Virtualizer>
	{/if}
</div>
