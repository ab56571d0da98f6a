/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { merge } from './merge.ts';
import { result } from './result.ts';

export const inAndOut: readonly AnyNode[] = [merge, result];
