<!-- What is done when the browser lets go of the page: a reload, a closed or a sleeping tab, a crash a little later. -->
<script lang="ts">
	import type { Editor } from '$lib/editor/editor.svelte';

	let { editor }: { editor: Editor } = $props();

	/** What is typed and not yet taken is taken first. */
	function leave() {
		if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
		rest();
		editor.evaluation.left();
	}
	function rest() {
		editor.playing.keepNow();
		editor.saving.letGo();
		void editor.saving.flush();
	}
</script>

<svelte:window
	onpagehide={leave}
	onblur={() => editor.saving.flush()}
	onbeforeunload={(event) => editor.saving.state === 'failed' && event.preventDefault()}
/>
<svelte:document onvisibilitychange={() => document.visibilityState === 'hidden' && rest()} />
