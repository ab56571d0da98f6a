<script lang="ts">
	import ChevronDown from '@lucide/svelte/icons/chevron-down';
	import Clock from '@lucide/svelte/icons/clock-3';
	import ListOrdered from '@lucide/svelte/icons/list-ordered';
	import Spline from '@lucide/svelte/icons/spline';
	import Table from '@lucide/svelte/icons/table-2';
	import type { Editor } from '$lib/editor/editor.svelte';
	import OrderList from './OrderList.svelte';
	import RampList from './RampList.svelte';
	import Timeline from './Timeline.svelte';

	let { editor }: { editor: Editor } = $props();
	const tabs = [
		['data', 'Data', Table],
		['ramps', 'Ramps', Spline],
		['order', 'Order', ListOrdered],
		['timeline', 'Timeline', Clock]
	] as const;
</script>

<section
	class="flex min-h-0 flex-col border-t border-line bg-sheet {editor.drawer === 'data'
		? 'h-80'
		: editor.drawer === 'timeline'
			? 'max-h-96 min-h-60'
			: editor.drawer
				? 'h-60'
				: ''}"
	aria-label="Drawer"
>
	<div class="flex items-center gap-1 px-2 py-0.5">
		{#each tabs as [id, name, Icon] (id)}
			<button
				class="flex items-center gap-1 rounded px-2 py-0.5 text-xs {editor.drawer === id
					? 'bg-ground font-semibold'
					: 'text-quiet'}"
				aria-expanded={editor.drawer === id}
				onclick={() => (editor.drawer = editor.drawer === id ? null : id)}><Icon size={13} /> {name}</button
			>
		{/each}
		<span class="flex-1"></span>
		{#if editor.drawer}<button
				class="icon-button h-5 w-5"
				aria-label="Close the drawer"
				onclick={() => (editor.drawer = null)}><ChevronDown size={14} /></button
			>{/if}
	</div>
	{#if editor.drawer === 'data'}
		<!-- Tables and charts are fetched when they are first looked at: Build opens without them. -->
		{#await import('../data/DataDrawer.svelte') then { default: DataDrawer }}<DataDrawer {editor} />{:catch}<p
				class="p-3 text-sm text-plum"
				role="alert"
			>
				The table could not be fetched. Your work is saved; load the page again when the server answers.
			</p>{/await}
	{:else if editor.drawer === 'ramps'}<RampList {editor} />{:else if editor.drawer === 'order'}<OrderList
			{editor}
		/>{:else if editor.drawer === 'timeline'}<Timeline {editor} />{/if}
</section>
