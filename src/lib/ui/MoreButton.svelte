<!-- The way to the rest of a list of which only the first are shown. -->
<script lang="ts">
	import type { Portion } from './portion.svelte';

	let { portion, list, what }: { portion: Portion; list: readonly unknown[]; what: string } = $props();

	const more = $derived(portion.more(list));
</script>

{#if more}
	<button class="button mt-1.5 text-xs" onclick={() => portion.show()}
		>{more} more of {list.length.toLocaleString('en')} {what}</button
	>
{/if}
