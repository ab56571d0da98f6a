<script lang="ts">
	import * as varying from '$core/varying/index';
	import { toHex } from '../settings/colours';
	import type { RampEdit } from './ramp-edit.svelte';
	import { tidy } from './ramp-edit.svelte';

	interface Props {
		edit: RampEdit;
		ramp: varying.Ramp;
		others: readonly { name: string; ramp: varying.Ramp }[];
	}
	let { edit, ramp, others }: Props = $props();

	const WIDTH = 400,
		HEIGHT = 130,
		SAMPLES = 200;
	let svg = $state<SVGSVGElement>();
	const values = $derived(
		[ramp, ...others.map((one) => one.ramp)].flatMap((one) => one.stops.map((stop) => stop.value))
	);
	const low = $derived(Math.min(0, ...values)),
		high = $derived(Math.max(1, ...values));
	const x = (at: number) => at * WIDTH;
	const y = (value: number) => HEIGHT - ((value - low) / (high - low)) * HEIGHT;
	function line(of: varying.Ramp): string {
		const out = new Float64Array(SAMPLES + 1);
		const at = Float64Array.from({ length: SAMPLES + 1 }, (_, i) => i / SAMPLES);
		varying.readRamp(varying.tableOfRamp(of, 1), 1, SAMPLES + 1, at, [out]);
		return [...out]
			.map((value, i) => `${i ? 'L' : 'M'}${x(at[i]).toFixed(1)} ${y(value).toFixed(1)}`)
			.join('');
	}
	function placeOf(event: PointerEvent | MouseEvent) {
		const box = svg!.getBoundingClientRect();
		const share = (from: number, size: number) => Math.max(0, Math.min(1, from / size));
		return {
			at: tidy(share(event.clientX - box.left, box.width)),
			value: tidy(high - share(event.clientY - box.top, box.height) * (high - low))
		};
	}
	function add(event: MouseEvent) {
		const { at, value } = placeOf(event);
		edit.add(at, value);
	}
	function move(event: PointerEvent) {
		if (!edit.isHeld) return;
		const { at, value } = placeOf(event);
		edit.drag(at, value);
	}
	function key(event: KeyboardEvent, i: number) {
		if (!edit.key(event, i)) return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<svelte:window onpointermove={move} onpointerup={() => edit.letGo()} />
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
	{#if edit.colours}
		{#each edit.stops as stop, i (i)}<rect
				x={x(stop.at) - 6}
				y="0"
				width="12"
				height={HEIGHT}
				fill={toHex([...(stop.colour ?? [0, 0, 0])])}
				opacity="0.9"
			/>{/each}
	{/if}
	<path d={line(ramp)} fill="none" stroke="var(--teal)" stroke-width="2" />
	{#each edit.stops as stop, i (i)}
		<circle
			cx={x(stop.at)}
			cy={y(stop.value)}
			r={edit.chosen === i ? 7 : 5.5}
			fill={edit.chosen === i ? 'var(--coral)' : 'var(--sheet)'}
			stroke="var(--ink)"
			class="cursor-grab"
			role="button"
			tabindex="0"
			aria-label="Stop {i + 1} at {tidy(stop.at)}, {tidy(stop.value)}"
			onpointerdown={(event) => {
				event.preventDefault();
				edit.hold(i);
			}}
			ondblclick={(event) => event.stopPropagation()}
			onkeydown={(event) => key(event, i)}
		/>
	{/each}
</svg>
