<script lang="ts">
	import Eye from '@lucide/svelte/icons/eye';
	import EyeOff from '@lucide/svelte/icons/eye-off';
	import type { GraphNode } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { footOf, heatPortOf } from './label';

	let { editor, node }: { editor: Editor; node: GraphNode } = $props();

	const report = $derived(editor.evaluation.reports.get(node.id));
	const foot = $derived(footOf(report));
	const heatPort = $derived(heatPortOf(node));
	const isSeen = $derived(
		!editor.place.isViewed ? false : heatPort ? editor.heat?.[0] === node.id : editor.shown.includes(node.id)
	);
	function toggle(event: MouseEvent) {
		if (!editor.place.isViewed) editor.place.showInside(true);
		if (heatPort) editor.toggleHeat(node.id, heatPort);
		else editor.toggleShown(node.id, event.shiftKey);
	}
</script>

<footer class="flex items-center gap-1 border-t border-line px-2 py-0.5">
	<span
		class="min-w-0 flex-1 truncate font-mono text-[10.5px] {report?.state === 'error'
			? 'text-plum'
			: 'text-quiet'}"
		title={foot}
		data-testid="foot">{foot}</span
	>
	<button
		class="icon-button nodrag h-5 w-5"
		aria-pressed={isSeen}
		aria-label="{isSeen ? 'Hide' : 'Show'} {node.short} in the View{heatPort ? ' as a heat map' : ''}"
		title={heatPort
			? 'Colour what is shown by these numbers.'
			: 'Show in the View (H). With Shift: beside the others.'}
		onclick={toggle}
	>
		{#if isSeen}<Eye size={13} />{:else}<EyeOff size={13} />{/if}
	</button>
</footer>
