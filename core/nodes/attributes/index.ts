/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { writeAttribute } from './write-attribute.ts';

export const attributes: readonly AnyNode[] = [writeAttribute];
