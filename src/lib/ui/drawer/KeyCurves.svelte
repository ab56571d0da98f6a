<script lang="ts">
	import { untrack } from 'svelte';
	import type { Frames, KeyedRow } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { KeyCurves, partsOf } from './key-curves.svelte';
	import type { Dot, Line } from './key-curves.svelte';

	interface Props {
		editor: Editor;
		rows: readonly KeyedRow[];
		frames: Frames;
		frame: number;
	}
	let { editor, rows, frames, frame }: Props = $props();
	const curves = untrack(() => new KeyCurves(editor, () => rows));

	const WIDTH = 800,
		HEIGHT = 150,
		SAMPLES = 240;
	const COLOURS = ['var(--teal)', 'var(--coral)', 'var(--ochre)', 'var(--plum)', 'var(--ink)'];
	let svg = $state<SVGSVGElement>();
	/** Which values are drawn, from the lowest to the highest; they stay while a dot is held. */
	let span = $state.raw({ low: 0, high: 1 });
	$effect(() => {
		if (curves.isHeld) return;
		const values = curves.dots.map(({ value }) => value);
		const [low, high] = [Math.min(...values), Math.max(...values)];
		const room = (high - low || Math.abs(high) || 1) * 0.12;
		span = values.length ? { low: low - room, high: high + room } : { low: 0, high: 1 };
	});
	const x = (at: number) => ((at - frames.first) / Math.max(1, frames.last - frames.first)) * WIDTH;
	const y = (value: number) => HEIGHT - ((value - span.low) / (span.high - span.low)) * HEIGHT;
	const path = (line: Line) =>
		Array.from({ length: SAMPLES + 1 }, (_, i) => {
			const at = frames.first + (i / SAMPLES) * (frames.last - frames.first);
			return `${i ? 'L' : 'M'}${x(at).toFixed(1)} ${y(curves.valueAt(line, at)).toFixed(1)}`;
		}).join('');
	const idOf = ({ row, part }: Line) => `${row.node} ${row.setting} ${part}`;
	const colourOf = (line: Line) =>
		COLOURS[curves.lines.findIndex((one) => idOf(one) === idOf(line)) % COLOURS.length];
	/** The key to which a handle belongs: the one behind it, or the next. */
	const endOf = ({ line, key, handle }: Dot) => {
		const next = line.setting.keys.filter(({ at }) => at > key.at).sort((a, b) => a.at - b.at)[0];
		const end = handle === 1 ? key : next;
		return { frame: end.at, value: partsOf(end.value)[line.part] };
	};
	function move({ clientX, clientY }: PointerEvent) {
		if (!curves.isHeld) return;
		const box = svg!.getBoundingClientRect();
		curves.drag(
			frames.first + ((clientX - box.left) / box.width) * (frames.last - frames.first),
			span.high - ((clientY - box.top) / box.height) * (span.high - span.low)
		);
	}
	function key(event: KeyboardEvent, dot: Dot) {
		const [by, up] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
			event.key
		] ?? [0, 0];
		if (!by && !up) return;
		event.preventDefault();
		event.stopPropagation();
		curves.nudge(dot, by, (up * (span.high - span.low)) / 50);
	}
	const nameOf = ({ line, handle, frame: at, value }: Dot) =>
		`${handle ? `Handle ${handle} of` : 'Key of'} ${line.name} at frame ${Number(at.toFixed(1))}, ${Number(value.toPrecision(4))}`;
</script>

<svelte:window
	onpointermove={move}
	onpointerup={() => curves.letGo()}
	onpointercancel={() => curves.letGo()}
/>
{#if curves.lines.length}
	<div class="col-start-2 my-1">
		<svg
			bind:this={svg}
			viewBox="0 0 {WIDTH} {HEIGHT}"
			preserveAspectRatio="none"
			class="h-36 w-full overflow-visible rounded border border-line bg-ground"
			role="group"
			aria-label="Curves of keys"
		>
			<line
				x1={x(frame)}
				x2={x(frame)}
				y1="0"
				y2={HEIGHT}
				stroke="var(--coral)"
				vector-effect="non-scaling-stroke"
			/>
			{#each curves.lines as line (idOf(line))}
				<path
					d={path(line)}
					fill="none"
					stroke={colourOf(line)}
					stroke-width="2"
					vector-effect="non-scaling-stroke"
				/>
			{/each}
			{#each curves.dots.filter(({ handle }) => handle) as dot, i (i)}
				{@const end = endOf(dot)}
				<line
					x1={x(end.frame)}
					y1={y(end.value)}
					x2={x(dot.frame)}
					y2={y(dot.value)}
					stroke="var(--quiet)"
					vector-effect="non-scaling-stroke"
				/>
			{/each}
		</svg>
		<!-- Dots lie over the drawing, so that they stay round however wide it is. -->
		<div class="pointer-events-none relative -mt-36 h-36 text-quiet">
			<span class="absolute top-0.5 right-full mr-1 font-mono">{span.high.toPrecision(3)}</span>
			<span class="absolute right-full bottom-0.5 mr-1 font-mono">{span.low.toPrecision(3)}</span>
			{#each curves.dots as dot, i (i)}
				<button
					class="pointer-events-auto absolute -translate-x-1/2 -translate-y-1/2 cursor-grab border border-ink {dot.handle
						? 'h-2 w-2 bg-sheet'
						: 'h-3 w-3 rounded-full'}"
					style:left="{(100 * x(dot.frame)) / WIDTH}%"
					style:top="{(100 * y(dot.value)) / HEIGHT}%"
					style:background={dot.handle ? undefined : colourOf(dot.line)}
					aria-label={nameOf(dot)}
					title={nameOf(dot)}
					onpointerdown={(event) => {
						event.preventDefault();
						event.currentTarget.focus();
						curves.hold(dot);
					}}
					onkeydown={(event) => key(event, dot)}
				></button>
			{/each}
		</div>
		<p class="mt-1 flex flex-wrap gap-x-3 text-quiet">
			{#each curves.lines as line (idOf(line))}<span
					><span class="inline-block h-2 w-2 rounded-full" style:background={colourOf(line)}></span>
					{line.name}</span
				>{/each}
		</p>
	</div>
{/if}
