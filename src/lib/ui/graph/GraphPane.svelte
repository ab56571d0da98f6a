<script lang="ts">
	import { SvelteFlowProvider } from '@xyflow/svelte';
	import type { Editor } from '$lib/editor/editor.svelte';
	import GraphFlow from './GraphFlow.svelte';

	let flow = $state<GraphFlow>();
	export const commands = () => flow;
	interface Props {
		editor: Editor;
		/** Files were dropped on it, and where each of them shall stand. */
		onfiles: (files: readonly File[], at: (nth: number) => [number, number]) => void;
	}
	let { editor, onfiles }: Props = $props();
</script>

<SvelteFlowProvider>
	<GraphFlow bind:this={flow} {editor} {onfiles} />
</SvelteFlowProvider>
