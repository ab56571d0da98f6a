<script lang="ts">
	import { Dialog } from 'bits-ui';

	let { onclose }: { onclose: () => void } = $props();
	const KEYS = [
		['/', 'Search a node to add'],
		['Ctrl+K', 'Find a command'],
		['?', 'List the keys'],
		['1 2 3', 'Graph, Settings, View fills the screen; again to return'],
		['F', 'Fit what is selected'],
		['Shift+F', 'Fit all'],
		['M R S', 'Handles to move, rotate, scale (in the View)'],
		['Alt+T N E P', 'Top, front, east, perspective'],
		['H', 'Show or hide what is selected in the View'],
		['Shift+H', 'Bypass what is selected'],
		['Delete', 'Delete; the wire is healed where it can be'],
		['Ctrl+Z', 'Undo'],
		['Ctrl+Shift+Z', 'Redo'],
		['Ctrl+C, X, V', 'Copy, cut, paste nodes'],
		['Ctrl+D', 'Duplicate'],
		['Ctrl+A', 'Select all nodes'],
		['Ctrl+S', 'Save as a file'],
		['Arrows', 'Turn the view; with Shift move it'],
		['+ −', 'Nearer, further']
	];
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-50 bg-black/30" />
		<Dialog.Content
			class="menu fixed top-16 left-1/2 max-h-[85vh] w-[30rem] -translate-x-1/2 overflow-y-auto p-4"
		>
			<Dialog.Title class="mb-3 text-lg">Keys</Dialog.Title>
			<dl class="grid grid-cols-[8rem_1fr] gap-y-1">
				{#each KEYS as [keys, does] (keys)}<dt><kbd class="font-mono text-xs">{keys}</kbd></dt>
					<dd>{does}</dd>{/each}
			</dl>
			<div class="mt-3 text-right"><Dialog.Close class="button">Close</Dialog.Close></div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
