<script lang="ts">
	import type { ComponentProps } from 'svelte';
	import { CameraLink } from './camera-link.svelte';
	import ComparedView from './ComparedView.svelte';
	import ViewPane from './ViewPane.svelte';

	type Props = Omit<ComponentProps<typeof ViewPane>, 'link'>;
	let { editor, ...rest }: Props = $props();

	const link = new CameraLink();
	let pane = $state<ReturnType<typeof ViewPane>>();
	const { compared } = $derived(editor);

	/** The View of the generator that is worked on, for keys. */
	export const view = () => pane;
</script>

<div class="flex h-full min-w-0">
	<div class="flex h-full min-w-0 flex-1 flex-col">
		{#if compared}<p class="border-b border-line bg-sheet px-2 py-1.5 text-xs font-semibold">
				As it is now
			</p>{/if}
		<div class="min-h-0 flex-1"><ViewPane bind:this={pane} {editor} {link} {...rest} /></div>
	</div>
	{#if compared}{#key compared}<ComparedView {editor} {compared} {link} />{/key}{/if}
</div>
