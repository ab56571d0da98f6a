<script lang="ts" module>
	import type { Named } from './rank';

	/** The first of the hints is shown beside the text. */
	export interface Found extends Named {
		id: string;
	}
</script>

<script lang="ts">
	import { Command, Popover } from 'bits-ui';
	import type { Snippet } from 'svelte';
	import { ranked } from './rank';

	interface Props {
		open: boolean;
		/** What the list stands at. */
		anchor: HTMLElement | null;
		/** What is asked for. */
		label: string;
		/** Made only while the list is open. */
		items: () => readonly Found[];
		empty: string;
		onpick: (id: string) => void;
		/** Something to do that no search takes away, under the list. */
		more?: Snippet<[close: () => void]>;
	}
	let { open = $bindable(), anchor, label, items, empty, onpick, more }: Props = $props();

	let typed = $state('');
	let goesOn = false;
	const all = $derived(open ? items() : []);
	const list = $derived(ranked(all, typed));
	$effect(() => {
		if (!open) typed = '';
	});
</script>

<Popover.Root bind:open>
	<Popover.Portal>
		<Popover.Content
			class="menu w-64 p-0"
			align="end"
			customAnchor={anchor}
			aria-label={label}
			onCloseAutoFocus={(event) => {
				// What is opened in its place has the keys.
				if (goesOn) event.preventDefault();
				goesOn = false;
			}}
			onInteractOutside={(event) => anchor?.contains(event.target as Node) && event.preventDefault()}
			onkeydown={(event) => event.key !== 'Escape' && event.stopPropagation()}
		>
			<Command.Root {label} shouldFilter={false}>
				<div class="border-b border-line p-2">
					<Command.Input class="field text-[13px]" placeholder="{label} …" bind:value={typed} />
				</div>
				<Command.List class="max-h-64 overflow-y-auto p-1">
					{#each list as { id, text, hints = [] } (id)}
						<Command.Item
							class="menu-item text-[13px] data-[selected]:bg-line/50"
							value={text}
							onSelect={() => {
								open = false;
								onpick(id);
							}}
							><span class="max-w-full shrink-0 truncate" title={text}>{text}</span>
							{#if hints.length}<span class="min-w-0 flex-1 truncate text-right text-[11px] text-quiet"
									>{hints[0]}</span
								>{/if}</Command.Item
						>
					{:else}
						<p class="px-2 py-1 text-xs text-quiet">{all.length ? 'Nothing of that name.' : empty}</p>
					{/each}
				</Command.List>
				{#if more}<div class="border-t border-line p-1">
						{@render more(() => {
							goesOn = true;
							open = false;
						})}
					</div>{/if}
			</Command.Root>
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
