<script lang="ts">
	import LibraryBig from '@lucide/svelte/icons/library-big';
	import Moon from '@lucide/svelte/icons/moon';
	import Search from '@lucide/svelte/icons/search';
	import Sun from '@lucide/svelte/icons/sun';
	import { goto } from '$app/navigation';
	import { theme } from '../theme.svelte';
	import { found, pageFor } from './handbook.svelte';
	import LiveExample from './LiveExample.svelte';
	import PageTable from './PageTable.svelte';

	/** The id of the node whose page is read; empty for the contents. */
	let { id }: { id: string } = $props();

	let typed = $state('');
	const chapters = $derived(found(typed));
	const page = $derived(id ? pageFor(id) : null);
	const titled = (family: string) => family[0].toUpperCase() + family.slice(1);

	function openFirst(event: KeyboardEvent) {
		const first = chapters[0]?.kinds[0];
		if (event.key === 'Enter' && typed.trim() && first) void goto(`/handbook/${first.id}`);
	}
</script>

<svelte:head><title>{page ? `${page.name} – Handbook` : 'Handbook – Embrell'}</title></svelte:head>

<div class="flex h-screen flex-col">
	<header class="flex items-center gap-3 border-b border-line bg-sheet px-3 py-1.5">
		<a class="icon-button" href="/" aria-label="To the Library" title="Library"><LibraryBig size={18} /></a>
		<a class="font-head text-[15px] font-semibold" href="/handbook">Handbook</a>
		<span class="flex-1"></span>
		<label class="relative"
			><Search size={15} class="absolute top-2 left-2 text-quiet" /><input
				class="field w-64 py-1 pl-7"
				type="search"
				placeholder="Find a node, or what it does"
				aria-label="Find in the Handbook"
				bind:value={typed}
				onkeydown={openFirst}
			/></label
		>
		<button
			class="icon-button"
			aria-label={theme.current === 'dusk' ? 'Use the Paper theme' : 'Use the Dusk theme'}
			onclick={() => theme.toggle()}
			>{#if theme.current === 'dusk'}<Sun size={17} />{:else}<Moon size={17} />{/if}</button
		>
	</header>
	<div class="flex min-h-0 flex-1">
		<nav class="w-52 shrink-0 overflow-y-auto border-r border-line bg-sheet py-2" aria-label="Nodes">
			{#each chapters as { family, kinds } (family)}
				<h2 class="px-3 pt-2 pb-0.5 text-xs text-quiet">{titled(family)}</h2>
				<ul>
					{#each kinds as kind (kind.id)}
						<li>
							<a
								class="block truncate px-3 py-0.5 text-[13px] hover:bg-ground {kind.id === id
									? 'bg-ground font-semibold'
									: ''}"
								aria-current={kind.id === id ? 'page' : undefined}
								href="/handbook/{kind.id}">{kind.name}</a
							>
						</li>
					{/each}
				</ul>
			{:else}
				<p class="px-3 py-2 text-[13px] text-quiet">Nothing is called “{typed}”, and nothing does that.</p>
			{/each}
		</nav>
		<main class="min-w-0 flex-1 overflow-y-auto px-8 py-6">
			{#if page}
				<article class="mx-auto max-w-4xl">
					<p class="text-xs text-quiet">{titled(page.family)}</p>
					<h1 class="text-2xl">{page.name}</h1>
					<p class="mt-1 mb-4 max-w-2xl text-[15px]">{page.does}</p>
					{#key id}<LiveExample {id} />{/key}
					<p class="mt-4 text-[13px]">{page.withNothing}</p>
					<PageTable title="What comes in" rows={page.comesIn} />
					<PageTable title="What is set" rows={page.settings} />
					<PageTable title="What goes out" rows={page.goesOut} />
					<p class="mt-6 text-xs text-quiet">Also found as: {page.words.join(', ')}.</p>
				</article>
			{:else if id}
				<p class="mb-4" role="alert">There is no node “{id}” in this version.</p>
				<a class="button" href="/handbook">To the contents</a>
			{:else}
				<div class="mx-auto max-w-5xl">
					<h1 class="mb-1 text-2xl">Handbook</h1>
					<p class="mb-6 max-w-2xl text-quiet">
						Every node with what comes in, what is set and what goes out, and an example that you can change.
					</p>
					{#each chapters as { family, kinds } (family)}
						<section class="mb-7" aria-label={titled(family)}>
							<h2 class="mb-2 border-b border-line pb-1 text-lg">{titled(family)}</h2>
							<ul class="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-x-6 gap-y-2">
								{#each kinds as kind (kind.id)}
									<li>
										<a class="group block" href="/handbook/{kind.id}">
											<span class="font-semibold group-hover:underline">{kind.name}</span>
											<span class="line-clamp-2 text-xs text-quiet">{kind.help}</span>
										</a>
									</li>
								{/each}
							</ul>
						</section>
					{/each}
				</div>
			{/if}
		</main>
	</div>
</div>
