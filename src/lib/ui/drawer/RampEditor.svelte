<script lang="ts">
	import Choice from '$lib/ui/fields/Choice.svelte';
	import FlipHorizontal2 from '@lucide/svelte/icons/flip-horizontal-2';
	import * as varying from '$core/varying/index';
	import RampChart from './RampChart.svelte';
	import RampTable from './RampTable.svelte';
	import type { Change } from './ramp-edit.svelte';
	import { RampEdit } from './ramp-edit.svelte';

	interface Props {
		ramp: varying.Ramp;
		colours?: boolean;
		/** Drawn faintly behind, for comparison. */
		others?: readonly { name: string; ramp: varying.Ramp }[];
		onchange: Change;
	}
	let { ramp, colours = false, others = [], onchange }: Props = $props();
	const edit = new RampEdit(() => ({ ramp, colours, onchange }));
</script>

<div class="flex min-h-0 flex-1 gap-4 overflow-auto p-3">
	<div class="w-[430px] shrink-0">
		<RampChart {edit} {ramp} {others} />
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
				options={varying.RAMP_SHAPES.map(({ name }) => ({ id: name, label: name }))}
				onchange={(name) => {
					const shape = varying.RAMP_SHAPES.find((one) => one.name === name);
					if (shape) onchange(shape.ramp, true);
				}}
			/>
			<button class="button" onclick={() => onchange(varying.flipRamp(ramp), true)}
				><FlipHorizontal2 size={14} /> Reverse</button
			>
		</div>
		<RampTable {edit} />
	</div>
</div>
