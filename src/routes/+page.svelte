<script lang="ts">
	import { onMount } from 'svelte';
	import BookOpen from '@lucide/svelte/icons/book-open';
	import FilePlus2 from '@lucide/svelte/icons/file-plus-2';
	import FileUp from '@lucide/svelte/icons/file-up';
	import Moon from '@lucide/svelte/icons/moon';
	import Search from '@lucide/svelte/icons/search';
	import Sun from '@lucide/svelte/icons/sun';
	import { samples } from '$lib/samples';
	import LeftOutDialog from '$lib/ui/dialogs/LeftOutDialog.svelte';
	import GeneratorCard from '$lib/ui/library/GeneratorCard.svelte';
	import SampleCard from '$lib/ui/library/SampleCard.svelte';
	import { Library } from '$lib/ui/library/library.svelte';
	import { takeDrops } from '$lib/ui/file-drops';
	import { theme } from '$lib/ui/theme.svelte';

	const library = new Library();
	let picker = $state<HTMLInputElement>();
	onMount(() => library.open());
	onMount(() => takeDrops((files) => library.importFiles(files)));
</script>

<svelte:head><title>Library – Embrell</title></svelte:head>

<main class="mx-auto max-w-6xl px-6 pb-16">
	<header class="flex flex-wrap items-center gap-3 py-6">
		<img src="/icon.svg" alt="" width="36" height="36" />
		<h1 class="text-2xl">Embrell</h1>
		<span class="flex-1"></span>
		<label class="relative"
			><Search size={15} class="absolute top-2 left-2 text-quiet" /><input
				class="field w-52 py-1 pl-7"
				type="search"
				placeholder="Find a generator"
				aria-label="Find a generator"
				bind:value={library.query}
			/></label
		>
		<a class="button" href="/handbook"><BookOpen size={15} /> Handbook</a>
		<button class="button" onclick={() => picker?.click()}><FileUp size={15} /> Import</button>
		<input
			bind:this={picker}
			type="file"
			class="sr-only"
			tabindex="-1"
			multiple
			accept=".json,.zip"
			aria-label="Generator files"
			onchange={(event) => {
				library.importFiles([...(event.currentTarget.files ?? [])]);
				event.currentTarget.value = '';
			}}
		/>
		<button class="button button-main" onclick={library.openEmpty}
			><FilePlus2 size={15} /> New generator</button
		>
		<button
			class="icon-button"
			aria-label={theme.current === 'dusk' ? 'Use the Paper theme' : 'Use the Dusk theme'}
			onclick={() => theme.toggle()}
			>{#if theme.current === 'dusk'}<Sun size={17} />{:else}<Moon size={17} />{/if}</button
		>
	</header>

	<section aria-label="Your generators">
		<h2 class="mb-3 text-lg">Your generators</h2>
		<ul class="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-5">
			{#each library.own.filter((one) => library.matches(one.name)) as one (one.id)}
				<GeneratorCard {library} {one} />
			{:else}
				{#if library.isLoaded}<li class="col-span-full text-quiet">
						{library.query
							? `None of yours is called “${library.query}”.`
							: 'None yet. Make a new one, or open a sample below and change it: the change is kept here.'}
					</li>{/if}
			{/each}
		</ul>
	</section>

	<section aria-label="Samples" class="mt-10">
		<h2 class="mb-3 text-lg">Samples from Saltreed</h2>
		<ul class="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-5">
			{#each samples.filter((one) => library.matches(one.name)) as sample (sample.id)}
				<SampleCard {sample} onopen={library.openSample} />
			{/each}
		</ul>
	</section>
	<p class="mt-10 text-xs text-quiet">Everything is kept in this browser. {library.used}</p>
</main>

{#if library.told.length}
	{#key library.told[0]}
		<LeftOutDialog {...library.told[0]} onsave={library.saveOriginal} onclose={() => library.closeTold()} />
	{/key}
{/if}

<style>
	ul :global(.specimen) {
		border: 1px solid var(--line);
		background: var(--sheet);
		border-radius: 3px;
		box-shadow: 0 1px 3px rgb(0 0 0 / 0.07);
	}
	ul :global(.specimen:hover) {
		border-color: var(--quiet);
	}
	ul :global(.picture) {
		display: block;
		aspect-ratio: 400 / 260;
		margin: 8px 8px 0;
		background: var(--ground);
		overflow: hidden;
	}
	ul :global(.picture img) {
		width: 100%;
		height: 100%;
		object-fit: cover;
	}
</style>
