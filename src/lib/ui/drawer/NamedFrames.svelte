<script lang="ts">
	import { nameOfFrame, withFrameNamed } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';

	/** The name of the frame at hand, and all that are named on the way. `fixed`: they are only looked at. */
	let { editor, share, fixed }: { editor: Editor; share: (at: number) => number; fixed: boolean } = $props();

	const { playing } = $derived(editor);
	const named = $derived(editor.document.namedFrames ?? []);
	const within = $derived(named.filter(({ at }) => share(at) >= 0 && share(at) <= 1));
	const name = $derived(nameOfFrame(editor.document, playing.frame));
</script>

{#if !fixed}
	<input
		{@attach selectAll}
		class="mr-2 min-w-0 truncate border-b border-line bg-transparent py-0.5"
		aria-label="Name of frame {playing.frame}"
		placeholder="Name frame {playing.frame}"
		title="A name for the frame at the playhead; empty, it has none"
		value={name}
		maxlength="200"
		onchange={(event) => {
			const { value } = event.currentTarget;
			editor.change(
				value.trim() ? `Name frame ${playing.frame}` : `Frame ${playing.frame} has no name`,
				(document) => withFrameNamed(document, playing.frame, value)
			);
		}}
		onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
	/>
{:else if named.length}<span class="py-0.5 text-quiet">Named frames</span>{/if}
{#if !fixed || named.length}
	<div class="relative h-5" role="group" aria-label="Named frames">
		{#each within as one, i (one.at)}
			{@const next = within[i + 1]}
			<button
				class="absolute top-0 truncate border-l-2 pl-1 text-left hover:underline {one.at === playing.frame
					? 'border-coral font-semibold'
					: 'border-ochre'}"
				style:left="{100 * share(one.at)}%"
				style:max-width="{100 * ((next ? share(next.at) : 1) - share(one.at))}%"
				title="{one.name}: frame {one.at}"
				aria-label="To {one.name}, frame {one.at}"
				onclick={() => playing.seek(one.at)}>{one.name}</button
			>
		{/each}
	</div>
{/if}
