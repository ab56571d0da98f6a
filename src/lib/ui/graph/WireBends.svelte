<script lang="ts">
	import { EdgeLabel, useSvelteFlow } from '@xyflow/svelte';
	import type { Wire } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	/** The places through which a wire is led: to be dragged, moved by arrows, and taken away. */
	let { editor, wire }: { editor: Editor; wire: Wire } = $props();

	const flow = useSvelteFlow();
	const bends = $derived(wire.bends ?? []);
	let held = $state<number | null>(null);

	const moved = (i: number, at: readonly [number, number], gesture: string | null) =>
		editor.bend(wire, bends.with(i, [Math.round(at[0]), Math.round(at[1])]), gesture);
	const without = (i: number) => editor.bend(wire, bends.toSpliced(i, 1));

	function drag(event: PointerEvent, i: number) {
		if (held !== i) return;
		const { x, y } = flow.screenToFlowPosition({ x: event.clientX, y: event.clientY });
		moved(i, [x, y], `bend ${i}`);
	}
	function release() {
		if (held === null) return;
		held = null;
		editor.endGesture();
	}
	const STEP = 10;
	function key(event: KeyboardEvent, i: number) {
		const [x, y] = bends[i];
		const to = {
			ArrowLeft: [x - STEP, y],
			ArrowRight: [x + STEP, y],
			ArrowUp: [x, y - STEP],
			ArrowDown: [x, y + STEP]
		}[event.key];
		if (to) moved(i, to as [number, number], `bend ${i}`);
		else if (event.key === 'Delete' || event.key === 'Backspace') without(i);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
</script>

{#each bends as [x, y], i (i)}
	<EdgeLabel {x} {y} transparent>
		<button
			class="nodrag nopan block h-2.5 w-2.5 rounded-[2px] border border-coral bg-sheet"
			style="cursor: move"
			aria-label="Bend {i + 1} of the wire"
			title="Drag to lead the wire; double-click to take it away"
			onpointerdown={(event) => {
				event.stopPropagation();
				held = i;
				event.currentTarget.setPointerCapture(event.pointerId);
			}}
			onpointermove={(event) => drag(event, i)}
			onpointerup={release}
			onpointercancel={release}
			ondblclick={(event) => {
				event.stopPropagation();
				without(i);
			}}
			onkeydown={(event) => key(event, i)}
			onblur={() => editor.endGesture()}
		></button>
	</EdgeLabel>
{/each}
