<script lang="ts">
	import type { Editor } from '$lib/editor/editor.svelte';

	let { editor }: { editor: Editor } = $props();
	const { leading } = $derived(editor);
	const refused = $derived(leading.now?.following?.isAllowed === false);
</script>

{#if leading.now}
	<p
		class="menu pointer-events-none fixed z-[80] w-max max-w-72 min-w-0 px-2 py-1 text-xs {refused
			? 'text-plum'
			: leading.now.following
				? 'text-teal'
				: 'text-quiet'}"
		style="left: {Math.min(leading.now.x + 14, innerWidth - 300)}px; top: {leading.now.y + 16}px"
		role="status"
	>
		{leading.says}
	</p>
{/if}
