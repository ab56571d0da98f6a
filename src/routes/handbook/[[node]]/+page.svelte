<script lang="ts">
	import { page } from '$app/state';
	import HandbookScreen from '$lib/ui/handbook/HandbookScreen.svelte';
</script>

<HandbookScreen id={page.params.node ?? ''} />
