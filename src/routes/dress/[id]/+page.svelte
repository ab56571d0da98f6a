<script lang="ts">
	import { page } from '$app/state';
	import { Dress } from '$lib/editor/dress.svelte';
	import { storageTrouble } from '$lib/store/trouble';
	import DressScreen from '$lib/ui/dress/DressScreen.svelte';

	let dress = $state.raw<Dress | null>(null);
	let problem = $state('');

	$effect(() => {
		const id = page.params.id!;
		let opened: Dress | null = null;
		let left = false;
		problem = '';
		Dress.open(id).then(
			(found) => {
				opened = found;
				if (left) void found?.close();
				else if (found) dress = found;
				else
					problem =
						'There is no such generator in this browser. It may have been deleted, or made in another browser.';
			},
			(error) => (problem = storageTrouble(error))
		);
		return () => {
			left = true;
			dress = null;
			void opened?.close();
		};
	});
</script>

<svelte:head><title>{dress ? `${dress.base.name} – Embrell` : 'Embrell'}</title></svelte:head>

{#if dress}
	{#key dress}<DressScreen {dress} />{/key}
{:else if problem}
	<main class="p-10">
		<p class="mb-4" role="alert">{problem}</p>
		<a class="button" href="/">Back to the Library</a>
	</main>
{:else}
	<p class="p-10 text-quiet">Opening …</p>
{/if}
