<script lang="ts">
	import { ViewportPortal } from '@xyflow/svelte';
	import type { Reference } from '$core/engine/index';
	import { inputOf, nameOfEnd, outputOf, referencesOf } from '$core/engine/index';
	import type { Editor } from '$lib/editor/editor.svelte';
	import type { Box } from './route';

	interface Props {
		editor: Editor;
		/** Where the labels are. */
		boxes: readonly Box[];
	}
	let { editor, boxes }: Props = $props();

	const byId = $derived(new Map(boxes.map((box) => [box.id, box])));
	/** References between the same two nodes share a line. */
	const lines = $derived(
		[...grouped(referencesOf(editor.graph))].flatMap(([key, all]) => {
			const a = byId.get(all[0].from[0]),
				b = byId.get(all[0].to[0]);
			return a && b ? [{ key, ...lineBetween(a, b), says: all.map(wordsOf) }] : [];
		})
	);

	function grouped(references: readonly Reference[]): Map<string, Reference[]> {
		const groups = new Map<string, Reference[]>();
		for (const one of references) {
			const key = `${one.from[0]} ${one.to[0]}`;
			groups.set(key, [...(groups.get(key) ?? []), one]);
		}
		return groups;
	}
	function wordsOf({ from, to }: Reference): string {
		const label = ([id, name]: readonly [string, string]) => {
			const node = editor.node(id);
			return (node && (inputOf(node, name)?.label ?? outputOf(node, name)?.label)) ?? name;
		};
		return `${label(to)} follows ${label(from)}`;
	}

	/** Ties between two nodes of the graph share a line, which has no head: either end drives. */
	const ties = $derived.by(() => {
		const groups = new Map<string, { a: string; b: string; says: string[] }>();
		for (const { a, b } of editor.document.ties) {
			if (!('node' in a) || !('node' in b)) continue;
			if (a.graph !== editor.graphId || b.graph !== editor.graphId || a.node === b.node) continue;
			const [first, second] = [a.node, b.node].sort();
			const key = `${first} ${second}`;
			const group = groups.get(key) ?? { a: first, b: second, says: [] };
			groups.set(key, group);
			group.says.push(`${nameOfEnd(editor.document, a)} ↔ ${nameOfEnd(editor.document, b)}`);
		}
		return [...groups].flatMap(([key, { a, b, says }]) => {
			const [from, to] = [byId.get(a), byId.get(b)];
			return from && to ? [{ key, ...lineBetween(from, to, 16), says }] : [];
		});
	});

	/** From the top of one label to the top of the other in an arch, so that it is not taken for a wire. */
	function lineBetween(a: Box, b: Box, higher = 0) {
		const [x1, x2] = [a.x + a.width / 2, b.x + b.width / 2];
		const rise = 26 + higher + Math.abs(x2 - x1) * 0.12;
		const top = Math.min(a.y, b.y) - rise;
		return {
			path: `M${x1},${a.y} C${x1},${top} ${x2},${top} ${x2},${b.y - 3}`,
			x: (x1 + x2) / 2,
			y: (a.y + b.y) / 8 + top * 0.75
		};
	}
</script>

<ViewportPortal target="front">
	<svg class="pointer-events-none absolute overflow-visible" width="1" height="1" aria-hidden="true">
		<defs>
			<marker id="follows" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto">
				<path d="M0,0.5 L7,4 L0,7.5" fill="none" stroke="var(--teal)" stroke-width="1.3" />
			</marker>
		</defs>
		{#each lines as { key, path } (key)}
			<path
				d={path}
				fill="none"
				stroke="var(--teal)"
				stroke-width="1.3"
				stroke-dasharray="2 4"
				stroke-linecap="round"
				marker-end="url(#follows)"
			/>
		{/each}
		{#each ties as { key, path } (key)}
			<path d={path} fill="none" stroke="var(--ochre)" stroke-width="1.6" stroke-dasharray="6 3" />
		{/each}
	</svg>
	<ul aria-label="Ties" class="contents">
		{#each ties as { key, x, y, says } (key)}
			<li
				class="pointer-events-none absolute w-max max-w-56 -translate-x-1/2 -translate-y-1/2 rounded-sm bg-ground/90 px-1 text-center text-[10.5px] leading-tight text-ink"
				style="left: {x}px; top: {y}px"
			>
				{#each says as sentence, i (i)}<span class="block">{sentence}</span>{/each}
			</li>
		{/each}
	</ul>
	<ul aria-label="References" class="contents">
		{#each lines as { key, x, y, says } (key)}
			<li
				class="pointer-events-none absolute w-max max-w-56 -translate-x-1/2 -translate-y-1/2 rounded-sm bg-ground/90 px-1 text-center text-[10.5px] leading-tight text-teal"
				style="left: {x}px; top: {y}px"
			>
				{#each says as sentence, i (i)}<span class="block">{sentence}</span>{/each}
			</li>
		{/each}
	</ul>
</ViewportPortal>
