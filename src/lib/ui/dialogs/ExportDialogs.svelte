<script lang="ts">
	import type { Editor } from '$lib/editor/editor.svelte';
	import ExportDialog from './ExportDialog.svelte';
	import FramesDialog from './FramesDialog.svelte';

	/** The export that is open: of the result as it stands, or of frames. */
	let { editor }: { editor: Editor } = $props();
	const close = () => (editor.exporting = null);
</script>

{#if editor.exporting === 'result'}<ExportDialog {editor} onclose={close} />
{:else if editor.exporting === 'frames'}<FramesDialog {editor} onclose={close} />{/if}
