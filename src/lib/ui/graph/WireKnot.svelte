<script lang="ts">
	import { getContext } from 'svelte';
	import { BaseEdge, EdgeLabel, EdgeReconnectAnchor } from '@xyflow/svelte';
	import type { EdgeProps } from '@xyflow/svelte';
	import type { Wire } from '$core/engine/index';
	import { outputOf } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { iconOf } from './kinds';
	import type { Box } from './route';
	import { LABELS, curveThrough, routeOf } from './route';
	import WireBends from './WireBends.svelte';

	let { id, source, target, sourceX, sourceY, targetX, targetY, data, selected }: EdgeProps = $props();
	const { editor, wire } = $derived(data as { editor: Editor; wire: Wire });
	const labels = getContext<() => readonly Box[]>(LABELS);
	const between = $derived(labels().filter(({ id: other }) => other !== source && other !== target));
	const curve = $derived(
		curveThrough(routeOf({ x: sourceX, y: sourceY }, { x: targetX, y: targetY }, between, wire?.bends))
	);
	const kind = $derived(outputOf(editor.node(wire?.from[0] ?? ''), wire?.from[1] ?? '')?.kind);
	const Icon = $derived(iconOf(kind ?? 'geometry'));
</script>

<BaseEdge
	interactionWidth={12}
	path={curve.path}
	style="stroke: var({selected ? '--coral' : '--quiet'}); stroke-width: 1.5"
/>
<EdgeLabel x={curve.middle.x} y={curve.middle.y} transparent selectEdgeOnClick>
	<span
		title="Double-click the wire to bend it here; drag an end to another port"
		class="relative flex h-[15px] w-[15px] items-center justify-center rounded-full border bg-sheet {selected
			? 'border-coral text-coral'
			: 'border-line text-quiet'}"
		role="img"
		aria-label="Wire"
		data-knot={id}
		onpointerenter={() => (editor.pointed = id)}
		onpointerleave={() => (editor.pointed = null)}
	>
		<Icon size={9} />
	</span>
</EdgeLabel>
{#if selected}<WireBends {editor} {wire} />{/if}
{#if selected || editor.pointed === id}
	{#each [['source', sourceX + 10, sourceY], ['target', targetX - 10, targetY]] as const as [type, x, y] (type)}
		<EdgeReconnectAnchor
			{type}
			position={{ x, y }}
			size={14}
			title="Take this end to another port, or off"
			onpointerenter={() => (editor.pointed = id)}
			onpointerleave={() => (editor.pointed = null)}
		/>
	{/each}
{/if}
