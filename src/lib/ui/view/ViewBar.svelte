<script lang="ts">
	import { DropdownMenu } from 'bits-ui';
	import Axis3d from '@lucide/svelte/icons/axis-3d';
	import Camera from '@lucide/svelte/icons/camera';
	import Check from '@lucide/svelte/icons/check';
	import CircleQuestionMark from '@lucide/svelte/icons/circle-question-mark';
	import Focus from '@lucide/svelte/icons/focus';
	import Maximize from '@lucide/svelte/icons/maximize';
	import Move3d from '@lucide/svelte/icons/move-3d';
	import PaintBucket from '@lucide/svelte/icons/paint-bucket';
	import Rotate3d from '@lucide/svelte/icons/rotate-3d';
	import Ruler from '@lucide/svelte/icons/ruler';
	import Scale3d from '@lucide/svelte/icons/scale-3d';
	import type { Background } from '$core/engine/document';
	import type { Light } from '$lib/viewport/light';
	import LightMenu from './LightMenu.svelte';
	import type { ViewMarks } from './marks.svelte';
	import MarksMenu from './MarksMenu.svelte';
	import type { Direction, HandleMode, Shading } from '$lib/viewport/scene';

	interface Props {
		shading: Shading;
		direction: Direction;
		nearHidden: boolean;
		grid: boolean;
		background: Background;
		light: Light;
		measuring: boolean;
		marks: ViewMarks;
		/** Whether nothing of the graph is spoken of. */
		dressed?: boolean;
		/** Whether a click asks why an element is as it is. */
		asking: boolean;
		onask: () => void;
		/** The handles in use; null where the selected node has none. */
		handles: HandleMode | null;
		onfit: (what: 'all' | 'selection') => void;
		onlook: (direction: Direction) => void;
		/** The cameras that can be looked through, and the one that is. */
		cameras: readonly { id: string; name: string }[];
		camera: string | null;
		oncamera: (id: string | null) => void;
		onkeepview: () => void;
		onbackground: (id: Background) => void;
		onlight: (light: Light, done: boolean) => void;
		onmeasure: () => void;
		onpicture: () => void;
		onhandles: (mode: HandleMode) => void;
	}
	let {
		shading = $bindable(),
		direction,
		nearHidden = $bindable(),
		grid = $bindable(),
		background,
		light,
		measuring,
		marks,
		dressed = false,
		asking,
		onask,
		handles,
		onfit,
		onlook,
		cameras,
		camera,
		oncamera,
		onkeepview,
		onbackground,
		onlight,
		onmeasure,
		onpicture,
		onhandles
	}: Props = $props();

	const directions = [
		['perspective', 'Perspective', 'Alt+P'],
		['top', 'Top', 'Alt+T'],
		['front', 'Front', 'Alt+N'],
		['east', 'Side (east)', 'Alt+E']
	] as const;
	const shadings = [
		['shaded', 'Shaded', 'Shaded'],
		['wireframe', 'Wireframe', 'Wireframe'],
		['both', 'Shaded with edges', 'Shaded + edges']
	] as const;
	const handleModes = [
		['translate', 'Move', 'M', Move3d],
		['rotate', 'Rotate', 'R', Rotate3d],
		['scale', 'Scale', 'S', Scale3d]
	] as const;
</script>

