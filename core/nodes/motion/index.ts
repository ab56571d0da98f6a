/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { clock } from './clock.ts';
import { dampedFollow } from './damped-follow.ts';
import { earlierValue } from './earlier-value.ts';
import { latch } from './latch.ts';
import { motionPath } from './motion-path.ts';

export const motion: readonly AnyNode[] = [clock, latch, dampedFollow, earlierValue, motionPath];
