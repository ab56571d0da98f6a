/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { branchingCopies } from './branching-copies.ts';

export const growth: readonly AnyNode[] = [branchingCopies];
