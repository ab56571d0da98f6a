/** Which pass this is, as values. */
import { NodeError } from '../../math/index.ts';
import { progressOf } from '../../kernels/grown-elements.ts';
import { constant } from '../../varying/index.ts';
import type { GraphNode } from '../document.ts';
import type { Scope } from '../scope.ts';
import type { Body, Tools } from './body.ts';

// eslint-disable-next-line require-yield -- it asks for nothing.
export function* passBody(scope: Scope, _node: GraphNode, { inputs }: Tools): Body {
	const { outer } = inputs() as { outer: number };
	const found = scope.passFurtherOut(outer);
	if (!found)
		throw new NodeError(
			outer > 0
				? 'There is no repeat so many further out. Lower “Further out”.'
				: 'It stands in no repeat. Put it into the body of one.',
			{ input: 'outer' }
		);
	const { pass, passes } = found;
	return { pass: constant(pass), passes: constant(passes), progress: constant(progressOf(pass, passes - 1)) };
}

/** All passes on the way down to a scope. */
export function keyOfPasses(scope: Scope): string {
	const told: string[] = [];
	for (let at = scope.passScope; at; at = at.outer?.passScope ?? null)
		told.push(`${at.pass!.pass}/${at.pass!.passes}`);
	return told.join();
}
