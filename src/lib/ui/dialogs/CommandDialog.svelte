<script lang="ts">
	import { Command, Dialog } from 'bits-ui';
	import { ranked } from '../rank';
	import type { Doable } from '../commands';

	let { commands, onclose }: { commands: readonly Doable[]; onclose: () => void } = $props();
	let typed = $state('');
	const found = $derived(
		ranked(
			commands.map((one) => ({ ...one, text: one.name })),
			typed
		)
	);
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-50 bg-black/30" />
		<Dialog.Content class="menu fixed top-24 left-1/2 w-96 -translate-x-1/2 p-0" aria-label="Find a command">
			<Dialog.Title class="sr-only">Find a command</Dialog.Title>
			<Command.Root label="Commands" shouldFilter={false}>
				<div class="border-b border-line p-2">
					<Command.Input class="field" placeholder="What do you want to do?" bind:value={typed} />
				</div>
				<Command.List class="max-h-80 overflow-y-auto p-1">
					{#each found as { name, keys, run } (name)}
						<Command.Item
							class="menu-item data-[selected]:bg-line/50"
							value={name}
							onSelect={() => {
								onclose();
								run();
							}}
							><span class="flex-1">{name}</span>{#if keys.length}<kbd class="font-mono text-xs text-quiet"
									>{keys.join(', ')}</kbd
								>{/if}</Command.Item
						>
					{:else}
						<p class="p-3 text-quiet">No command of that name.</p>
					{/each}
				</Command.List>
			</Command.Root>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
