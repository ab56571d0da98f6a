<script lang="ts">
	import { onDestroy, untrack } from 'svelte';
	import Columns2 from '@lucide/svelte/icons/columns-2';
	import LayoutGrid from '@lucide/svelte/icons/layout-grid';
	import Pin from '@lucide/svelte/icons/pin';
	import Square from '@lucide/svelte/icons/square';
	import SkipForward from '@lucide/svelte/icons/skip-forward';
	import X from '@lucide/svelte/icons/x';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { Sheet } from '$lib/editor/sheet.svelte';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import Tick from '$lib/ui/fields/Tick.svelte';
	import type { SpecimenClient } from '$lib/worker/specimens';
	import NumberField from '$lib/ui/settings/NumberField.svelte';

	interface Props {
		editor: Editor;
		client: SpecimenClient;
		onclose: () => void;
	}
	let { editor, client, onclose }: Props = $props();

	const sheet = untrack(() => new Sheet(editor, client));
	onDestroy(() => sheet.close());
	$effect(() => {
		untrack(() => void sheet.make());
	});
	const WAYS = [
		{ id: 'seeds', label: 'Other seeds' },
		{ id: 'list', label: 'One dial, at values' }
	];
	const counts = $derived(sheet.counts.map((count) => ({ id: String(count), label: `${count} pictures` })));
	const dials = $derived(
		editor.document.dials
			.filter(({ kind }) => kind !== 'ramp' && kind !== 'material')
			.map(({ key, name }) => ({ id: key, label: name }))
	);
	const isNow = (seed: number) => seed === editor.document.seed;
</script>

<section
	class="absolute inset-0 z-20 flex flex-col bg-ground"
	aria-label="Specimen sheet"
	data-first={Math.round(sheet.times.first)}
	data-all={Math.round(sheet.times.all)}
>
	<header class="flex flex-wrap items-center gap-2 border-b border-line bg-sheet px-3 py-2 text-sm">
		<h2 class="mr-1 font-head text-[15px]">Specimen sheet</h2>
		<Choice
			class="w-40 text-[13px]"
			label="What varies"
			value={sheet.by}
			options={WAYS}
			onchange={(by) => (sheet.by = by as 'seeds')}
		/>
		{#if sheet.by === 'seeds'}
			<Choice
				class="w-28 text-[13px]"
				label="How many"
				value={String(sheet.count)}
				options={counts}
				onchange={(count) => (sheet.count = Number(count))}
			/>
		{:else}
			<Choice
				class="w-36 text-[13px]"
				label="The dial"
				value={sheet.listedDial}
				options={dials}
				onchange={(key) => (sheet.listedDial = key)}
			/>
			<input
				class="field w-36 text-[13px]"
				aria-label="Its values"
				placeholder="such as 1, 2, 4, 8"
				bind:value={sheet.listed}
			/>
		{/if}
		{#if sheet.working}
			<button class="button" onclick={() => sheet.stop()}><Square size={13} /> Stop</button>
			<span class="text-xs text-quiet" role="status">{sheet.done} of {sheet.list.length} drawn</span>
		{:else}
			<button class="button" onclick={() => sheet.make()}><LayoutGrid size={14} /> Make the sheet</button>
			{#if sheet.by === 'seeds'}<button class="button" onclick={() => sheet.make(true)}
					><SkipForward size={14} /> Next seeds</button
				>{/if}
			<span class="text-xs text-quiet" role="status">{sheet.done ? `${sheet.done} drawn` : ''}</span>
		{/if}
		<span class="flex-1"></span>
		<button class="icon-button" aria-label="Close the specimen sheet" title="Close" onclick={onclose}
			><X size={17} /></button
		>
	</header>
	{#if sheet.by === 'seeds' && sheet.varying.length}
		<div class="flex flex-wrap gap-x-4 gap-y-1 border-b border-line bg-sheet px-3 py-1.5 text-xs">
			<span class="text-quiet">Vary too:</span>
			{#each sheet.varying as one (one.dial.key)}
				<span class="flex items-center gap-1">
					<label class="flex items-center gap-1"
						><Tick checked={one.on} onchange={(on) => (one.on = on)} />{one.dial.name}</label
					>
					{#if one.on}
						<span class="w-20"
							><NumberField
								label="{one.dial.name}, least"
								value={one.low}
								unit={one.dial.unit}
								onchange={(value) => (one.low = value)}
							/></span
						><span class="text-quiet">to</span><span class="w-20"
							><NumberField
								label="{one.dial.name}, most"
								value={one.high}
								unit={one.dial.unit}
								onchange={(value) => (one.high = value)}
							/></span
						>
					{/if}
				</span>
			{/each}
		</div>
	{/if}
	<ul
		class="grid min-h-0 flex-1 grid-cols-[repeat(auto-fill,minmax(150px,1fr))] content-start gap-2 overflow-y-auto p-3"
		aria-label="Variations"
	>
		{#each sheet.list as one (one.variation.label)}
			<li
				class="rounded border bg-sheet {isNow(one.variation.seed) && sheet.by === 'seeds'
					? 'border-coral'
					: 'border-line'}"
			>
				<button
					class="block w-full"
					aria-label="Use {one.variation.label}"
					disabled={!!one.failed}
					onclick={() => sheet.take(one)}
				>
					<span class="flex aspect-[3/2] items-center justify-center p-1 text-left text-xs text-quiet">
						{#if one.url}<img src={one.url} alt="" class="h-full w-full object-contain" />
						{:else if one.failed}<span class="line-clamp-4 text-plum">{one.failed}</span>
						{:else}…{/if}
					</span>
				</button>
				<div class="flex items-center gap-1 px-1.5 py-0.5 text-xs">
					<span class="line-clamp-2 min-w-0 flex-1 break-words" title={one.variation.label}
						>{one.variation.label}</span
					>
					<button
						class="icon-button h-5 w-5"
						disabled={!one.url}
						aria-label="Compare {one.variation.label}"
						title="Compare it side by side"
						onclick={() => {
							sheet.compare(one);
							onclose();
						}}><Columns2 size={12} /></button
					>
					<button
						class="icon-button h-5 w-5"
						disabled={!one.url}
						aria-label="Keep {one.variation.label}"
						title="Keep it"
						onclick={() => sheet.keep(one)}><Pin size={12} /></button
					>
				</div>
			</li>
		{/each}
	</ul>
</section>
