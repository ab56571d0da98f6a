<script lang="ts">
	import { Dialog } from 'bits-ui';

	import { OTHER_KEYS } from '../commands';
	import type { Doable } from '../commands';

	let { commands, onclose }: { commands: readonly Doable[]; onclose: () => void } = $props();
	const keys = $derived([
		...commands
			.filter((one) => one.keys.length)
			.map((one): readonly [string, string] => [one.keys.join(', '), one.name]),
		...OTHER_KEYS
	]);
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-50 bg-black/30" />
		<Dialog.Content
			class="menu fixed top-16 left-1/2 max-h-[85vh] w-[30rem] -translate-x-1/2 overflow-y-auto p-4"
		>
			<Dialog.Title class="mb-3 text-lg">Keys</Dialog.Title>
			<dl class="grid grid-cols-[8rem_1fr] gap-y-1">
				{#each keys as [pressed, does] (pressed)}<dt><kbd class="font-mono text-xs">{pressed}</kbd></dt>
					<dd>{does}</dd>{/each}
			</dl>
			<div class="mt-3 text-right"><Dialog.Close class="button">Close</Dialog.Close></div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
