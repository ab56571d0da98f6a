/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { weightNearObject } from './weight-near-object.ts';
import { weightInZone } from './weight-in-zone.ts';
import { weightAlongCurve } from './weight-along-curve.ts';
import { weightBySlope } from './weight-by-slope.ts';
import { weightByHeight } from './weight-by-height.ts';
import { weightByNoise } from './weight-by-noise.ts';
import { weightByPattern } from './weight-by-pattern.ts';
import { weightByOrder } from './weight-by-order.ts';
import { weightInTurn } from './weight-in-turn.ts';
import { weightAtRandom } from './weight-at-random.ts';
import { weightByOpenness } from './weight-by-openness.ts';
import { combineWeights } from './combine-weights.ts';
import { shapeWeight } from './shape-weight.ts';

export const weights: readonly AnyNode[] = [
	weightNearObject,
	weightInZone,
	weightAlongCurve,
	weightBySlope,
	weightByHeight,
	weightByNoise,
	weightByPattern,
	weightByOrder,
	weightInTurn,
	weightAtRandom,
	weightByOpenness,
	combineWeights,
	shapeWeight
];
