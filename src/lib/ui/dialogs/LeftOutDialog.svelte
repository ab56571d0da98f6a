<script lang="ts">
	import { Dialog } from 'bits-ui';
	import HardDriveDownload from '@lucide/svelte/icons/hard-drive-download';
	import { leftOutRow } from './left-out';

	interface Props {
		/** The file, by its name, and as it came. */
		file: string;
		original: File;
		leftOut: readonly string[];
		onsave: (original: File, file: string) => void;
		onclose: () => void;
	}
	let { file, original, leftOut, onsave, onclose }: Props = $props();

	const rows = $derived(leftOut.map(leftOutRow));
</script>

<Dialog.Root open onOpenChange={(open) => !open && onclose()}>
	<Dialog.Portal>
		<Dialog.Overlay class="fixed inset-0 z-50 bg-black/30" />
		<Dialog.Content
			class="menu fixed top-20 left-1/2 flex max-h-[calc(100vh-10rem)] w-[44rem] max-w-[calc(100vw-2rem)] -translate-x-1/2 flex-col p-4"
		>
			<Dialog.Title class="mb-1 text-lg"
				>{rows.length === 1 ? 'One thing was' : `${rows.length.toLocaleString('en')} things were`} left out of “{file}”</Dialog.Title
			>
			<Dialog.Description class="mb-3 text-sm text-quiet"
				>Everything else is open. The file itself is as it was; save it if you want to look at it elsewhere.</Dialog.Description
			>
			<div class="min-h-0 flex-1 overflow-y-auto border-y border-line">
				<table class="w-full text-left text-[13px]">
					<thead class="sticky top-0 bg-sheet text-quiet"
						><tr
							><th class="py-1.5 pr-3 font-normal">What</th><th class="py-1.5 pr-3 font-normal">Where</th><th
								class="py-1.5 font-normal">Why</th
							></tr
						></thead
					>
					<tbody>
						{#each rows as { what, where, why }, i (i)}
							<tr class="border-t border-line align-top"
								><td class="py-1.5 pr-3">{what}</td><td class="py-1.5 pr-3 break-words">{where}</td><td
									class="py-1.5 break-words">{why}</td
								></tr
							>
						{/each}
					</tbody>
				</table>
			</div>
			<div class="mt-3 flex justify-end gap-2">
				<button class="button" onclick={() => onsave(original, file)}
					><HardDriveDownload size={15} /> Save the original</button
				><Dialog.Close class="button button-main">Go on</Dialog.Close>
			</div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
