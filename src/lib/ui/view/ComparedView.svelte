<script lang="ts">
	import { onDestroy, untrack } from 'svelte';
	import Check from '@lucide/svelte/icons/check';
	import X from '@lucide/svelte/icons/x';
	import { Editor } from '$lib/editor/editor.svelte';
	import { NotKept } from '$lib/editor/not-kept.svelte';
	import type { CameraLink } from './camera-link.svelte';
	import ViewPane from './ViewPane.svelte';

	interface Props {
		/** The generator that is worked on. */
		editor: Editor;
		compared: NonNullable<Editor['compared']>;
		link: CameraLink;
	}
	let { editor, compared, link }: Props = $props();

	/** It evaluates and draws by itself, and what is done there is not kept. */
	const beside = untrack(() => new Editor(`beside-${editor.id}`, compared.document, new NotKept()));
	void beside.open();
	onDestroy(() => void beside.close());

	const close = () => (editor.compared = null);
</script>

<section
	class="flex h-full min-w-0 flex-1 flex-col border-l border-line"
	aria-label="Compared: {compared.name}"
	data-hash={beside.evaluation.hash}
	data-working={beside.evaluation.working}
>
	<div class="flex items-center gap-1 border-b border-line bg-sheet px-2 py-1 text-xs">
		<span class="min-w-0 flex-1 truncate font-semibold" title={compared.name}>{compared.name}</span>
		<button
			class="button text-xs"
			onclick={() => {
				compared.take();
				close();
			}}><Check size={13} /> Use it</button
		>
		<button class="icon-button h-6 w-6" aria-label="End comparing" title="End comparing" onclick={close}
			><X size={14} /></button
		>
	</div>
	<div class="min-h-0 flex-1"><ViewPane editor={beside} dressed {link} /></div>
</section>
