<script lang="ts">
	import { useConnection } from '@xyflow/svelte';

	/** While a wire is dragged in a body, its edges take it: a new port comes of it. */
	const connection = useConnection();
	const side = $derived(
		connection.current.inProgress
			? connection.current.fromHandle?.type === 'source'
				? 'output'
				: 'input'
			: null
	);
</script>

{#if side}
	<div
		class="absolute inset-y-12 z-20 flex w-16 items-center justify-center border-dashed border-coral bg-sheet/85 text-xs {side ===
		'output'
			? 'right-0 border-l-2'
			: 'left-0 border-r-2'}"
		data-body-edge={side}
	>
		<span class="pointer-events-none text-center">New<br />{side}</span>
	</div>
{/if}
