<script lang="ts">
	import Tick from '$lib/ui/fields/Tick.svelte';
	import { selectAll } from '$lib/ui/fields/select-all';
	import { Dialog } from 'bits-ui';
	import { toast } from 'svelte-sonner';
	import { download, fileName } from '$lib/store/files';
	import type { ViewScene } from '$lib/viewport/scene';

	let { scene, name, onclose }: { scene: ViewScene; name: string; onclose: () => void } = $props();
	let width = $state(1920);
	let height = $state(1080);
	let transparent = $state(false);
	const fits = $derived(width >= 16 && height >= 16 && width <= 8192 && height <= 8192);

	/** How much of the picture is drawn, while it is. */
	let share = $state<number | null>(null);
	const stopping = new AbortController();

	async function save() {
		share = 0;
		try {
			const picture = await scene.picture({
				width: Math.round(width),
				height: Math.round(height),
				transparent,
				stop: stopping.signal,
				progress: (drawn) => (share = drawn)
			});
			download(picture, `${fileName(name)}.png`, 'image/png');
			onclose();
		} catch (error) {
			if (!stopping.signal.aborted) toast.error((error as Error).message);
		}
		share = null;
	}
	function close() {
		stopping.abort();
		onclose();
	}
</script>

<Dialog.Root open onOpenChange={(open) => !open && close()}>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-50 bg-black/30" />
		<Dialog.Content class="menu fixed top-1/4 left-1/2 w-80 -translate-x-1/2 p-4">
			<Dialog.Title class="mb-3 text-lg">Save a picture</Dialog.Title>
			<div class="grid grid-cols-2 gap-3">
				<label
					>Width, pixels<input
						{@attach selectAll}
						class="field font-mono"
						type="number"
						min="16"
						max="8192"
						bind:value={width}
					/></label
				>
				<label
					>Height, pixels<input
						{@attach selectAll}
						class="field font-mono"
						type="number"
						min="16"
						max="8192"
						bind:value={height}
					/></label
				>
			</div>
			<label class="my-3 flex items-center gap-2"
				><Tick checked={transparent} onchange={(on) => (transparent = on)} /> Transparent background</label
			>
			{#if !fits}<p class="mb-2 text-xs text-plum" role="alert">
					Both sides lie between 16 and 8,192 pixels.
				</p>{/if}
			<div class="flex justify-end gap-2">
				<Dialog.Close class="button">Cancel</Dialog.Close><button
					class="button button-main"
					disabled={!fits || share !== null}
					onclick={save}>{share === null ? 'Save PNG' : `Drawing … ${Math.floor(100 * share)} %`}</button
				>
			</div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