{#snippet tick(checked: boolean)}
	<span class="w-4"
		>{#if checked}<Check size={14} />{/if}</span
	>
{/snippet}

<div class="absolute top-2 left-2 flex flex-wrap gap-1">
	<button class="button" onclick={() => onfit('all')} aria-label="Fit all" title="Fit all (Shift+F)"
		><Maximize size={15} /> <span class="wide">Fit</span></button
	>
	<button
		class="button"
		onclick={() => onfit('selection')}
		aria-label="Fit selection"
		title="Fit what is selected (F)"><Focus size={15} /></button
	>
	<DropdownMenu.Root>
		<DropdownMenu.Trigger class="button" aria-label="Direction of view"
			><Axis3d size={15} />
			<span class="wide"
				>{cameras.find(({ id }) => id === camera)?.name ??
					directions.find(([id]) => id === direction)![1]}</span
			></DropdownMenu.Trigger
		>
		<DropdownMenu.Portal>
			<DropdownMenu.Content class="menu" align="start">
				{#each directions as [id, name, keys] (id)}
					<DropdownMenu.Item class="menu-item" onSelect={() => onlook(id)}
						><span class="flex-1">{name}</span><kbd class="font-mono text-xs text-quiet">{keys}</kbd
						></DropdownMenu.Item
					>
				{/each}
				{#if !dressed || cameras.length}
					<DropdownMenu.Separator class="my-1 border-t border-line" />
					{#each cameras as { id, name } (id)}
						<DropdownMenu.Item class="menu-item" onSelect={() => oncamera(id === camera ? null : id)}
							>{@render tick(id === camera)}Through {name}</DropdownMenu.Item
						>
					{/each}
					{#if !dressed}
						<DropdownMenu.Item class="menu-item" onSelect={onkeepview}
							>{@render tick(false)}Keep this view as a camera</DropdownMenu.Item
						>
					{/if}
				{/if}
			</DropdownMenu.Content>
		</DropdownMenu.Portal>
	</DropdownMenu.Root>
	<DropdownMenu.Root>
		<DropdownMenu.Trigger class="button" aria-label="How it is drawn"
			><PaintBucket size={15} />
			<span class="wide">{shadings.find(([id]) => id === shading)![2]}</span></DropdownMenu.Trigger
		>
		<DropdownMenu.Portal>
			<DropdownMenu.Content class="menu" align="start">
				{#each shadings as [id, name] (id)}
					<DropdownMenu.Item class="menu-item" onSelect={() => (shading = id)}
						>{@render tick(shading === id)}{name}</DropdownMenu.Item
					>
				{/each}
				<DropdownMenu.Separator class="my-1 border-t border-line" />
				<DropdownMenu.CheckboxItem class="menu-item" bind:checked={nearHidden}
					>{#snippet children({ checked })}{@render tick(checked)}Hide near walls{/snippet}</DropdownMenu.CheckboxItem
				>
				<DropdownMenu.CheckboxItem class="menu-item" bind:checked={grid}
					>{#snippet children({ checked })}{@render tick(checked)}Grid{/snippet}</DropdownMenu.CheckboxItem
				>
			</DropdownMenu.Content>
		</DropdownMenu.Portal>
	</DropdownMenu.Root>
	<LightMenu {light} {background} {onlight} {onbackground} />
	{#if !dressed}
		<MarksMenu {marks} />
		<button
			class="button"
			aria-pressed={asking}
			class:text-coral={asking}
			onclick={onask}
			aria-label="Why is it so?"
			title="Why is it so? Click an element (or Alt+click, any time)"><CircleQuestionMark size={15} /></button
		>
	{/if}
	<button
		class="button"
		aria-pressed={measuring}
		class:text-coral={measuring}
		onclick={onmeasure}
		aria-label="Measure between two points"
		title="Measure between two points"><Ruler size={15} /> <span class="wide">Measure</span></button
	>
	<button class="button" onclick={onpicture} aria-label="Save a picture" title="Save a picture"
		><Camera size={15} /></button
	>
	{#if handles}
		<span class="flex overflow-hidden rounded border border-line bg-sheet" role="group" aria-label="Handles">
			{#each handleModes as [mode, name, shortcut, Icon] (mode)}
				<button
					class="icon-button rounded-none"
					aria-pressed={handles === mode}
					aria-label="{name} handles"
					title="{name} ({shortcut})"
					onclick={() => onhandles(mode)}><Icon size={15} /></button
				>
			{/each}
		</span>
	{/if}
</div>

<style>
	/* Words on buttons where there is room. */
	@container (max-width: 620px) {
		:global(.wide) {
			display: none;
		}
	}
</style>
