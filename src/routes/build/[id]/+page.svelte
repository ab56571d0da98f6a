<script lang="ts">
	import { page } from '$app/state';
	import { Editor } from '$lib/editor/editor.svelte';
	import { Saving } from '$lib/editor/saving.svelte';
	import { storageTrouble } from '$lib/store/trouble';
	import BuildScreen from '$lib/ui/BuildScreen.svelte';

	let editor = $state.raw<Editor | null>(null);
	let problem = $state('');

	$effect(() => {
		const id = page.params.id!;
		let opened: Editor | null = null;
		let left = false;
		problem = '';
		(async () => {
			try {
				// Whoever may write reads first after that: what is read before the lock could be older than what is stored.
				const saving = new Saving(id);
				await saving.claim();
				const document = left
					? null
					: await saving.load().catch(async (error: unknown) => {
							// Nobody holds the right to write what could not be read.
							await saving.close();
							throw error;
						});
				if (!document) {
					await saving.close();
					if (!left)
						problem =
							'There is no such generator in this browser. It may have been deleted, or made in another browser.';
					return;
				}
				opened = new Editor(id, document, saving);
				await opened.open();
				if (left) await opened.close();
				else editor = opened;
			} catch (error) {
				problem = storageTrouble(error);
			}
		})();
		return () => {
			left = true;
			editor = null;
			opened?.close();
		};
	});
</script>

<svelte:head><title>{editor ? `${editor.document.name} – Embrell` : 'Embrell'}</title></svelte:head>

{#if editor}
	{#key editor}<BuildScreen {editor} />{/key}
{:else if problem}
	<main class="p-10">
		<p class="mb-4" role="alert">{problem}</p>
		<a class="button" href="/">Back to the Library</a>
	</main>
{:else}
	<p class="p-10 text-quiet">Opening …</p>
{/if}
