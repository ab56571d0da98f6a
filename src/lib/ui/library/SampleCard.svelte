<script lang="ts">
	import type { Sample } from '$lib/samples';

	let { sample, onopen }: { sample: Sample; onopen: (sample: Sample) => void } = $props();
</script>

<li class="specimen">
	<button class="block w-full text-left" aria-label="Open {sample.name}" onclick={() => onopen(sample)}>
		<span class="picture"><img src={sample.picture} alt="" /></span>
		<span class="block px-3 pt-2 font-head font-semibold">{sample.name}</span>
		<span class="block px-3 pb-3 text-xs text-quiet">{sample.about}</span>
	</button>
</li>
