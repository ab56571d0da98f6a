/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { subgraph } from './subgraph.ts';
import { bodyInput, bodyOutput } from './body-ports.ts';

export const repeat: readonly AnyNode[] = [subgraph, bodyInput, bodyOutput];
