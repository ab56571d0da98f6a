<script lang="ts">
	import BookOpen from '@lucide/svelte/icons/book-open';
	import type { AnyNode } from '$core/nodes/index';
	import { pageOf } from '$core/handbook/index';

	let { kind }: { kind: AnyNode } = $props();

	let isOpen = $state(false);
	const page = $derived(isOpen ? pageOf(kind) : null);
</script>

<p class="mt-1 text-xs text-quiet">{kind.help}</p>
<details bind:open={isOpen} class="mt-1 text-xs">
	<summary class="cursor-pointer text-quiet hover:text-ink">In and out</summary>
	{#if page}
		<dl class="mt-1 space-y-0.5">
			{#each page.comesIn as { name, label, holds } (name)}
				<div>
					<dt class="inline font-semibold">{label}</dt>
					<dd class="inline text-quiet">comes in: {holds}</dd>
				</div>
			{/each}
			{#each page.goesOut as { name, label, holds } (name)}
				<div>
					<dt class="inline font-semibold">{label}</dt>
					<dd class="inline text-quiet">goes out: {holds}</dd>
				</div>
			{/each}
		</dl>
		<p class="mt-1">{page.withNothing}</p>
	{/if}
	<a
		class="mt-1 inline-flex items-center gap-1 text-teal underline underline-offset-2"
		href="/handbook/{kind.id}"
		target="_blank"><BookOpen size={13} /> {kind.name} in the Handbook</a
	>
</details>
