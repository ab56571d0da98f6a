/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { placeCopies } from './place-copies.ts';
import { varyEachCopy } from './vary-each-copy.ts';
import { chainOfCopies } from './chain-of-copies.ts';
import { copiesToMesh } from './copies-to-mesh.ts';
import { hideWhere } from './hide-where.ts';

export const copies: readonly AnyNode[] = [placeCopies, varyEachCopy, chainOfCopies, copiesToMesh, hideWhere];
