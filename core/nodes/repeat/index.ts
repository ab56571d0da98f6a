/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { bodyInput, bodyOutput } from './body-ports.ts';
import { passValues } from './pass-values.ts';
import { repeat as repeatNode } from './repeat.ts';
import { subgraph } from './subgraph.ts';

export const repeat: readonly AnyNode[] = [subgraph, repeatNode, passValues, bodyInput, bodyOutput];
