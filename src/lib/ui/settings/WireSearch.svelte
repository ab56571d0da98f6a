<script lang="ts">
	import { Command, Popover } from 'bits-ui';
	import Plus from '@lucide/svelte/icons/plus';
	import Spline from '@lucide/svelte/icons/spline';
	import { nodeKinds, sourcesFor } from '$core/index';
	import { toast } from 'svelte-sonner';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		/** The node and the input that a wire is wanted for. */
		node: string;
		name: string;
		label: string;
		/** What the list stands at. */
		anchor: HTMLElement | null;
		open: boolean;
		/** Asks for a new node whose output fits. */
		onwant?: (node: string, name: string) => void;
	}
	let { editor, node, name, label, anchor, open = $bindable(), onwant }: Props = $props();

	/** What fits, with the words by which it is found: the node's name, its output, and its kind. */
	const sources = $derived(
		open
			? sourcesFor(editor.graph, [node, name]).map(({ node: one, port }) => {
					const kind = nodeKinds.get(one.kind)!;
					return {
						id: one.id,
						port,
						text: `${one.short}, ${kind.outputs[port].label}`,
						kind: kind.name
					};
				})
			: []
	);
	function connect(id: string, port: string) {
		open = false;
		const reason = editor.connect([id, port], [node, name]);
		if (reason) toast.error(reason);
	}
</script>

<Popover.Root bind:open>
	<Popover.Portal>
		<Popover.Content
			class="menu w-64 p-0"
			align="end"
			customAnchor={anchor}
			aria-label="Wire {label}"
			onInteractOutside={(event) => anchor?.contains(event.target as Node) && event.preventDefault()}
			onkeydown={(event) => event.key !== 'Escape' && event.stopPropagation()}
		>
			<Command.Root label="From which node">
				<div class="border-b border-line p-2">
					<Command.Input class="field text-[13px]" placeholder="From which node?" />
				</div>
				<Command.List class="max-h-64 overflow-y-auto p-1">
					<Command.Empty forceMount={sources.length === 0} class="px-2 py-1 text-xs text-quiet"
						>{sources.length
							? 'No node of that name fits.'
							: 'Nothing in the graph fits here.'}</Command.Empty
					>
					{#each sources as { id, port, text, kind } (`${id} ${port}`)}
						<Command.Item
							class="menu-item text-[13px] data-[selected]:bg-line/50"
							value={text}
							keywords={[kind]}
							onSelect={() => connect(id, port)}
							><Spline size={14} class="shrink-0" />
							<span class="min-w-0 flex-1 truncate" title={text}>{text}</span>
							<span class="max-w-24 truncate text-[11px] text-quiet">{kind}</span></Command.Item
						>
					{/each}
				</Command.List>
				{#if onwant}
					<div class="border-t border-line p-1">
						<Command.Item
							class="menu-item text-[13px] data-[selected]:bg-line/50"
							value="A new node …"
							forceMount
							onSelect={() => {
								open = false;
								onwant(node, name);
							}}><Plus size={14} /> A new node …</Command.Item
						>
					</div>
				{/if}
			</Command.Root>
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
