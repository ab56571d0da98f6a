/** Which pass this is, as values. */
import { NodeError } from '../../math/index.ts';
import { constant } from '../../varying/index.ts';
import type { GraphNode } from '../document.ts';
import type { Pass, Scope } from '../scope.ts';
import type { Body } from './body.ts';

/** The pass of the repeat in whose body the node stands, or of one further out. */
function passOf(scope: Scope, node: GraphNode): Pass | null {
	return scope.passFurtherOut(Math.max(0, Math.round(Number(node.settings.outer ?? 0)) || 0));
}

// eslint-disable-next-line require-yield -- it asks for nothing.
export function* passBody(scope: Scope, node: GraphNode): Body {
	const found = passOf(scope, node);
	if (!found)
		throw new NodeError(
			Number(node.settings.outer) > 0
				? 'There is no repeat so many further out. Lower “Further out”.'
				: 'It stands in no repeat. Put it into the body of one.',
			{ input: 'outer' }
		);
	const { pass, passes } = found;
	return { pass: constant(pass), passes: constant(passes), progress: constant((pass + 1) / passes) };
}

export function keyOfPass(scope: Scope, node: GraphNode): string {
	const found = passOf(scope, node);
	return found ? `${found.pass}/${found.passes}` : '';
}
