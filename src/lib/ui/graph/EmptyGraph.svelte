<script lang="ts">
	/** The key that opens the search. */
	const KEY = '/';
</script>

<div class="pointer-events-none absolute inset-0 flex items-center justify-center p-6 text-center text-quiet">
	<p>
		Nothing here yet. Press <kbd class="rounded border border-line bg-sheet px-1 font-mono text-ink"
			>{KEY}</kbd
		>
		or “Add node” to begin,<br />say with a Grid, and end with a Result. Mesh files may be dropped here.
	</p>
</div>
