/** What is said of a node that threw. */
import { NodeError, Stopped } from '../math/index.ts';
import { OutOfMemory } from '../geometry/index.ts';
import type { AnyNode } from '../nodes/index.ts';
import type { GraphNode } from './document.ts';
import { Incomplete, MissingFile, Waiting } from './inputs/index.ts';
import { failed, waiting, waitingFor } from './result.ts';
import type { NodeMessage, NodeResult } from './result.ts';
import type { Scope } from './scope.ts';

export interface Failure {
	readonly result: NodeResult;
	/** `kept` with what the node hangs from; for as long as the `document` is the same; or `tried` again each time. */
	readonly lasts: 'kept' | 'document' | 'tried';
}

/** Throws `Stopped` on, which is nobody's failure. */
export function failureOf(
	{ scope, node }: { scope: Scope; node: GraphNode },
	kind: AnyNode,
	{ key, notes }: { key: string; notes: readonly NodeMessage[] },
	error: Error
): Failure {
	if (error instanceof Stopped) throw error;
	if (error instanceof Waiting) return { result: waitingFor(node, error.node, scope.index), lasts: 'tried' };
	if (error instanceof Incomplete)
		return { result: waiting(node, error.message, error.input), lasts: 'tried' };
	const result: NodeResult = { ...failed(node, messageOf(error, kind)), key, warnings: notes };
	if (error instanceof OutOfMemory || error instanceof RangeError) return { result, lasts: 'document' };
	// A file that is missing may come: nothing else would change, and so it is tried again.
	return { result, lasts: key && !(error instanceof MissingFile) ? 'kept' : 'tried' };
}

function messageOf(error: Error, kind: AnyNode): NodeMessage {
	if (error instanceof NodeError) return { message: error.message, input: error.input, fixes: error.fixes };
	if (error instanceof RangeError)
		return { message: 'This needs more memory than the machine gives. Lower the counts.' };
	return {
		message: `${kind.name} met a fault of ours, not of yours: ${error.message}. Undo the last change, and please report it.`
	};
}
