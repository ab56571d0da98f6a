/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { clock } from './clock.ts';

export const motion: readonly AnyNode[] = [clock];
