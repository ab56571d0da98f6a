/** A body at work: it asks for nodes of a scope, finds their results there when it goes on, and ends with the outputs. */
import type { Scope } from '../scope.ts';
import type { Value } from '../values.ts';

export interface Request {
	readonly scope: Scope;
	readonly nodes: readonly string[];
}

export type Body = Generator<Request, Record<string, Value>, void>;
