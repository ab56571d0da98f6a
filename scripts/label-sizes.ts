/** How large labels are drawn, for layouts that are made without a browser. */
import type { Graph } from '../core/engine/index.ts';
import { outputsOf } from '../core/engine/index.ts';
import type { LabelSize } from '../src/lib/editor/tidy.ts';
import { LABEL_WIDTH, inputsOnLabel, outputsOnLabel } from '../src/lib/ui/graph/label.ts';

const HEAD = 42,
	ROW = 21,
	FIELD = 28,
	FOOT = 25;

/** Labels as large as the Graph draws them, without pinned settings. */
export function sizesOf(graph: Graph): (id: string) => LabelSize {
	const sizes = new Map(
		graph.nodes.map((node): [string, LabelSize] => {
			const wired = new Set(graph.wires.filter(({ to }) => to[0] === node.id).map(({ to }) => to[1]));
			const used = new Set(graph.wires.filter(({ from }) => from[0] === node.id).map(({ from }) => from[1]));
			const outputs = outputsOnLabel(Object.entries(outputsOf(node)), used);
			const ports = new Map<string, number>();
			let y = HEAD;
			for (const [name] of inputsOnLabel(node, wired)) {
				ports.set(`in ${name}`, y + ROW / 2);
				y += ROW;
			}
			if (node.kind === 'number') y += FIELD;
			for (const [name] of outputs) {
				ports.set(`out ${name}`, y + ROW / 2);
				y += ROW;
			}
			return [node.id, { width: LABEL_WIDTH, height: y + FOOT, ports }];
		})
	);
	return (id) => sizes.get(id)!;
}
