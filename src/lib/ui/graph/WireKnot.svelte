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
	let chip = $state('');
	/** Told while the pointer is on the wire, or the wire is chosen. */
	const told = $derived(editor.pointed === id || !!selected);

	$effect(() => {
		void editor.evaluation.count;
		if (!told) return void (chip = '');
		let stale = false;
		editor.evaluation.client.peek(wire).then(
			(text) => !stale && (chip = text),
			() => {}
		);
		return () => (stale = true);
	});
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
		onpointerenter={() => (editor.pointed = id)}
		onpointerleave={() => (editor.pointed = null)}
	>
		<Icon size={9} />
		{#if chip}<span
				class="menu pointer-events-none absolute bottom-5 left-1/2 w-max max-w-72 min-w-0 -translate-x-1/2 px-2 py-1 font-mono text-[11px] whitespace-pre-line"
				data-testid="chip">{chip}</span
			>{/if}
	</span>
</EdgeLabel>
