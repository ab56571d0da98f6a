/** What is meant where a wire that was being dragged is let go. */
import type { Graph } from '../../../core/engine/index.ts';
import { bodyNameOf, fitsInGraph, inputOf, inputsFitting, outputOf } from '../../../core/engine/index.ts';
import type { Wanted } from './search.ts';

type Port = readonly [node: string, port: string];

export type WireEnd =
	/** It cannot go there. */
	| { does: 'refuse'; reason: string }
	| { does: 'connect'; to: Port }
	/** Several inputs of a node take it: the artist says which. */
	| { does: 'choose'; node: string }
	/** On empty ground: a node is searched that takes it, or gives what it wants. */
	| { does: 'search'; wanted: Wanted };

/**
 * @param from the port that the wire was dragged from, and whether it is an output.
 * @param over the node that lies there, if any, and its port, if one does.
 * @returns null where nothing is meant.
 */
export function wireEnd(
	graph: Graph,
	from: Port,
	isOutput: boolean,
	over: string | undefined,
	port: string | null
): WireEnd | null {
	const node = (id: string) => graph.nodes.find((one) => one.id === id);
	const own = node(from[0]);
	if (!own) return null;
	if (!isOutput) {
		const input = inputOf(own, from[1]);
		return input && !over ? { does: 'search', wanted: { gives: input } } : null;
	}
	const output = outputOf(own, from[1]);
	if (!output || over === from[0]) return null;
	if (!over) return { does: 'search', wanted: { takes: output.kind } };
	if (port !== null) {
		const fit = fitsInGraph(graph, from, [over, port]);
		return fit.fits ? { does: 'connect', to: [over, port] } : { does: 'refuse', reason: fit.reason };
	}
	const target = node(over);
	if (!target) return null;
	const inputs = inputsFitting(target, output.kind);
	// A node with a body may get one more input for it.
	if (inputs.length > 1 || bodyNameOf(target) !== null) return { does: 'choose', node: over };
	if (inputs.length === 1) return { does: 'connect', to: [over, inputs[0][0]] };
	const what = output.kind === 'geometry' ? 'geometry' : 'value of this kind';
	return { does: 'refuse', reason: `${target.short} takes no ${what}.` };
}
