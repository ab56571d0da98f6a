<script lang="ts">
	import { loadAsset } from '$lib/store/database';

	let { hash }: { hash: string } = $props();

	let url = $state('');
	$effect(() => {
		let made = '';
		let isGone = false;
		loadAsset(hash).then(
			(asset) => {
				if (!asset || isGone) return;
				made = URL.createObjectURL(new Blob([asset.bytes as BlobPart], { type: 'image/webp' }));
				url = made;
			},
			() => {}
		);
		return () => {
			isGone = true;
			if (made) URL.revokeObjectURL(made);
			url = '';
		};
	});
</script>

{#if url}<img src={url} alt="" class="h-full w-full object-contain" />{/if}
