<script lang="ts">
	import { untrack } from 'svelte';
	import { Handle, Position, useConnection, useUpdateNodeInternals } from '@xyflow/svelte';
	import Ban from '@lucide/svelte/icons/ban';
	import Check from '@lucide/svelte/icons/check';
	import CircleAlert from '@lucide/svelte/icons/circle-alert';
	import Clock from '@lucide/svelte/icons/clock-3';
	import Hourglass from '@lucide/svelte/icons/hourglass';
	import LoaderCircle from '@lucide/svelte/icons/loader-circle';
	import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
	import type { GraphNode } from '$core/engine/index';
	import { bodyNameOf, nodeAt, outputOf, outputsOf } from '$core/engine/index';
	import { nodeKinds } from '$core/nodes/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import NumberField from '../settings/NumberField.svelte';
	import { iconOf } from './kinds';
	import LabelFoot from './LabelFoot.svelte';
	import LabelInput from './LabelInput.svelte';
	import ReadOut from './ReadOut.svelte';
	import type { LabelState } from './label';
	import { LABEL_WIDTH, MANY_OUTPUTS, inputsOnLabel, outputsOnLabel, pinsOnLabel, stateOf } from './label';

	let { id, data, selected }: { id: string; data: { item: GraphNode; editor: Editor }; selected?: boolean } =
		$props();

	const editor = $derived(data.editor);
	const node = $derived(nodeAt(data.item, editor.playing.frame));
	/** Why it changes with the frame. */
	const moving = $derived(editor.playing.moving.get(node.id));
	const kind = $derived(nodeKinds.get(node.kind)!);
	const report = $derived(editor.evaluation.reports.get(id));
	const wired = $derived(
		new Set(editor.graph.wires.filter((wire) => wire.to[0] === id).map((wire) => wire.to[1]))
	);
	const hasBody = $derived(bodyNameOf(node) !== null);
	const inputs = $derived(inputsOnLabel(node, wired));
	const pins = $derived(pinsOnLabel(node, wired));
	const pinned = $derived(new Set(pins.map(([name]) => name)));
	function put(name: string, value: number, done: boolean) {
		editor.set(id, name, value, 'drag');
		if (done) editor.endGesture();
	}
	const allOutputs = $derived(Object.entries(outputsOf(node)));
	let unfolded = $state(false);
	const used = $derived(
		new Set(editor.graph.wires.filter((wire) => wire.from[0] === id).map((wire) => wire.from[1]))
	);
	const outputs = $derived(unfolded ? allOutputs : outputsOnLabel(allOutputs, used));
	const folds = $derived(allOutputs.length > MANY_OUTPUTS);
	const connection = useConnection();
	const updateInternals = useUpdateNodeInternals();
	$effect(() => {
		void inputs.length;
		void pins.length;
		void outputs.length;
		untrack(() => updateInternals(id));
	});

	/** What the wire being dragged carries, where it comes from an output. */
	const flowing = $derived.by(() => {
		const from = connection.current.fromHandle;
		if (!connection.current.inProgress || !from || from.type !== 'source') return null;
		const source = editor.node(from.nodeId);
		return source && source.id !== id ? outputOf(source, from.id ?? '') : null;
	});

	/** How each state looks: its icon, the icon's colour, and the spine. */
	const LOOKS: Record<LabelState, [icon: typeof Ban, colour: string, spine: string]> = {
		bypassed: [Ban, 'text-quiet', 'hatched'],
		working: [LoaderCircle, 'text-ochre', 'bg-ochre'],
		'not evaluated': [LoaderCircle, 'text-quiet', 'bg-line'],
		error: [CircleAlert, 'text-plum', 'bg-plum'],
		waiting: [Hourglass, 'text-quiet', 'bg-quiet'],
		warning: [TriangleAlert, 'text-ochre', 'border-l-2 border-y border-ochre bg-sheet'],
		fresh: [Check, 'text-teal', 'bg-teal']
	};
	const { evaluation } = $derived(editor);
	const status = $derived(stateOf(node, report, evaluation.working, evaluation.progress?.node));
	const [StatusIcon, colour, spine] = $derived(LOOKS[status]);
	/** The largest letters, in the graph's pixels, in which the name goes on one line. */
	const farSize = $derived(Math.max(13, Math.min(27, (status === 'fresh' ? 270 : 220) / node.short.length)));
	const numberSetting = $derived(
		node.kind === 'number' && typeof node.settings.value === 'number' ? node.settings.value : null
	);
	const plain = (name: string, otherwise: number) =>
		typeof node.settings[name] === 'number' ? (node.settings[name] as number) : otherwise;
</script>

<div
	class="paper-label relative rounded-sm border bg-sheet pl-[7px] text-ink border-b-[1.5px] {selected
		? 'border-coral outline outline-1 outline-coral'
		: 'border-line'}"
	class:opacity-60={node.bypassed}
	style="width: {LABEL_WIDTH}px"
	data-node-id={id}
	data-state={status}
	role={hasBody ? 'group' : undefined}
	aria-label={hasBody ? `${node.short}: double-click to go into it` : undefined}
	ondblclick={() => hasBody && editor.place.enter(id)}
