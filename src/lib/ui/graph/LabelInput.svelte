<script lang="ts">
	import { Handle, Position } from '@xyflow/svelte';
	import type { GraphNode } from '$core/engine/index';
	import type { InputDefinition, OutputDefinition } from '$core/nodes/index';
	import { fits, settingOf } from '$core/engine/index';
	import NumberField from '../settings/NumberField.svelte';
	import { iconOf } from './kinds';
	import { settingInWords } from './label';

	interface Props {
		node: GraphNode;
		port: string;
		input: InputDefinition;
		/** Whether its setting is kept open on the label. */
		pinned: boolean;
		/** What the wire that is being dragged carries. */
		flowing: OutputDefinition | null;
		onchange: (value: number, done: boolean) => void;
	}
	let { node, port, input, pinned, flowing, onchange }: Props = $props();

	const fit = $derived(flowing ? fits(flowing.kind, input) : null);
	const Icon = $derived(iconOf(input.kind === 'formula' ? 'value' : input.kind));
	const setting = $derived(settingOf(node, port, input));
</script>

<div
	data-setting={pinned ? port : undefined}
	data-setting-of={pinned ? node.id : undefined}
	class="relative flex h-[21px] items-center pl-2 text-[11px] {pinned ? 'h-[26px]' : ''} {fit
		? fit.fits
			? 'font-semibold text-teal'
			: 'opacity-40'
		: ''}"
>
	<Handle
		type="target"
		position={Position.Left}
		id={port}
		aria-label="Input {input.label} of {node.short}"
		class={fit?.fits ? 'lit' : ''}
		title={fit && !fit.fits ? fit.reason : `${input.label}: ${input.help}`}
	>
		<Icon size={10} class="pointer-events-none" />
	</Handle>
	<span class="truncate">{input.label}</span>
	{#if pinned}
		{#if typeof setting === 'number' && input.kind === 'number'}
			<span class="ml-auto w-[84px] pr-2"
				><NumberField
					value={setting}
					label="{node.short}, {input.label}"
					unit={input.unit}
					min={input.min}
					max={input.max}
					step={input.step}
					whole={input.whole}
					{onchange}
				/></span
			>
		{:else}<span class="ml-auto max-w-[100px] truncate pr-2 font-mono text-[10.5px] text-quiet"
				>{settingInWords(setting, input)}</span
			>{/if}
	{/if}
</div>
