/** How the bodies of composite nodes are evaluated, by the kind of node. */
import type { GraphNode } from '../document.ts';
import type { Scope } from '../scope.ts';
import type { Body } from './body.ts';
import { inputBody, keyOfInput, keyOfSubgraph, outputBody, subgraphBody } from './subgraph.ts';

export type { Body, Request } from './body.ts';

const COMPOSITES: ReadonlyMap<
	string,
	{ body: (scope: Scope, node: GraphNode) => Body; key: (scope: Scope, node: GraphNode) => string }
> = new Map([
	['subgraph', { body: subgraphBody, key: keyOfSubgraph }],
	['input', { body: inputBody, key: keyOfInput }],
	['output', { body: outputBody, key: () => '' }]
]);

export const bodyOf = (scope: Scope, node: GraphNode): Body => COMPOSITES.get(node.kind)!.body(scope, node);

/** What of the body belongs to the node's key. */
export const keyOfBody = (scope: Scope, node: GraphNode): string =>
	COMPOSITES.get(node.kind)!.key(scope, node);
