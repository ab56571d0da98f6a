/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { camera } from './camera.ts';
import { clock } from './clock.ts';
import { dampedFollow } from './damped-follow.ts';
import { earlierValue } from './earlier-value.ts';
import { followMarker } from './follow-marker.ts';
import { latch } from './latch.ts';
import { marker } from './marker.ts';
import { motionPath } from './motion-path.ts';

export const motion: readonly AnyNode[] = [
	clock,
	marker,
	followMarker,
	camera,
	latch,
	dampedFollow,
	earlierValue,
	motionPath
];
