<script lang="ts">
	import { selectAll } from '$lib/ui/fields/select-all';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { withoutPoint } from '$core/kernels/path';
	import type { PathPoint } from '$core/nodes/index';

	interface Props {
		path: readonly PathPoint[];
		bezier: boolean;
		onchange: (path: PathPoint[]) => void;
	}
	let { path, bezier, onchange }: Props = $props();
	const parts = $derived<('at' | 'in' | 'out')[]>(bezier ? ['at', 'in', 'out'] : ['at']);
	const name = { at: '', in: 'in ', out: 'out ' };
	function set(i: number, part: 'at' | 'in' | 'out', k: number, text: string) {
		const n = Number(text);
		if (!Number.isFinite(n)) return;
		onchange(
			path.map((point, j) => {
				if (j !== i) return point;
				const old = [...(point[part] ?? [0, 0, 0])] as [number, number, number];
				old[k] = n;
				return { ...point, [part]: old };
			})
		);
	}
	/** Rows at hand: thousands of fields at once would hold up the page. */
	const STEP = 100;
	let rows = $state(STEP);
	function add() {
		const last = path.at(-1)?.at ?? [-1, 0, 0];
		onchange([...path, { at: [last[0] + 1, last[1], last[2]] }]);
		if (path.length <= rows) rows = Math.max(rows, path.length + 1);
	}
</script>

<div class="max-h-64 overflow-y-auto">
	{#each path.slice(0, rows) as point, i (i)}
		{#each parts as part (part)}
			<div class="flex items-center gap-0.5">
				<span class="w-7 shrink-0 text-right text-[10px] text-quiet"
					>{part === 'at' ? i + 1 : name[part]}</span
				>
				{#each ['x', 'y', 'z'] as axis, k (axis)}
					<input
						{@attach selectAll}
						class="field min-w-0 flex-1 px-1 py-0 text-right font-mono text-[11px]"
						aria-label="Point {i + 1} {name[part]}{axis}, metres"
						inputmode="decimal"
						value={Math.round((point[part]?.[k] ?? 0) * 1000) / 1000}
						onchange={(event) => set(i, part, k, event.currentTarget.value)}
					/>
				{/each}
				{#if part === 'at'}<button
						class="icon-button h-5 w-5"
						aria-label="Delete point {i + 1}"
						onclick={() => onchange(withoutPoint(path, i))}><Trash2 size={12} /></button
					>{:else}<span class="w-5"></span>{/if}
			</div>
		{/each}
		{#if point.ends && i < path.length - 1}<p class="my-0.5 ml-7 border-t border-line text-[10px] text-quiet">
				the next curve
			</p>{/if}
	{:else}<p class="text-xs text-quiet">No points yet: press Draw in the View, or add one here.</p>{/each}
	{#if path.length > rows}<button class="button my-1 w-full text-xs" onclick={() => (rows += STEP)}
			>{(path.length - rows).toLocaleString('en')} more points: show {Math.min(
				STEP,
				path.length - rows
			)}</button
		>{/if}
</div>
<button class="button mt-1 text-xs" onclick={add}><Plus size={13} /> Add a point</button>
