<script lang="ts">
	import { Popover } from 'bits-ui';
	import Sun from '@lucide/svelte/icons/sun';
	import { BACKGROUNDS } from '$core/engine/document';
	import type { Background } from '$core/engine/document';
	import Choice from '$lib/ui/fields/Choice.svelte';
	import Tick from '$lib/ui/fields/Tick.svelte';
	import NumberField from '$lib/ui/settings/NumberField.svelte';
	import { BACKGROUND_LOOKS } from '$lib/viewport/backgrounds';
	import type { Light } from '$lib/viewport/light';
	import { USUAL_LIGHT } from '$lib/viewport/light';
	import { rest } from './rest.svelte';

	interface Props {
		light: Light;
		background: Background;
		/** `done` is false while a number is dragged. */
		onlight: (light: Light, done: boolean) => void;
		onbackground: (background: Background) => void;
	}
	let { light, background, onlight, onbackground }: Props = $props();

	const backgrounds = BACKGROUNDS.map((id) => ({ id, label: BACKGROUND_LOOKS[id].label }));
	const isUsual = $derived(JSON.stringify(light) === JSON.stringify(USUAL_LIGHT));
</script>

{#snippet row(
	name: string,
	key: 'height' | 'direction' | 'exposure',
	unit: string,
	low: number,
	high: number,
	step: number
)}
	<span class="flex items-center justify-between gap-3"
		>{name}<span class="w-24"
			><NumberField
				label={name}
				value={light[key]}
				{unit}
				min={low}
				max={high}
				{step}
				onchange={(value, done) => onlight({ ...light, [key]: value }, done)}
			/></span
		></span
	>
{/snippet}

<Popover.Root>
	<Popover.Trigger class="button" aria-label="Light and background" title="Light and background"
		><Sun size={15} /> <span class="wide">Light</span></Popover.Trigger
	>
	<Popover.Portal>
		<Popover.Content class="menu w-60 p-3 text-[13px]" align="start" aria-label="Light and background">
			<div class="space-y-1.5">
				{@render row('Sun’s height', 'height', '°', 5, 90, 1)}
				{@render row('Sun’s direction', 'direction', '°', 0, 360, 1)}
				{@render row('Exposure', 'exposure', 'stops', -4, 4, 0.1)}
				<label class="flex items-center justify-between gap-3"
					>Shadow<Tick
						checked={light.shadow}
						label="Shadow"
						onchange={(shadow) => onlight({ ...light, shadow }, true)}
					/></label
				>
				<label class="flex items-center justify-between gap-3"
					>Refine at rest<Tick
						checked={rest.refines}
						label="Refine at rest"
						onchange={(refines) => rest.set(refines)}
					/></label
				>
				<span class="flex items-center justify-between gap-3"
					>Background<Choice
						class="w-32 text-[13px]"
						label="Background"
						value={background}
						options={backgrounds}
						onchange={(id) => onbackground(id as Background)}
					/></span
				>
			</div>
			<p class="mt-2 text-xs text-quiet">
				0° is north, 90° east. Light changes nothing that is exported.
				{#if !isUsual}<button class="underline" onclick={() => onlight(USUAL_LIGHT, true)}
						>The usual light</button
					>{/if}
			</p>
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
