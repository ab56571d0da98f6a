/** Which settings draw from which random stream. */
import { inputOf } from './connect.ts';
import type { Graph, Setting } from './document.ts';
import { isFormula, isRange, newStream } from './document.ts';
import { withValue } from './edits.ts';

/** A place where random numbers are drawn: a setting, or a part of one. */
export interface StreamReader {
	node: string;
	setting: string;
	part: 0 | 1 | 2 | null;
	label: string;
}

const PARTS = ['x', 'y', 'z'];

/** All settings whose random ranges, or formulas, draw from a stream. */
export function readersOfStream(graph: Graph, stream: string): StreamReader[] {
	return graph.nodes.flatMap((node) =>
		Object.entries(node.settings).flatMap(([setting, value]) => {
			const label = inputOf(node, setting)?.label ?? setting;
			return partsOf(value)
				.filter(({ one }) => drawsFrom(one, stream))
				.map(({ part }): StreamReader => ({
					node: node.id,
					setting,
					part,
					label: part === null ? label : `${label} ${PARTS[part]}`
				}));
		})
	);
}

const partsOf = (value: Setting): { one: unknown; part: StreamReader['part'] }[] =>
	Array.isArray(value)
		? value.map((one, part) => ({ one, part: part as 0 | 1 | 2 }))
		: [{ one: value, part: null }];

const drawsFrom = (value: unknown, stream: string): boolean =>
	(isRange(value) && value.stream === stream) || (isFormula(value) && value.streams.includes(stream));

/** A random range with a stream of its own again. */
export function withOwnStream(graph: Graph, { node, setting, part }: StreamReader): Graph {
	const value = graph.nodes.find(({ id }) => id === node)?.settings[setting];
	if (value === undefined) return graph;
	const own = <One>(one: One): One => (isRange(one) ? { ...one, stream: newStream() } : one);
	const next = Array.isArray(value) ? value.map((one, k) => (k === part ? own(one) : one)) : own(value);
	return withValue(graph, node, setting, next as Setting);
}
