<script lang="ts">
	import CornerDownRight from '@lucide/svelte/icons/corner-down-right';
	import LayoutGrid from '@lucide/svelte/icons/layout-grid';
	import Maximize from '@lucide/svelte/icons/maximize';
	import Plus from '@lucide/svelte/icons/plus';
	import StickyNote from '@lucide/svelte/icons/sticky-note';

	interface Props {
		onadd: () => void;
		onnote: () => void;
		ontidy: () => void;
		onfit: () => void;
		/** Whether it is shown which settings follow which. */
		references: boolean;
		onreferences: () => void;
	}
	let { onadd, onnote, ontidy, onfit, references, onreferences }: Props = $props();
</script>

<div class="absolute top-2 left-2 z-10 flex gap-1">
	<button class="button" onclick={onadd} title="Search a node to add (/)"><Plus size={15} /> Add node</button>
	<button class="button" onclick={onnote} aria-label="Add a note" title="Add a note"
		><StickyNote size={15} /> <span class="wide">Note</span></button
	>
	<button class="button" onclick={ontidy} aria-label="Arrange" title="Arrange"
		><LayoutGrid size={15} /> <span class="wide">Arrange</span></button
	>
	<button class="button" onclick={onfit} aria-label="Fit the graph" title="Fit (Shift+F)"
		><Maximize size={15} /> <span class="wide">Fit</span></button
	>
	<button
		class="button aria-pressed:border-teal aria-pressed:text-teal"
		onclick={onreferences}
		aria-pressed={references}
		aria-label="References"
		title="Show which settings follow which"
		><CornerDownRight size={15} /> <span class="wide">References</span></button
	>
</div>

<style>
	/* Words on buttons where there is room. */
	@container (max-width: 500px) {
		.wide {
			display: none;
		}
	}
</style>
