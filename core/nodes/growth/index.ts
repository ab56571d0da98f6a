/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { bendTowards } from './bend-towards.ts';
import { branchingCopies } from './branching-copies.ts';
import { clump } from './clump.ts';
import { comb } from './comb.ts';
import { growBranches } from './grow-branches.ts';
import { growStrands } from './grow-strands.ts';
import { leaf } from './leaf.ts';
import { trimByObject } from './trim-by-object.ts';
import { wobble } from './wobble.ts';

export const growth: readonly AnyNode[] = [
	growBranches,
	leaf,
	branchingCopies,
	bendTowards,
	wobble,
	growStrands,
	comb,
	clump,
	trimByObject
];
