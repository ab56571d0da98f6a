<script lang="ts">
	import ChevronFirst from '@lucide/svelte/icons/chevron-first';
	import ChevronLast from '@lucide/svelte/icons/chevron-last';
	import ChevronLeft from '@lucide/svelte/icons/chevron-left';
	import ChevronRight from '@lucide/svelte/icons/chevron-right';
	import Download from '@lucide/svelte/icons/download';
	import Disc from '@lucide/svelte/icons/disc';
	import Pause from '@lucide/svelte/icons/pause';
	import Play from '@lucide/svelte/icons/play';
	import type { Editor } from '$lib/editor/editor.svelte';
	import type { KeyedRow } from '$core/engine/index';
	import type { Goes } from '$lib/editor/playing.svelte';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import { onDestroy, untrack } from 'svelte';
	import { KeySelection } from '$lib/editor/key-selection.svelte';
	import KeyCurves from './KeyCurves.svelte';
	import KeyTable from './KeyTable.svelte';
	import NamedFrames from './NamedFrames.svelte';
	import PasteOnto from './PasteOnto.svelte';

	/** `dressed`: only what the generator's user sets, its dials. */
	let { editor, dressed = false }: { editor: Editor; dressed?: boolean } = $props();

	const { playing } = $derived(editor);
	const { frames, frame } = $derived(playing);
	const rows = $derived(dressed ? playing.rows.filter(({ node }) => !node) : playing.rows);
	const GOES = [
		{ id: 'once', label: 'Once' },
		{ id: 'over', label: 'Over and over' },
		{ id: 'back', label: 'Back and forth' }
	];
	const WAYS = [
		{ id: 'time', label: 'In real time' },
		{ id: 'every', label: 'Every frame' }
	];
	const SPEEDS = [0.25, 0.5, 1, 2].map((speed) => ({ id: String(speed), label: `${speed} ×` }));
	const BOUNDS = [
		['rate', 'Frames a second'],
		['first', 'First frame'],
		['last', 'Last frame']
	] as const;
	/** Where a frame lies on the way, from 0 to 1. */
	const share = (at: number) => (at - frames.first) / Math.max(1, frames.last - frames.first);
	const keptCount = $derived(
		editor.evaluation.kept.reduce((sum, [from, to]) => sum + 1 + Math.min(to, frames.last) - from, 0)
	);
	const idOf = ({ node, setting }: KeyedRow) => `${node} ${setting}`;
	/** The settings whose keys are open: as curves and as tables. */
	let opened = $state.raw<ReadonlySet<string>>(new Set());
	const open = $derived(rows.filter((row) => opened.has(idOf(row))));
	const chosen = untrack(() => new KeySelection(editor));
	const keyAt = ({ node, setting }: KeyedRow, at: number) => ({ node, setting, at });

	function toggle(row: KeyedRow) {
		const next = new Set(opened);
		if (!next.delete(idOf(row))) next.add(idOf(row));
		opened = next;
		if (row.node) editor.select([row.node]);
	}
	/** Keys are dragged along their rows, all that are chosen together. */
	function drag(event: PointerEvent, row: KeyedRow, at: number) {
		const track = (event.currentTarget as HTMLElement).parentElement!;
		const box = track.getBoundingClientRect();
		if (event.shiftKey) return chosen.choose(keyAt(row, at), true);
		if (!chosen.has(keyAt(row, at))) chosen.choose(keyAt(row, at));
		const move = ({ clientX }: PointerEvent) => {
			const to = Math.round(frames.first + ((clientX - box.left) / box.width) * (frames.last - frames.first));
			dragged = to - at;
		};
		const end = (ended: PointerEvent) => {
			dragging?.abort();
			if (ended.type === 'pointerup') chosen.move(dragged);
			dragged = 0;
		};
		dragging?.abort();
		dragging = new AbortController();
		const { signal } = dragging;
		addEventListener('pointermove', move, { signal });
		addEventListener('pointerup', end, { signal });
		addEventListener('pointercancel', end, { signal });
	}
	/** The drag on its way; it ends with the timeline. */
	let dragging: AbortController | null = null;
	onDestroy(() => dragging?.abort());
	/** Frames by which the chosen keys are dragged. */
	let dragged = $state(0);
	function press(event: KeyboardEvent, row: KeyedRow, at: number) {
		const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
		const isOther = !chosen.has(keyAt(row, at));
		if (event.key === ' ' || event.key === 'Enter') chosen.choose(keyAt(row, at), event.shiftKey);
		else if (by || event.key === 'Delete') {
			if (isOther) chosen.choose(keyAt(row, at));
			if (by) chosen.move(by);
			else chosen.remove();
		} else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<div class="flex min-h-0 flex-1 flex-col text-xs" data-frame={frame} data-playing={playing.on}>
	<div class="flex flex-wrap items-center gap-1 border-b border-line px-2 py-1">
		<button
			class="icon-button"
			aria-label="To the first frame"
			title="To the first frame (Home)"
			onclick={playing.toStart}><ChevronFirst size={16} /></button
		>
		<button
			class="icon-button"
			aria-label="One frame back"
			title="One frame back (←)"
			onclick={() => playing.step(-1)}><ChevronLeft size={16} /></button
		>
		<button
			class="button text-xs"
			aria-pressed={playing.on}
			title="Play or pause (Space)"
			onclick={playing.toggle}
			>{#if playing.on}<Pause size={14} /> Pause{:else}<Play size={14} /> Play{/if}</button
		>
		<button
			class="icon-button"
			aria-label="One frame on"
			title="One frame on (→)"
			onclick={() => playing.step(1)}><ChevronRight size={16} /></button
		>
		<button
			class="icon-button"
			aria-label="To the last frame"
			title="To the last frame (End)"
			onclick={playing.toEnd}><ChevronLast size={16} /></button
		>
		<label class="ml-1 flex items-center gap-1"
			>Frame <input
				{@attach selectAll}
				class="field w-16 text-right font-mono text-xs"
				type="number"
				aria-label="Frame"
				value={frame}
				onchange={(event) => playing.seek(Number(event.currentTarget.value))}
			/></label
		>
		<span class="w-16 font-mono text-quiet">{((frame - frames.first) / frames.rate).toFixed(2)} s</span>
		<Choice
			class="w-32 text-xs"
			label="At the end"
			value={playing.goes}
			options={GOES}
			onchange={(goes) => (playing.goes = goes as Goes)}
		/>
		<Choice
			class="w-16 text-xs"
			label="Speed"
			value={String(playing.speed)}
			options={SPEEDS}
			onchange={(speed) => (playing.speed = Number(speed))}
		/>
		<Choice
			class="w-28 text-xs"
			label="Which frames are shown"
			value={playing.inRealTime ? 'time' : 'every'}
			options={WAYS}
			onchange={(way) => (playing.inRealTime = way === 'time')}
		/>
		<button
			class="button text-xs {playing.records ? 'text-plum' : ''}"
			aria-pressed={playing.records}
			title="While it is on, whatever is set becomes a key at this frame"
			onclick={() => (playing.records = !playing.records)}><Disc size={13} /> Record</button
		>
		<span class="text-quiet" role="status">{playing.on ? `${playing.reached} frames a second` : ''}</span>
		<span class="flex-1"></span>
		<button
			class="icon-button"
			aria-label="Export frames"
			title="Export frames: an animation, files, pictures or a video"
			onclick={() => (editor.exporting = 'frames')}><Download size={15} /></button
		>
		{#each BOUNDS as [name, label] (name)}
			<label class="flex items-center gap-1 text-quiet"
				>{label}
				<input
					{@attach selectAll}
					class="field w-14 text-right font-mono text-xs"
					type="number"
					step="any"
					aria-label={label}
					value={frames[name]}
					onchange={(event) => {
						playing.setFrames({ [name]: Number(event.currentTarget.value) });
						event.currentTarget.value = String(playing.frames[name]);
					}}
				/></label
			>
		{/each}
	</div>
	{#if chosen.keys.length || chosen.copied.length}
		<div class="flex items-center gap-2 border-b border-line px-2 py-1" role="group" aria-label="Chosen keys">
			<span class="w-20 text-quiet">{chosen.keys.length} {chosen.keys.length === 1 ? 'key' : 'keys'}</span>
			<button class="button text-xs" disabled={!chosen.keys.length} onclick={() => chosen.copy()}>Copy</button
			>
			<button
				class="button text-xs"
				disabled={!chosen.copied.length}
				title="The first of what was copied comes to lie at the playhead"
				onclick={() => chosen.paste(frame)}>Paste at frame {frame}</button
			>
			{#if chosen.copied.length}<PasteOnto {editor} {chosen} {frame} />{/if}
			<label class="flex items-center gap-1 text-quiet"
				>Scale in time about frame {frame}, ×
				<input
					{@attach selectAll}
					class="field w-14 text-right font-mono text-xs"
					type="number"
					step="any"
					aria-label="Scale in time"
					disabled={!chosen.keys.length}
					value="1"
					onchange={(event) => {
						chosen.scale(event.currentTarget.valueAsNumber, frame);
						event.currentTarget.value = '1';
					}}
				/></label
			>
			<button class="button text-xs" disabled={!chosen.keys.length} onclick={() => chosen.remove()}
				>Delete</button
			>
			<button class="button text-xs" disabled={!chosen.keys.length} onclick={() => chosen.clear()}
				>Choose none</button
			>
		</div>
	{/if}
	<div class="grid min-h-0 flex-1 grid-cols-[176px_1fr] content-start overflow-y-auto px-2 py-1">
		<span class="py-1 text-quiet">Playhead</span>
		<div class="relative">
			<div
				class="absolute inset-x-0 top-0 h-1"
				role="img"
				aria-label="Frames kept in memory: {keptCount} of {frames.last - frames.first + 1}"
				title="Frames kept in memory: {keptCount} of {frames.last - frames.first + 1}"
			>
				{#each editor.evaluation.kept as [from, to] (from)}
					<span
						class="absolute inset-y-0 bg-teal/60"
						style:left="{100 * share(from - 0.5)}%"
						style:width="{100 * (share(to + 0.5) - share(from - 0.5))}%"
					></span>
				{/each}
			</div>
			<input
				type="range"
				class="playhead h-6 w-full"
				aria-label="Playhead"
				aria-valuetext="Frame {frame}"
				min={frames.first}
				max={frames.last}
				step="1"
				value={frame}
				oninput={(event) => playing.seek(event.currentTarget.valueAsNumber)}
			/>
		</div>
		<NamedFrames {editor} {share} fixed={dressed} />
		{#each rows as row (idOf(row))}
			<button
				class="truncate py-0.5 text-left font-mono hover:underline {open.includes(row)
					? 'font-semibold'
					: ''}"
				title="{row.label}: its keys as curves and as a table"
				aria-expanded={open.includes(row)}
				onclick={() => toggle(row)}>{row.name}</button
			>
			<div class="relative my-0.5 h-5 rounded bg-ground" role="group" aria-label="Keys of {row.name}">
				<span class="absolute inset-y-0 w-px bg-coral" style="left: {100 * share(frame)}%"></span>
				{#each row.keys as key (key.at)}
					{@const isChosen = chosen.has(keyAt(row, key.at))}
					<button
						class="absolute top-0.5 h-4 -translate-x-1/2 cursor-ew-resize rounded-sm {isChosen
							? 'w-2.5 border-2 border-ink'
							: 'w-1.5'} {key.at === frame ? 'bg-coral' : 'bg-teal'}"
						style="left: {100 * Math.max(0, Math.min(1, share(key.at + (isChosen ? dragged : 0))))}%"
						aria-pressed={isChosen}
						aria-label="Key at frame {key.at}"
						title="Frame {key.at}. Drag it; arrow keys move it, Delete takes it away; with Shift several are chosen."
						onpointerdown={(event) => drag(event, row, key.at)}
						onkeydown={(event) => press(event, row, key.at)}
					></button>
				{/each}
			</div>
		{:else}
			<p class="col-span-2 py-2 text-quiet">
				{dressed
					? 'No dial has keys. Set one by the key beside a dial’s name, or turn dials while Record is on.'
					: 'Nothing has keys here. Set one from the menu of any setting; formulas may speak of time and frame.'}
			</p>
		{/each}
		<KeyCurves {editor} rows={open} {frames} {frame} />
		{#each open as row (idOf(row))}<div class="col-span-2"><KeyTable {editor} {row} /></div>{/each}
	</div>
</div>

<style>
	.playhead {
		appearance: none;
		background: linear-gradient(var(--color-line), var(--color-line)) center / 100% 4px no-repeat;
		cursor: ew-resize;
	}
	.playhead::-webkit-slider-thumb {
		appearance: none;
		width: 3px;
		height: 22px;
		background: var(--color-coral);
	}
</style>
