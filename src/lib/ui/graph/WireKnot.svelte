<script lang="ts">
	import { BaseEdge, EdgeLabel, getBezierPath } from '@xyflow/svelte';
	import type { EdgeProps } from '@xyflow/svelte';
	import type { Wire } from '$core/index';
	import { nodeKinds } from '$core/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { iconOf } from './kinds';

	let { id, sourceX, sourceY, targetX, targetY, sourcePosition, targetPosition, data, selected }: EdgeProps =
		$props();
	const { editor, wire } = $derived(data as { editor: Editor; wire: Wire });
	const path = $derived(
		getBezierPath({ sourceX, sourceY, targetX, targetY, sourcePosition, targetPosition, curvature: 0.3 })
	);
	const kind = $derived(nodeKinds.get(editor.node(wire.from[0])?.kind ?? '')?.outputs[wire.from[1]]?.kind);
	const Icon = $derived(iconOf(kind));
</script>

<BaseEdge
	interactionWidth={12}
	path={path[0]}
	style="stroke: var({selected ? '--coral' : '--quiet'}); stroke-width: 1.5"
/>
<EdgeLabel x={path[1]} y={path[2]} transparent selectEdgeOnClick>
	<span
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
