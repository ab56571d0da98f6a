<script lang="ts" module>
	export interface Found {
		id: string;
		text: string;
		/** More words by which it is found; the first is shown beside the text. */
		hints?: readonly string[];
	}
</script>

<script lang="ts">
	import { Command, Popover } from 'bits-ui';
	import type { Snippet } from 'svelte';

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

	const list = $derived(open ? items() : []);

	/** Every word that is typed must stand in the text, or begin one of the hints; beginnings of the text come first. */
	function filter(text: string, typed: string, hints: string[] = []): number {
		const own = text.toLowerCase();
		const all = hints.flatMap((hint) => hint.toLowerCase().split(/\s+/));
		let worst = 1;
		for (const word of typed.toLowerCase().split(/\s+/).filter(Boolean)) {
			const inText = own.startsWith(word) ? 1 : own.includes(word) ? 0.8 : 0;
			const found = inText || (all.some((hint) => hint.startsWith(word)) ? 0.5 : 0);
			worst = Math.min(worst, found);
		}
		return worst;
	}
</script>

<Popover.Root bind:open>
	<Popover.Portal>
		<Popover.Content
			class="menu w-64 p-0"
			align="end"
			customAnchor={anchor}
			aria-label={label}
			onInteractOutside={(event) => anchor?.contains(event.target as Node) && event.preventDefault()}
			onkeydown={(event) => event.key !== 'Escape' && event.stopPropagation()}
		>
			<Command.Root {label} {filter}>
				<div class="border-b border-line p-2">
					<Command.Input class="field text-[13px]" placeholder="{label} …" />
				</div>
				<Command.List class="max-h-64 overflow-y-auto p-1">
					<Command.Empty forceMount={!list.length} class="px-2 py-1 text-xs text-quiet"
						>{list.length ? 'Nothing of that name.' : empty}</Command.Empty
					>
					{#each list as { id, text, hints = [] } (id)}
						<Command.Item
							class="menu-item text-[13px] data-[selected]:bg-line/50"
							value={text}
							keywords={[...hints]}
							onSelect={() => {
								open = false;
								onpick(id);
							}}
							><span class="min-w-0 flex-1 truncate" title={text}>{text}</span>
							{#if hints.length}<span class="max-w-24 truncate text-[11px] text-quiet">{hints[0]}</span
								>{/if}</Command.Item
						>
					{/each}
				</Command.List>
				{#if more}<div class="border-t border-line p-1">{@render more(() => (open = false))}</div>{/if}
			</Command.Root>
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
