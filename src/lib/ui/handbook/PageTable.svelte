<script lang="ts">
	import type { PageRow } from '$core/handbook/index';

	let { title, rows }: { title: string; rows: readonly PageRow[] } = $props();
</script>

{#if rows.length}
	<section class="mt-6">
		<h2 class="mb-1.5 text-base">{title}</h2>
		<table class="w-full border-collapse text-[13px]">
			<tbody>
				{#each rows as { name, label, holds, help, range, varies } (name)}
					<tr class="border-t border-line align-top">
						<th class="w-40 py-1.5 pr-3 text-left font-semibold" scope="row">{label}</th>
						<td class="py-1.5 pr-4">{help}</td>
						<td class="w-64 py-1.5 text-quiet"
							>{holds}{#if range}<br /><span class="font-mono text-[11.5px]">{range}</span
								>{/if}{#if varies}<br />may differ by {varies}{/if}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</section>
{/if}
