<script lang="ts">
	import { countsInWords } from '$core/session/counts';
	import type { Editor } from '$lib/editor/editor.svelte';

	interface Props {
		editor: Editor;
		/** The side of a grid cell in metres; null where no grid is shown. */
		cell: number | null;
		/** Of how many copies one is drawn. */
		oneIn: number;
	}
	let { editor, cell, oneIn }: Props = $props();

	const WORDS: Record<number, string> = { 2: 'two', 4: 'four', 8: 'eight', 16: 'sixteen' };

	const counts = $derived.by(() => {
		const total = { copies: 0, faces: 0, curves: 0, points: 0 };
		for (const id of editor.shown) {
			const found = editor.evaluation.viewed.get(id)?.counts;
			if (found) for (const key of Object.keys(total) as (keyof typeof total)[]) total[key] += found[key];
		}
		return countsInWords(total).join(' · ');
	});
	const size = $derived.by(() => {
		const { bounds } = editor.evaluation;
		if (!bounds) return '';
		return `${[0, 1, 2].map((k) => (bounds.high[k] - bounds.low[k]).toFixed(2)).join(' × ')} m`;
	});
	const cellText = $derived(cell === null ? '' : cell >= 1 ? `${cell} m` : `${Math.round(cell * 100)} cm`);
</script>

<footer
	class="pointer-events-none absolute bottom-1.5 left-2 flex max-w-[calc(100%-1rem)] flex-wrap gap-x-3 rounded bg-sheet/85 px-2 py-0.5 font-mono text-[11px] whitespace-nowrap text-ink"
>
	<span data-testid="counts" class:hidden={!counts}>{counts}</span><span
		class="shrink-0"
		class:hidden={!size}
		data-testid="size">{size}</span
	>{#if editor.evaluation.isBehind && !editor.evaluation.working}<span
			class="shrink-0 text-ochre"
			data-testid="behind">as it was before the stop</span
		>{/if}{#if editor.evaluation.isDraft}<span class="shrink-0" data-testid="draft">draft while dragging</span
		>{/if}{#if oneIn > 1}<span class="shrink-0" data-testid="share"
			>one in {WORDS[oneIn] ?? oneIn} while moving</span
		>{/if}{#if cellText && !editor.evaluation.isDraft}<span class="shrink-0 text-quiet">grid {cellText}</span
		>{/if}
</footer>
