<script lang="ts">
	import Tick from '$lib/ui/fields/Tick.svelte';
	import ArrowLeft from '@lucide/svelte/icons/arrow-left';
	import ArrowRight from '@lucide/svelte/icons/arrow-right';
	import Lock from '@lucide/svelte/icons/lock';
	import { chainTo, whyNotTo, withLinkAt } from '$core/engine/index';
	import { nodeKinds } from '$core/nodes/index';
	import { toast } from 'svelte-sonner';
	import type { Editor } from '$lib/editor/editor.svelte';

	let { editor }: { editor: Editor } = $props();
	const chain = $derived(editor.shown[0] ? chainTo(editor.graph, editor.shown[0]) : []);
	let dragged = $state<number | null>(null);
	let over = $state<number | null>(null);

	function move(from: number, to: number) {
		if (from === to || to < 0 || to >= chain.length) return;
		const reason = whyNotTo(editor.graph, chain, from, to);
		if (reason) return void toast.error(reason);
		editor.changeGraph('Change the order', (graph) => withLinkAt(graph, chain, from, to));
	}
	const weightOf = (id: string) => {
		const wire = editor.graph.wires.find((one) => one.to[0] === id && one.to[1] === 'weight');
		return wire ? editor.node(wire.from[0])?.short : null;
	};
</script>

<div class="flex min-h-0 flex-1 items-start gap-1 overflow-auto p-3">
	{#if !chain.length}<p class="text-sm text-quiet">
			Show a node in the View to see the chain that leads to it.
		</p>{/if}
	<ol class="flex flex-wrap gap-2" aria-label="Chain that leads to {chain.at(-1)?.node.short ?? 'nothing'}">
		{#each chain as { node, fixed }, i (node.id)}
			{@const reason =
				over === i && dragged !== null && dragged !== i ? whyNotTo(editor.graph, chain, dragged, i) : null}
			<li
				class="w-44 rounded border bg-sheet px-2 py-1.5 text-xs {over === i && dragged !== null
					? reason
						? 'border-plum'
						: 'border-teal'
					: 'border-line'} {node.bypassed ? 'opacity-60' : ''}"
				draggable={!fixed}
				data-link={node.short}
				ondragstart={() => (dragged = i)}
				ondragend={() => (dragged = over = null)}
				ondragover={(event) => {
					event.preventDefault();
					over = i;
				}}
				ondrop={(event) => {
					event.preventDefault();
					if (dragged !== null) move(dragged, i);
					dragged = over = null;
				}}
			>
				<div class="flex items-center gap-1">
					<span class="font-mono text-[10px] text-quiet">{i + 1}</span>
					<button
						class="min-w-0 flex-1 truncate text-left font-semibold"
						onclick={() => editor.select([node.id])}>{node.short}</button
					>
					{#if fixed}<span role="img" title={fixed} aria-label={fixed}><Lock size={12} /></span>
					{:else}
						<button
							class="icon-button h-5 w-5"
							aria-label="Move {node.short} earlier"
							onclick={() => move(i, i - 1)}><ArrowLeft size={12} /></button
						>
						<button
							class="icon-button h-5 w-5"
							aria-label="Move {node.short} later"
							onclick={() => move(i, i + 1)}><ArrowRight size={12} /></button
						>
					{/if}
				</div>
				<p class="truncate text-quiet">{nodeKinds.get(node.kind)?.name}</p>
				{#if weightOf(node.id)}<p class="truncate">
						by <span class="font-mono">{weightOf(node.id)}</span>
					</p>{/if}
				{#if reason}<p class="text-plum">{reason}</p>{/if}
				{#if i < chain.length - 1 && i > 0}
					<label class="mt-0.5 flex items-center gap-1"
						><Tick
							label="Bypass {node.short}"
							checked={!!node.bypassed}
							onchange={(bypassed) => editor.update(node.id, 'Bypass', { bypassed: bypassed || undefined })}
						/> bypassed</label
					>
				{/if}
			</li>
		{/each}
	</ol>
</div>
