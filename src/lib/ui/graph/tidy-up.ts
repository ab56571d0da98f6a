/** Labels on their way to tidier places. */
import type { Node } from '@xyflow/svelte';
import type { LabelSize } from '$lib/editor/tidy';
import { LABEL_WIDTH } from './label';

/** Milliseconds in which labels go to their places. */
const WANDERS = 320;
const USUAL_HEIGHT = 120;

/** How large a label is on the graph's ground, and where its ports stand. */
export function sizeOfLabel(pane: HTMLElement, id: string): LabelSize {
	const label = pane.querySelector<HTMLElement>(`[data-node-id="${CSS.escape(id)}"]`);
	const ports = new Map<string, number>();
	for (const port of label?.querySelectorAll<HTMLElement>('.svelte-flow__handle') ?? []) {
		const row = port.parentElement!;
		const side = port.classList.contains('source') ? 'out' : 'in';
		ports.set(`${side} ${port.dataset.handleid}`, row.offsetTop + row.offsetHeight / 2);
	}
	return { width: LABEL_WIDTH, height: label?.offsetHeight ?? USUAL_HEIGHT, ports };
}

/** Moves labels to their places bit by bit; at once for those who want less motion. `put` shows them; it stops when `gone`. */
export function wander(
	from: readonly Node[],
	places: ReadonlyMap<string, readonly [number, number]>,
	put: (nodes: Node[]) => void,
	gone: () => boolean
): Promise<void> {
	if (matchMedia('(prefers-reduced-motion: reduce)').matches) return Promise.resolve();
	const began = performance.now();
	return new Promise((done) => {
		const step = () => {
			const t = Math.min(1, (performance.now() - began) / WANDERS);
			const share = t * t * (3 - 2 * t);
			put(
				from.map((node) => {
					const to = places.get(node.id);
					if (!to) return node;
					const { x, y } = node.position;
					return { ...node, position: { x: x + (to[0] - x) * share, y: y + (to[1] - y) * share } };
				})
			);
			if (t < 1 && !gone()) requestAnimationFrame(step);
			else done();
		};
		step();
	});
}
