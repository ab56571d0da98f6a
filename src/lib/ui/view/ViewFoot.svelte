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
		let hidden = 0;
		for (const id of editor.shown) {
			const report = editor.evaluation.viewed.get(id);
			if (!report?.counts) continue;
			hidden += report.hidden;
			for (const key of Object.keys(total) as (keyof typeof total)[]) total[key] += report.counts[key];
		}
		const words = countsInWords(total);
		// Of copies the first tells; those that are hidden are told apart.
		if (hidden) words[0] = `${(total.copies - hidden).toLocaleString('en')} of ${words[0]} shown`;
		return words.join(' · ');
	});
	/** Whether all that is shown was evaluated and came to nothing. */
	const isEmpty = $derived(
		editor.shown.length > 0 &&
			editor.shown.every((id) => {
				const report = editor.evaluation.viewed.get(id);
				return report?.state === 'fresh' && report.counts && !countsInWords(report.counts).length;
			})
	);
	/** Triangles as they are drawn and written, where copies make them more than the faces tell. */
	const triangles = $derived.by(() => {
		const { packet } = editor.evaluation;
		const copied = packet?.draws.some(
			({ matricesKey, share, ghost }) => (matricesKey !== null || share) && !ghost
		);
		return copied && packet!.triangles ? `${packet!.triangles.toLocaleString('en')} triangles` : '';
	});
	const size = $derived.by(() => {
		const { bounds } = editor.evaluation;
		if (isEmpty) return 'nothing to see: what is shown is empty';
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
	><span class="shrink-0" class:hidden={!triangles || isEmpty} data-testid="triangles">{triangles}</span
	>{#if editor.evaluation.isBehind && !editor.evaluation.working}<span
			class="shrink-0 text-ochre"
			data-testid="behind">as it was before the stop</span
		>{/if}{#if editor.evaluation.isDraft}<span class="shrink-0" data-testid="draft">draft while dragging</span
		>{/if}{#if oneIn > 1}<span class="shrink-0" data-testid="share"
			>one in {WORDS[oneIn] ?? oneIn} while moving</span
		>{/if}{#if cellText && !editor.evaluation.isDraft}<span class="shrink-0 text-quiet">grid {cellText}</span
		>{/if}
</footer>
