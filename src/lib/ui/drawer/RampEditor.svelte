<script lang="ts">
	import { selectAll } from '$lib/ui/fields/select-all';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import FlipHorizontal2 from '@lucide/svelte/icons/flip-horizontal-2';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import type { varying } from '$core/index';
	import { varying as core } from '$core/index';
	import { fromHex, toHex } from '../settings/colours';

	interface Props {
		ramp: varying.Ramp;
		colours?: boolean;
		/** Drawn faintly behind, for comparison. */
		others?: readonly { name: string; ramp: varying.Ramp }[];
		onchange: (ramp: varying.Ramp, done: boolean) => void;
	}
	const EASINGS = [
		{ id: 'linear', label: 'linear' },
		{ id: 'smooth', label: 'smooth' },
		{ id: 'held', label: 'held' },
		{ id: 'bezier', label: 'Bézier' }
	];
	let { ramp, colours = false, others = [], onchange }: Props = $props();

	const WIDTH = 400,
		HEIGHT = 130;
	let svg = $state<SVGSVGElement>();
	let chosen = $state(0);
	let held = $state(false);
	const stops = $derived(core.sortedStops(ramp.stops));
	const all = $derived(
		[ramp, ...others.map((one) => one.ramp)].flatMap((one) => one.stops.map((stop) => stop.value))
	);
	const low = $derived(Math.min(0, ...all)),
		high = $derived(Math.max(1, ...all));
	const x = (at: number) => at * WIDTH;
	const y = (value: number) => HEIGHT - ((value - low) / (high - low)) * HEIGHT;
	const line = (of: varying.Ramp) => {
		const n = 200;
		const out = new Float64Array(n + 1);
		core.readRamp(
			core.tableOfRamp(of, 1),
			1,
			n + 1,
			Float64Array.from({ length: n + 1 }, (_, i) => i / n),
			[out]
		);
		return [...out]
			.map((value, i) => `${i ? 'L' : 'M'}${x(i / n).toFixed(1)} ${y(value).toFixed(1)}`)
			.join('');
	};
	const tidy = (n: number) => Math.round(n * 1000) / 1000;
	const change = (next: varying.RampStop[], done = true) => onchange({ stops: next }, done);
	const withStop = (i: number, part: Partial<varying.RampStop>) =>
		stops.map((stop, k) => (k === i ? { ...stop, ...part } : stop));

	function placeOf(event: PointerEvent | MouseEvent) {
		const box = svg!.getBoundingClientRect();
		return {
			at: tidy(Math.max(0, Math.min(1, (event.clientX - box.left) / box.width))),
			value: tidy(high - Math.max(0, Math.min(1, (event.clientY - box.top) / box.height)) * (high - low))
		};
	}
	function add(event: MouseEvent) {
		const { at, value } = placeOf(event);
		const next = core.sortedStops([
			...stops,
			{ at, value, colour: colours ? [0.5, 0.5, 0.5] : undefined, easing: stops[0]?.easing ?? 'linear' }
		]);
		change(next);
		chosen = next.findIndex((stop) => stop.at === at && stop.value === value);
	}
	function move(event: PointerEvent) {
		if (!held) return;
		const { at, value } = placeOf(event);
		// A stop stays between its neighbours, so that it keeps its number while it is dragged.
		const least = stops[chosen - 1]?.at ?? 0,
			most = stops[chosen + 1]?.at ?? 1;
		change(withStop(chosen, { at: Math.max(least, Math.min(most, at)), ...(!colours && { value }) }), false);
	}
	function up() {
		if (held) onchange(ramp, true);
		held = false;
	}
	function remove(i: number) {
		change(stops.filter((_, k) => k !== i));
		chosen = Math.max(0, i - 1);
	}
	function key(event: KeyboardEvent, i: number) {
		const step = event.shiftKey ? 0.001 : event.ctrlKey ? 0.1 : 0.01;
		const stop = stops[i];
		const moved: Record<string, Partial<varying.RampStop>> = {
			ArrowLeft: { at: tidy(Math.max(stops[i - 1]?.at ?? 0, stop.at - step)) },
			ArrowRight: { at: tidy(Math.min(stops[i + 1]?.at ?? 1, stop.at + step)) },
			ArrowUp: { value: tidy(stop.value + step) },
			ArrowDown: { value: tidy(stop.value - step) }
		};
		if (moved[event.key]) change(withStop(i, moved[event.key]));
		else if (event.key === 'Delete' || event.key === 'Backspace') remove(i);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<svelte:window onpointermove={move} onpointerup={up} />
<div class="flex min-h-0 flex-1 gap-4 overflow-auto p-3">
	<div class="w-[430px] shrink-0">
		<svg
			bind:this={svg}
			viewBox="0 0 {WIDTH} {HEIGHT}"
			class="w-full overflow-visible rounded border border-line bg-ground"
			role="group"
			aria-label="Chart of the ramp"
			ondblclick={add}
		>
			{#each others as other (other.name)}<path
					d={line(other.ramp)}
					fill="none"
					stroke="var(--quiet)"
					stroke-width="1"
					stroke-dasharray="3 3"><title>{other.name}</title></path
				>{/each}
			{#if colours}
				{#each stops as stop, i (i)}<rect
						x={x(stop.at) - 6}
						y="0"
						width="12"
						height={HEIGHT}
						fill={toHex([...(stop.colour ?? [0, 0, 0])])}
						opacity="0.9"
					/>{/each}
			{/if}
			<path d={line(ramp)} fill="none" stroke="var(--teal)" stroke-width="2" />
			{#each stops as stop, i (i)}
				<circle
					cx={x(stop.at)}
					cy={y(stop.value)}
					r={chosen === i ? 7 : 5.5}
					fill={chosen === i ? 'var(--coral)' : 'var(--sheet)'}
					stroke="var(--ink)"
					class="cursor-grab"
					role="button"
					tabindex="0"
					aria-label="Stop {i + 1} at {tidy(stop.at)}, {tidy(stop.value)}"
					onpointerdown={(event) => {
						event.preventDefault();
						chosen = i;
						held = true;
					}}
					ondblclick={(event) => event.stopPropagation()}
					onkeydown={(event) => key(event, i)}
				/>
			{/each}
		</svg>
		<p class="mt-1 flex justify-between font-mono text-[10px] text-quiet">
			<span>0</span><span>drag stops · double-click adds · Delete removes</span><span>1</span>
		</p>
	</div>
	<div class="min-w-0 flex-1">
		<div class="mb-2 flex flex-wrap gap-1.5">
			<Choice
				class="w-36 text-xs"
				label="Start from a shape"
				value="Start from …"
				options={core.RAMP_SHAPES.map(({ name }) => ({ id: name, label: name }))}
				onchange={(name) => {
					const shape = core.RAMP_SHAPES.find((one) => one.name === name);
					if (shape) onchange(shape.ramp, true);
				}}
			/>
			<button class="button" onclick={() => onchange(core.flipRamp(ramp), true)}
				><FlipHorizontal2 size={14} /> Reverse</button
			>
		</div>
		<table class="text-xs">
			<thead class="text-left text-quiet"
				><tr
					><th class="pr-2 font-normal">At</th><th class="pr-2 font-normal">{colours ? 'Colour' : 'Value'}</th
					><th class="pr-2 font-normal">To the next</th><th></th></tr
				></thead
			>
			<tbody>
				{#each stops as stop, i (i)}
					<tr class={chosen === i ? 'bg-ground' : ''}>
						<td class="pr-2"
							><input
								{@attach selectAll}
								class="field w-20 text-right font-mono text-xs"
								type="number"
								min="0"
								max="1"
								step="0.01"
								aria-label="Stop {i + 1}: at"
								value={tidy(stop.at)}
								onfocus={() => (chosen = i)}
								onchange={(event) =>
									change(
										withStop(i, { at: Math.max(0, Math.min(1, Number(event.currentTarget.value) || 0)) })
									)}
							/></td
						>
						<td class="pr-2">
							{#if colours}<input
									type="color"
									class="h-6 w-16"
									aria-label="Stop {i + 1}: colour"
									value={toHex([...(stop.colour ?? [0, 0, 0])])}
									onchange={(event) => change(withStop(i, { colour: fromHex(event.currentTarget.value) }))}
								/>
							{:else}<input
									{@attach selectAll}
									class="field w-20 text-right font-mono text-xs"
									type="number"
									step="0.01"
									aria-label="Stop {i + 1}: value"
									value={tidy(stop.value)}
									onfocus={() => (chosen = i)}
									onchange={(event) => change(withStop(i, { value: Number(event.currentTarget.value) || 0 }))}
								/>{/if}
						</td>
						<td class="pr-2">
							<Choice
								class="w-20 text-xs"
								label="Stop {i + 1}: easing"
								value={stop.easing}
								options={EASINGS}
								onchange={(easing) => change(withStop(i, { easing: easing as varying.Easing }))}
							/>
							{#if stop.easing === 'bezier'}
								{#each [0, 1, 2, 3] as k (k)}<input
										{@attach selectAll}
										class="field w-12 text-right font-mono text-[10px]"
										type="number"
										step="0.05"
										aria-label="Stop {i + 1}: handle {['x1', 'y1', 'x2', 'y2'][k]}"
										value={(stop.handles ?? core.SOFT_HANDLES)[k]}
										onchange={(event) => {
											const handles = [...(stop.handles ?? core.SOFT_HANDLES)] as [
												number,
												number,
												number,
												number
											];
											const n = Number(event.currentTarget.value) || 0;
											handles[k] = k % 2 ? n : Math.max(0, Math.min(1, n));
											change(withStop(i, { handles }));
										}}
									/>{/each}
							{/if}
						</td>
						<td
							><button
								class="icon-button h-6 w-6"
								aria-label="Remove stop {i + 1}"
								disabled={stops.length < 2}
								onclick={() => remove(i)}><Trash2 size={13} /></button
							></td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
</div>
