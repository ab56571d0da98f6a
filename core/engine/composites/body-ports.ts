/** The inputs and outputs of a body, at work inside it. */
import type { GraphNode } from '../document.ts';
import { portOf, startOf } from '../bodies.ts';
import { Incomplete } from '../inputs/index.ts';
import type { Scope } from '../scope.ts';
import type { Body } from './body.ts';

/** An input of a body: what arrived at the use, or what stands there where nothing did. */
// eslint-disable-next-line require-yield -- it asks for nothing.
export function* inputBody(scope: Scope, node: GraphNode): Body {
	const { name } = portOf(node);
	const value = scope.arrivals.get(name)?.value ?? startOf(node);
	if (value) return { value };
	const wire = scope.index.wiresInto(node.id, 'otherwise').at(-1);
	if (wire) return { value: scope.output(wire.from[0], wire.from[1]) };
	throw new Incomplete(
		`Nothing arrives at “${name}” of this subgraph. Connect something to it where it is used.`,
		''
	);
}

/** An output of a body: what is wired to it. */
// eslint-disable-next-line require-yield -- it asks for nothing.
export function* outputBody(scope: Scope, node: GraphNode): Body {
	const wire = scope.index.wiresInto(node.id, 'value').at(-1);
	if (!wire) throw new Incomplete(`Connect what leaves the subgraph to “${portOf(node).name}”.`, 'value');
	return { value: scope.output(wire.from[0], wire.from[1]) };
}

/** Whether a node is an input of a body at which something arrives. */
export const isFed = (scope: Scope, node: GraphNode): boolean =>
	node.kind === 'input' && scope.arrivals.has(portOf(node).name);

export const keyOfInput = (scope: Scope, node: GraphNode): string =>
	scope.arrivals.get(portOf(node).name)?.key ?? 'nothing';