>
	<div class="absolute inset-y-[-1px] left-[-1px] w-[5px] rounded-l-sm {spine}" aria-hidden="true"></div>
	<header class="flex items-start gap-1 px-2 pt-1.5 pb-1">
		<div class="min-w-0 flex-1">
			<div
				class="label-name truncate font-head text-[13px] leading-tight font-semibold"
				style="--afar: {farSize}px"
				title={node.short}
			>
				{node.short}
			</div>
			<div class="flex items-center gap-1 text-[11px] leading-tight text-quiet">
				<span class="truncate">{kind.name}</span>
				{#if moving}<span
						class="shrink-0"
						title="It moves. {moving}"
						role="img"
						aria-label="{node.short} moves: {moving}"><Clock size={10} /></span
					>{/if}
			</div>
		</div>
		<span
			class="label-state {status} {colour}"
			title={report?.error?.message ?? report?.warnings.map((w) => w.message).join('\n') ?? status}
		>
			<StatusIcon size={13} aria-label={status} class={status === 'working' ? 'animate-spin' : ''} />
		</span>
	</header>
	{#each [...inputs, ...pins] as [port, input] (port)}
		<LabelInput
			{node}
			{port}
			{input}
			{flowing}
			pinned={pinned.has(port)}
			onchange={(value, done) => put(port, value, done)}
		/>
	{/each}
	{#if node.kind === 'read-out'}<ReadOut {editor} {node} />{/if}
	{#if numberSetting !== null}
		<div class="px-2 pb-1">
			<NumberField
				value={numberSetting}
				label="{node.short}, value"
				min={plain('low', 0)}
				max={plain('high', 10)}
				step={plain('step', 0.1)}
				whole={node.settings.whole === true}
				onchange={(value, done) => put('value', value, done)}
			/>
		</div>
	{/if}
	{#each outputs as [port, output] (port)}
		{@const Icon = iconOf(output.kind)}
		<div class="relative flex h-[21px] items-center justify-end pr-2.5 text-[11px]">
			<span class="truncate text-quiet">{output.label}</span>
			<Handle
				type="source"
				position={Position.Right}
				id={port}
				aria-label="Output {output.label} of {node.short}"
				title="{output.label}: {output.help}"
			>
				<Icon size={10} class="pointer-events-none" />
			</Handle>
		</div>
	{/each}
	{#if folds}
		<button
			class="nodrag block w-full pr-2.5 text-right text-[10.5px] text-quiet underline decoration-dotted"
			aria-expanded={unfolded}
			aria-label="{unfolded ? 'Fold' : 'All'} outputs of {node.short}"
			onclick={() => (unfolded = !unfolded)}
			>{unfolded ? 'only those in use' : `${allOutputs.length - outputs.length} more`}</button
		>
	{/if}
	<LabelFoot {editor} {node} />
</div>

<style>
	.hatched {
		background: repeating-linear-gradient(135deg, var(--quiet) 0 2px, transparent 2px 5px);
	}
	/* Seen from afar: the name alone, as large as the label holds, and its state where that is not well. */
	:global(.far) .label-name {
		display: flex;
		position: absolute;
		z-index: 1;
		inset: 0 2px 25px 6px;
		align-items: center;
		background: var(--sheet);
		font-size: var(--afar);
		line-height: 1;
		padding: 2px 12px 2px 8px;
	}
	:global(.far) [data-state]:not([data-state='fresh']) .label-name {
		padding-right: 42px;
	}
	:global(.far) .label-state:not(.fresh) {
		position: absolute;
		z-index: 2;
		top: calc(50% - 12px);
		right: 20px;
		transform: translate(0, -50%) scale(1.9);
	}
	.paper-label :global(.svelte-flow__handle) {
		display: flex;
		align-items: center;
		justify-content: center;
		width: 16px;
		height: 15px;
		min-width: 0;
		border: 1px solid var(--line);
		border-radius: 2px;
		background: var(--ground);
		color: var(--quiet);
	}
	.paper-label :global(.svelte-flow__handle-left) {
		left: -14px;
		transform: translate(0, -50%) scale(var(--port, 1), min(var(--port, 1), 1.35));
		transform-origin: right center;
	}
	.paper-label :global(.svelte-flow__handle-right) {
		right: -9px;
		transform: translate(0, -50%) scale(var(--port, 1), min(var(--port, 1), 1.35));
		/* Away from the label: what stands there stays within reach too. */
		transform-origin: left center;
	}
	.paper-label :global(.svelte-flow__handle.lit) {
		border-color: var(--teal);
		background: var(--teal);
		color: var(--sheet);
	}
	.paper-label :global(.svelte-flow__handle:hover) {
		border-color: var(--ink);
		color: var(--ink);
	}
</style>
