/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { writeAttribute } from './write-attribute.ts';
import { readAttribute } from './read-attribute.ts';
import { renameAttribute } from './rename-attribute.ts';
import { removeAttribute } from './remove-attribute.ts';
import { moveAttribute } from './move-attribute.ts';
import { takeFromNearest } from './take-from-nearest.ts';
import { smoothAttribute } from './smooth-attribute.ts';
import { runningTotal } from './running-total.ts';
import { holdValue } from './hold-value.ts';

export const attributes: readonly AnyNode[] = [
	writeAttribute,
	readAttribute,
	renameAttribute,
	removeAttribute,
	moveAttribute,
	takeFromNearest,
	smoothAttribute,
	runningTotal,
	holdValue
];
