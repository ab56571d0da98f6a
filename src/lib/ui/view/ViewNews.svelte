<script lang="ts">
	import LoaderCircle from '@lucide/svelte/icons/loader-circle';
	import Play from '@lucide/svelte/icons/play';
	import Square from '@lucide/svelte/icons/square';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		/** A node without a result, in whose place the last good picture stands. */
		keptFor: string | null;
	}
	let { editor, keptFor }: Props = $props();
	const { evaluation } = $derived(editor);
	/** Where it began: the node that the others wait for. */
	const cause = $derived.by(() => {
		let id = keptFor;
		const seen = new Set<string>();
		for (;;) {
			const next = id && evaluation.viewed.get(id)?.error?.waitsFor;
			if (!next || seen.has(next)) return id;
			seen.add(next);
			id = next;
		}
	});
	const at = $derived(evaluation.progress);
	/** The node at work stands in the main graph. */
	const nameOf = (id: string) => editor.document.graphs.main.nodes.find((node) => node.id === id)?.short;
	const words = $derived(
		at &&
			(at.node ? (nameOf(at.node) ?? '') : 'Working') +
				(at.share > 0 ? ` ${Math.round(at.share * 100)} %` : ' …')
	);
</script>

{#if evaluation.paused}
	<p
		class="menu absolute bottom-9 left-1/2 flex w-max max-w-[90%] -translate-x-1/2 items-center gap-3 px-3 py-1.5 text-sm"
		role="status"
	>
		It did not finish the last time, so it was opened without evaluating.
		<button class="button shrink-0" onclick={() => editor.resume()}><Play size={13} /> Evaluate</button>
	</p>
{:else if at}
	<div
		class="menu absolute bottom-9 left-1/2 flex -translate-x-1/2 items-center gap-2 px-3 py-1.5"
		role="status"
	>
		<LoaderCircle size={15} class="animate-spin text-ochre" />
		<span>{words}</span>
		<button class="button" onclick={() => evaluation.stop()}><Square size={13} /> Stop</button>
	</div>
{:else if evaluation.trouble}
	<p class="menu absolute bottom-9 left-1/2 -translate-x-1/2 px-3 py-1.5 text-sm" role="status">
		{evaluation.trouble}
	</p>
{:else if cause && editor.viewNode(cause)}
	<p
		class="menu absolute bottom-9 left-1/2 w-max max-w-[90%] -translate-x-1/2 px-3 py-1.5 text-sm"
		role="status"
	>
		The last good picture. <button class="font-semibold underline" onclick={() => editor.selectViewed(cause)}
			>{editor.viewNode(cause)?.short}</button
		>: {evaluation.viewed.get(cause)?.error?.message}
	</p>
{/if}
