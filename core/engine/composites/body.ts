/** A body at work: it asks for nodes of a scope, finds their results there when it goes on, and ends with the outputs. */
import type { Context } from '../../nodes/index.ts';
import type { Warn } from '../inputs/index.ts';
import type { Scope } from '../scope.ts';
import type { States } from '../states.ts';
import type { Value } from '../values.ts';

export interface Request {
	readonly scope: Scope;
	readonly nodes: readonly string[];
	/** A scope asked for before, of which only the results of some nodes are still needed. */
	readonly done?: { scope: Scope; keep: readonly string[] };
}

export type Body = Generator<Request, Record<string, Value>, void>;

/** What a body may use beside its scope, made when it asks for it. */
export interface Tools {
	/** What the inputs of the node's kind came to, by name. */
	inputs(): Record<string, unknown>;
	context(): Context;
	/** The same in a scope of the same graph at another frame. */
	resolvedIn(scope: Scope): Record<string, unknown>;
	contextIn(scope: Scope, inputs: Record<string, unknown>, past?: Context['past']): Context;
	/** What nodes remember. */
	states: States;
	/** It goes on, and so much of it is done: from 0 to 1. */
	isAt(share: number): void;
	warn: Warn;
	/** So many elements fit. */
	most: number;
}
