/** How the bodies of composite nodes are evaluated, by the kind of node. */
import { Hasher } from '../../math/index.ts';
import { bodyFacts, bodyNameOf } from '../bodies.ts';
import type { GraphNode } from '../document.ts';
import { isRange } from '../document.ts';
import type { Scope } from '../scope.ts';
import type { Body, Tools } from './body.ts';
import { inputBody, keyOfInput, outputBody } from './body-ports.ts';
import { foldBody, keyOfFold, lookBackBody } from './fold.ts';
import { keyOfPasses, passBody } from './pass.ts';
import { nodeKinds } from '../../nodes/index.ts';
import { repeatBody } from './repeat.ts';
import { framesOf } from '../time.ts';
import { subgraphBody } from './subgraph.ts';
import { varyBody } from './vary-each-copy.ts';

export type { Body, Request, Tools } from './body.ts';
export { isFed } from './body-ports.ts';

/** What of the body belongs to a node's key: all that stands in it, and, where something inside asks for it, which use this is. */
function keyOfUse(scope: Scope, node: GraphNode): string {
	const { digest, draws, readsPass, readsTime, dials } = bodyFacts(scope.document, bodyNameOf(node) ?? '');
	const hasher = new Hasher().text(digest).number(scope.seed);
	const heard = scope.document.dials.filter(({ key }) => dials.includes(key));
	// All uses that draw the same are one.
	const isSame = node.kind === 'subgraph' && node.settings.same === true;
	if (draws || heard.some(({ value }) => isRange(value)))
		hasher.text(scope.path).text(isSame ? '' : node.stream);
	for (const { key, value } of heard) hasher.text(key).text(JSON.stringify(value));
	if (readsPass) hasher.text(keyOfPasses(scope));
	if (readsTime) hasher.number(scope.frame).text(JSON.stringify(framesOf(scope.raw)));
	return hasher.key();
}

interface Composite {
	body: (scope: Scope, node: GraphNode, tools: Tools) => Body;
	key: (scope: Scope, node: GraphNode) => string;
}

/** Nodes that remember, and those that look at earlier frames. */
const FOLD: Composite = { body: foldBody, key: keyOfFold };
const LOOK_BACK: Composite = { body: lookBackBody, key: keyOfFold };

const COMPOSITES: ReadonlyMap<string, Composite> = new Map([
	['subgraph', { body: subgraphBody, key: keyOfUse }],
	['repeat', { body: repeatBody, key: keyOfUse }],
	['vary-each-copy', { body: varyBody, key: keyOfUse }],
	['input', { body: inputBody, key: keyOfInput }],
	['output', { body: outputBody, key: () => '' }],
	['pass-values', { body: passBody, key: keyOfPasses }]
]);

const compositeOf = ({ kind }: GraphNode): Composite =>
	COMPOSITES.get(kind) ?? (nodeKinds.get(kind)!.fold ? FOLD : LOOK_BACK);

export const bodyOf = (scope: Scope, node: GraphNode, tools: Tools): Body =>
	compositeOf(node).body(scope, node, tools);
/** What of the body belongs to the node's key. */
export const keyOfBody = (scope: Scope, node: GraphNode): string => compositeOf(node).key(scope, node);
