<script lang="ts">
	import { useViewport } from '@xyflow/svelte';
	import { wireId } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';

	/** `chosen` is the wire that is selected: it is told of too, for those who go by keys. */
	let { editor, chosen }: { editor: Editor; chosen: string | null } = $props();

	const viewport = useViewport();
	const id = $derived(editor.pointed ?? chosen);
	const wire = $derived(editor.graph.wires.find((one) => wireId(one) === id));
	let told = $state.raw({ of: '', text: '' });
	const text = $derived(told.of === id ? told.text : '');
	let place = $state({ x: 0, y: 0 });

	$effect(() => {
		void editor.evaluation.count;
		if (!wire) return;
		const of = wireId(wire);
		let stale = false;
		editor.evaluation.client.peek(wire).then(
			(words) => !stale && (told = { of, text: words }),
			() => {}
		);
		return () => (stale = true);
	});
	// Beside the knot on the screen, at a size that can be read however small the graph is drawn.
	$effect(() => {
		void viewport.current;
		const knot = id && text && document.querySelector(`[data-knot="${CSS.escape(id)}"]`);
		const box = knot ? knot.getBoundingClientRect() : null;
		if (box) place = { x: box.left + box.width / 2, y: box.top };
	});
</script>

{#if text}<p
		class="menu pointer-events-none fixed z-40 w-max max-w-80 min-w-0 -translate-x-1/2 -translate-y-full px-2 py-1 font-mono text-[11px] whitespace-pre-line"
		style="left: {Math.max(170, place.x)}px; top: {place.y - 6}px"
		role="status"
		data-testid="chip"
	>
		{text}
	</p>{/if}
