/** A use of a subgraph: its body evaluated with what arrives at the use's inputs. */
import type { GraphNode } from '../document.ts';
import type { Scope } from '../scope.ts';
import type { Value } from '../values.ts';
import type { Body, Tools } from './body.ts';
import { FailedInside, arrivalsAt, insideOf, leaving } from './inner.ts';

/** Gives what comes out; an output at which nothing does leaves the others standing. */
export function* subgraphBody(scope: Scope, node: GraphNode, { inputs, warn }: Tools): Body {
	const { ports, scope: scopeOf } = insideOf(scope, node, inputs() as { same: boolean });
	const inner = scopeOf({ arrivals: arrivalsAt(scope, node, ports.inputs) });
	yield { scope: inner, nodes: ports.outputs.map(({ node }) => node) };
	const outputs: Record<string, Value> = {};
	let first: FailedInside | null = null;
	for (const { name, node: id } of ports.outputs) {
		try {
			outputs[name] = leaving(inner, id).value;
		} catch (error) {
			if (!(error instanceof FailedInside)) throw error;
			first ??= error;
			if (!error.waits) warn(error.message);
		}
	}
	if (first && !Object.keys(outputs).length) throw first;
	return outputs;
}
