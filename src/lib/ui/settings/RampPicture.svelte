<script lang="ts">
	import * as varying from '$core/varying/index';
	import { toHex } from './colours';

	let { ramp, colours = false }: { ramp: varying.Ramp; colours?: boolean } = $props();
	const N = 48;
	const values = $derived.by(() => {
		const out = new Float64Array(N + 1);
		varying.readRamp(
			varying.tableOfRamp(ramp, 1),
			1,
			N + 1,
			Float64Array.from({ length: N + 1 }, (_, i) => i / N),
			[out]
		);
		return out;
	});
	const line = $derived.by(() => {
		const low = Math.min(0, ...values),
			high = Math.max(1, ...values);
		return [...values]
			.map(
				(v, i) =>
					`${i ? 'L' : 'M'}${((i / N) * 64).toFixed(1)} ${(19 - ((v - low) / (high - low)) * 18).toFixed(1)}`
			)
			.join('');
	});
	const gradient = $derived(
		`linear-gradient(to right, ${varying
			.sortedStops(ramp.stops)
			.map((stop) => `${toHex([...(stop.colour ?? [0, 0, 0])])} ${100 * stop.at}%`)
			.join(', ')})`
	);
</script>

{#if colours}<span class="h-5 flex-1 rounded-sm" style="background: {gradient}"></span>
{:else}<svg viewBox="0 0 64 20" class="h-5 flex-1" preserveAspectRatio="none" aria-hidden="true"
		><path
			d={line}
			fill="none"
			stroke="var(--teal)"
			stroke-width="1.5"
			vector-effect="non-scaling-stroke"
		/></svg
	>{/if}
