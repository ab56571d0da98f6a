/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { pointsFromValues } from './points-from-values.ts';
import { pointsAlongCurve } from './points-along-curve.ts';
import { pointsFromMesh } from './points-from-mesh.ts';
import { rowOfPoints } from './row-of-points.ts';
import { gridOfPoints } from './grid-of-points.ts';
import { ringOfPoints } from './ring-of-points.ts';
import { whorlOfPoints } from './whorl-of-points.ts';
import { sowPoints } from './sow-points.ts';

export const points: readonly AnyNode[] = [
	pointsFromValues,
	pointsAlongCurve,
	pointsFromMesh,
	rowOfPoints,
	gridOfPoints,
	ringOfPoints,
	whorlOfPoints,
	sowPoints
];
