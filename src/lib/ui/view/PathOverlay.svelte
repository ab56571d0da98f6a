<script lang="ts">
	import type { GraphNode } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import PathBar from './PathBar.svelte';
	import type { Grip } from './path-edit.svelte';
	import { PathEdit } from './path-edit.svelte';
	import type { ViewScene } from '$lib/viewport/scene';

	interface Props {
		editor: Editor;
		scene: ViewScene;
		node: GraphNode;
		/** Counts up as the picture moves. */
		moves: number;
	}
	let { editor, scene, node, moves }: Props = $props();

	const edit = new PathEdit(() => ({ editor, scene, node }));
	const shown = $derived.by(() => {
		void moves;
		return edit.shown;
	});
	const line = $derived.by(() => {
		void moves;
		return edit.line;
	});

	function down(event: PointerEvent, grip: Grip) {
		event.preventDefault();
		event.stopPropagation();
		edit.hold(grip);
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
	}
	/** Enter and Escape end the drawing, wherever the keys are but in a field. */
	function endByKey(event: KeyboardEvent) {
		if (!edit.isDrawing || (event.key !== 'Enter' && event.key !== 'Escape')) return;
		if ((event.target as HTMLElement).closest('input, textarea, select, [contenteditable], [role=combobox]'))
			return;
		edit.isDrawing = false;
		event.preventDefault();
		event.stopImmediatePropagation();
	}
	function key(event: KeyboardEvent, i: number) {
		if (!edit.key(event, i)) return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

<svelte:window
	onpointermove={(event) => edit.drag(event, event.altKey)}
	onpointerup={() => edit.letGo()}
	onkeydowncapture={endByKey}
/>
<!-- Points can be added in the table of Settings as well, from the keyboard. -->
<!-- svelte-ignore a11y_no_noninteractive_element_interactions, a11y_click_events_have_key_events -->
<svg
	class="absolute inset-0 h-full w-full {edit.isDrawing ? 'cursor-crosshair' : 'pointer-events-none'}"
	role="group"
	aria-label="Points of {node.short}"
	onclick={(event) => edit.add(event)}
>
	<path d={line} fill="none" stroke="var(--coral)" stroke-width="2" />
	{#each shown as { at, in: before, out: after }, i (i)}
		{#each [['in', before], ['out', after]] as const as [part, place] (part)}
			{#if place}
				<line x1={at.x} y1={at.y} x2={place.x} y2={place.y} stroke="var(--coral)" stroke-width="1" />
				<rect
					class="pointer-events-auto cursor-grab"
					x={place.x - 4}
					y={place.y - 4}
					width="8"
					height="8"
					fill="var(--sheet)"
					stroke="var(--coral)"
					role="button"
					tabindex="-1"
					aria-label="Handle {part} of point {i + 1}"
					onpointerdown={(event) => down(event, { point: i, part })}
				/>
			{/if}
		{/each}
		<circle
			class="pointer-events-auto cursor-grab"
			cx={at.x}
			cy={at.y}
			r={edit.chosen === i ? 6.5 : 5}
			fill={edit.chosen === i ? 'var(--coral)' : 'var(--sheet)'}
			stroke="var(--coral)"
			stroke-width="2"
			role="button"
			tabindex="0"
			aria-label="Point {i + 1} of {node.short}"
			onclick={(event) => event.stopPropagation()}
			onpointerdown={(event) => down(event, event.shiftKey ? 'whole' : { point: i, part: 'at' })}
			ondblclick={(event) => {
				event.stopPropagation();
				edit.insertAfter(i);
			}}
			onkeydown={(event) => key(event, i)}
		/>
	{/each}
</svg>
<PathBar {edit} />
