/** A use of a subgraph: its body evaluated with what arrives at the use's inputs. */
import type { GraphNode } from '../document.ts';
import type { Scope } from '../scope.ts';
import type { Value } from '../values.ts';
import type { Body } from './body.ts';
import { arrivalsAt, insideOf, leaving } from './inner.ts';

export function* subgraphBody(scope: Scope, node: GraphNode): Body {
	const { ports, scope: scopeOf } = insideOf(scope, node);
	const inner = scopeOf({ arrivals: arrivalsAt(scope, node, ports.inputs) });
	yield { scope: inner, nodes: ports.outputs.map(({ node }) => node) };
	const outputs: Record<string, Value> = {};
	for (const { name, node: id } of ports.outputs) outputs[name] = leaving(inner, id).value;
	return outputs;
}
