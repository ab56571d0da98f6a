<script lang="ts">
	import { SvelteFlowProvider } from '@xyflow/svelte';
	import type { Editor } from '$lib/editor/editor.svelte';
	import GraphFlow from './GraphFlow.svelte';

	let flow = $state<GraphFlow>();
	export const commands = () => flow;
	let { editor, onfile }: { editor: Editor; onfile: (file: File, at: [number, number]) => void } = $props();
</script>

<SvelteFlowProvider>
	<GraphFlow bind:this={flow} {editor} {onfile} />
</SvelteFlowProvider>
