<script lang="ts">
	import Choice from '$lib/ui/fields/Choice.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import Link2 from '@lucide/svelte/icons/link-2';
	import PenLine from '@lucide/svelte/icons/pen-line';
	import Plus from '@lucide/svelte/icons/plus';
	import Scissors from '@lucide/svelte/icons/scissors';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { canSplit, isPath, joinAt, piecesOf, samplePath, splitAt, withoutPoint } from '$core/index';
	import type { GraphNode, PathPoint, Setting } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { Vector3 } from 'three';
	import type { ViewScene } from './scene';

	interface Props {
		editor: Editor;
		scene: ViewScene;
		node: GraphNode;
		/** Counts up as the picture moves. */
		moves: number;
	}
	let { editor, scene, node, moves }: Props = $props();

	let drawing = $state(false);
	const PLANES = [
		{ id: 'ground', label: 'the ground' },
		{ id: 'surface', label: 'the surface' },
		{ id: 'upright', label: 'a plane facing you' }
	];
	let plane = $state<'ground' | 'upright' | 'surface'>('ground');
	let snap = $state(0);
	let chosen = $state<number | null>(null);
	type Grip = { point: number; part: 'at' | 'in' | 'out' } | 'whole';
	let held: { grip: Grip; start: [number, number, number]; before: readonly PathPoint[] } | null = null;

	const points = $derived<readonly PathPoint[]>(
		isPath(node.settings.path) ? (node.settings.path.path as PathPoint[]) : []
	);
	const bezier = $derived(node.settings.type === 'bezier');
	const closed = $derived(node.settings.closed === true);
	const sum = (a: readonly number[], b: readonly number[]) =>
		a.map((x, k) => x + b[k]) as [number, number, number];
	const shown = $derived.by(() => {
		void moves;
		const at = (p: readonly number[]) => scene.project(new Vector3(...(p as [number, number, number])));
		return points.map((p) => ({
			at: at(p.at),
			in: bezier && p.in ? at(sum(p.at, p.in)) : null,
			out: bezier && p.out ? at(sum(p.at, p.out)) : null
		}));
	});

	/** The curve itself, over whatever it lies in. */
	const line = $derived.by(() => {
		void moves;
		return piecesOf(points)
			.map((piece) => {
				const flat = samplePath(piece, node.settings.type as 'through', closed, 12);
				const places: string[] = [];
				for (let i = 0; i < flat.length; i += 3) {
					const { x, y } = scene.project(new Vector3(flat[i], flat[i + 1], flat[i + 2]));
					places.push(`${x.toFixed(1)} ${y.toFixed(1)}`);
				}
				if (closed && piece.length > 2) places.push(places[0]);
				return places.length > 1 ? `M${places.join('L')}` : '';
			})
			.join('');
	});

	const snapped = (p: [number, number, number]): [number, number, number] =>
		p
			.map((x) => (snap > 0 ? Math.round(x / snap) * snap : Math.round(x * 1000) / 1000))
			.map((x) => Number(x.toFixed(4))) as [number, number, number];

	/** The place under the pointer, on the chosen plane. */
	function placeAt(
		event: PointerEvent | MouseEvent,
		through: readonly number[]
	): [number, number, number] | null {
		if (plane === 'surface') {
			const hit = scene.pick(event.clientX, event.clientY);
			if (hit && hit.node !== node.id) return snapped(hit.point.toArray());
		}
		const place = scene.onPlane(
			event.clientX,
			event.clientY,
			through,
			plane === 'upright' ? 'view' : [0, 1, 0]
		);
		return place && snapped(place);
	}
	function put(path: readonly PathPoint[], gesture: string | null = null) {
		editor.set(node.id, 'path', { path } as unknown as Setting, gesture);
		if (!gesture) editor.endGesture();
	}
	function add(event: MouseEvent) {
		if (!drawing) return;
		const last = points.at(-1)?.at ?? [0, 0, 0];
		const at = placeAt(event, plane === 'ground' ? [0, last[1], 0] : last);
		if (!at) return;
		const point: PathPoint = { at };
		if (bezier) {
			// Handles along the way come from, a third of it long.
			const way = points.length ? at.map((x, k) => (x - last[k]) / 3) : [0.5, 0, 0];
			point.out = way as [number, number, number];
			point.in = way.map((x) => -x) as [number, number, number];
		}
		put([...points, point]);
		chosen = points.length;
	}
	/** Halfway to the next point, or from the one before where a curve ends. */
	function insertAfter(i: number) {
		const atEnd = points[i].ends || (i === points.length - 1 && !closed);
		const [a, b] = atEnd && i > 0 ? [i - 1, i] : [i, (i + 1) % points.length];
		const at = points[a].at.map((x, k) => (x + points[b].at[k]) / 2) as [number, number, number];
		const point: PathPoint = bezier ? { at, in: [-0.2, 0, 0], out: [0.2, 0, 0] } : { at };
		put([...points.slice(0, a + 1), point, ...points.slice(a + 1)]);
		chosen = a + 1;
	}
	function remove(i: number) {
		put(withoutPoint(points, i));
		chosen = null;
	}
	const splittable = $derived(chosen !== null && !!points[chosen] && canSplit(points, chosen, closed));
	/** The point whose curve would go on with the next: the chosen one, or the one before it. */
	const joint = $derived(
		chosen === null ? -1 : [chosen, chosen - 1].findIndex((i) => points[i]?.ends && points[i + 1])
	);
	function split() {
		if (chosen === null) return;
		const next = splitAt(points, chosen, closed);
		editor.update(node.id, 'Split a curve', {
			settings: { ...node.settings, path: { path: next.path } as unknown as Setting, closed: next.closed }
		});
		chosen = closed ? 0 : chosen;
	}
	function join() {
		if (chosen === null || joint < 0) return;
		put(joinAt(points, chosen - joint));
		chosen = chosen - joint;
	}
	function down(event: PointerEvent, grip: Grip) {
		event.preventDefault();
		event.stopPropagation();
		if (grip !== 'whole') chosen = grip.point;
		const anchor =
			grip === 'whole'
				? points[0].at
				: grip.part === 'at'
					? points[grip.point].at
					: sum(points[grip.point].at, points[grip.point][grip.part]!);
		held = { grip, start: [...anchor] as [number, number, number], before: points };
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
	}
	function move(event: PointerEvent) {
		if (!held) return;
		const { grip, start, before } = held;
		const to = placeAt(event, start);
		if (!to) return;
		const step = to.map((x, k) => x - start[k]);
		if (grip === 'whole')
			put(
				before.map((p) => ({ ...p, at: sum(p.at, step) })),
				'path'
			);
		else
			put(
				before.map((p, i) => {
					if (i !== grip.point) return p;
					if (grip.part === 'at') return { ...p, at: to };
					const handle = to.map((x, k) => Number((x - p.at[k]).toFixed(4))) as [number, number, number];
					// The other handle stays in line, unless Alt is held.
					const other = grip.part === 'in' ? 'out' : 'in';
					const length = Math.hypot(...(p[other] ?? [0, 0, 0])),
						own = Math.hypot(...handle);
					return event.altKey || !own || !p[other]
						? { ...p, [grip.part]: handle }
						: {
								...p,
								[grip.part]: handle,
								[other]: handle.map((x) => (-x * length) / own) as [number, number, number]
							};
				}),
				'path'
			);
	}
	function up() {
		if (held) editor.endGesture();
		held = null;
	}
	function key(event: KeyboardEvent, i: number) {
		const step = snap || 0.1;
		const ways: Record<string, [number, number, number]> = {
			ArrowLeft: [-step, 0, 0],
			ArrowRight: [step, 0, 0],
			ArrowUp: event.shiftKey ? [0, step, 0] : [0, 0, -step],
			ArrowDown: event.shiftKey ? [0, -step, 0] : [0, 0, step]
		};
		if (ways[event.key])
			put(points.map((p, k) => (k === i ? { ...p, at: snapped(sum(p.at, ways[event.key])) } : p)));
		else if (event.key === 'Delete' || event.key === 'Backspace') remove(i);
		else if (event.key === 'Insert') insertAfter(i);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<svelte:window onpointermove={move} onpointerup={up} />
<!-- Points can be added in the table of Settings as well, from the keyboard. -->
<!-- svelte-ignore a11y_no_noninteractive_element_interactions, a11y_click_events_have_key_events -->
<svg
	class="absolute inset-0 h-full w-full {drawing ? 'cursor-crosshair' : 'pointer-events-none'}"
	role="group"
	aria-label="Points of {node.short}"
	onclick={add}
>
	<path d={line} fill="none" stroke="var(--coral)" stroke-width="2" />
	{#each shown as { at, in: before, out: after }, i (i)}
		{#each [['in', before], ['out', after]] as const as [part, place] (part)}
			{#if place}
				<line x1={at.x} y1={at.y} x2={place.x} y2={place.y} stroke="var(--coral)" stroke-width="1" />
				<rect
					class="pointer-events-auto cursor-grab"
					x={place.x - 4}
					y={place.y - 4}
					width="8"
					height="8"
					fill="var(--sheet)"
					stroke="var(--coral)"
					role="button"
					tabindex="-1"
					aria-label="Handle {part} of point {i + 1}"
					onpointerdown={(event) => down(event, { point: i, part })}
				/>
			{/if}
		{/each}
		<circle
			class="pointer-events-auto cursor-grab"
			cx={at.x}
			cy={at.y}
			r={chosen === i ? 6.5 : 5}
			fill={chosen === i ? 'var(--coral)' : 'var(--sheet)'}
			stroke="var(--coral)"
			stroke-width="2"
			role="button"
			tabindex="0"
			aria-label="Point {i + 1} of {node.short}"
			onclick={(event) => event.stopPropagation()}
			onpointerdown={(event) => down(event, event.shiftKey ? 'whole' : { point: i, part: 'at' })}
			ondblclick={(event) => {
				event.stopPropagation();
				insertAfter(i);
			}}
			onkeydown={(event) => key(event, i)}
		/>
	{/each}
</svg>
<div
	class="absolute top-12 left-2 flex max-w-[calc(100%-1rem)] flex-wrap items-center gap-2 rounded border border-line bg-sheet px-2 py-1 text-xs"
>
	<button
		class="button"
		aria-pressed={drawing}
		class:text-coral={drawing}
		onclick={() => (drawing = !drawing)}><PenLine size={14} /> {drawing ? 'Done' : 'Draw'}</button
	>
	<span class="flex items-center gap-1"
		>on <Choice
			class="w-36 py-0 text-xs"
			label="Draw on"
			value={plane}
			options={PLANES}
			onchange={(next) => (plane = next as typeof plane)}
		/></span
	>
	<label class="flex items-center gap-1"
		>snap <input
			{@attach selectAll}
			class="field w-14 py-0 text-right font-mono text-xs"
			type="number"
			min="0"
			step="0.05"
			aria-label="Snap, metres"
			bind:value={snap}
		/> m</label
	>
	{#if chosen !== null && points[chosen]}
		<button class="button" onclick={() => insertAfter(chosen!)}><Plus size={14} /> Insert</button>
		{#if joint >= 0}<button class="button" onclick={join}><Link2 size={14} /> Join</button>
		{:else}<button
				class="button"
				disabled={!splittable}
				title={splittable ? 'Two curves that meet here' : 'Ends of open curves cannot be split'}
				onclick={split}><Scissors size={14} /> Split</button
			>{/if}
		<button class="button" onclick={() => remove(chosen!)}><Trash2 size={14} /> Delete</button>
	{/if}
	<span class="text-quiet"
		>{drawing
			? 'Click to add points.'
			: chosen === null
				? 'Drag points, with Shift all of them. A chosen point can be split or deleted.'
				: ''}</span
	>
</div>
