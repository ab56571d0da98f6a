<script lang="ts">
	import '../app.css';
	import { Toaster } from 'svelte-sonner';
	import { Tooltip } from 'bits-ui';
	import { dropOnPage, overPage } from '$lib/ui/file-drops';
	import { theme } from '$lib/ui/theme.svelte';

	let { children } = $props();
	theme.apply();
</script>

<svelte:window ondragover={overPage} ondrop={dropOnPage} />

<Tooltip.Provider delayDuration={500}>
	{@render children()}
</Tooltip.Provider>
<Toaster
	position="bottom-center"
	closeButton
	closeButtonAriaLabel="Close this notice"
	theme={theme.current === 'dusk' ? 'dark' : 'light'}
	toastOptions={{ class: 'told' }}
/>
