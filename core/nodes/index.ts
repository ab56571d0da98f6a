/** All kinds of node. */
import type { AnyNode } from './define.ts';
import { box } from './box.ts';
import { chainOfCopies } from './chain-of-copies.ts';
import { circle } from './circle.ts';
import { copiesToMesh } from './copies-to-mesh.ts';
import { countUp } from './count-up.ts';
import { cylinder } from './cylinder.ts';
import { disc } from './disc.ts';
import { displace } from './displace.ts';
import { evenSteps } from './even-steps.ts';
import { formulaNode } from './formula-node.ts';
import { grid } from './grid.ts';
import { gridOfPoints } from './grid-of-points.ts';
import { importMesh } from './import-mesh.ts';
import { line } from './line.ts';
import { measure } from './measure.ts';
import { merge } from './merge.ts';
import { noiseValue } from './noise-value.ts';
import { numberNode } from './number.ts';
import { placeCopies } from './place-copies.ts';
import { pointsAlongCurve } from './points-along-curve.ts';
import { pointsFromMesh } from './points-from-mesh.ts';
import { pointsFromValues } from './points-from-values.ts';
import { randomValue } from './random-value.ts';
import { resampleCurve } from './resample-curve.ts';
import { result } from './result.ts';
import { ringOfPoints } from './ring-of-points.ts';
import { rowOfPoints } from './row-of-points.ts';
import { setAttribute } from './set-attribute.ts';
import { setMaterial } from './set-material.ts';
import { sowPoints } from './sow-points.ts';
import { sphere } from './sphere.ts';
import { torus } from './torus.ts';
import { transform } from './transform.ts';
import { tube } from './tube.ts';
import { yesOrNo } from './yes-or-no.ts';

/** Kinds of node by id. */
export const nodeKinds: ReadonlyMap<string, AnyNode> = new Map(
	[
		numberNode,
		yesOrNo,
		countUp,
		evenSteps,
		formulaNode,
		randomValue,
		noiseValue,
		line,
		circle,
		resampleCurve,
		tube,
		grid,
		box,
		cylinder,
		sphere,
		disc,
		torus,
		importMesh,
		setMaterial,
		measure,
		pointsFromValues,
		pointsAlongCurve,
		pointsFromMesh,
		rowOfPoints,
		gridOfPoints,
		ringOfPoints,
		sowPoints,
		placeCopies,
		chainOfCopies,
		copiesToMesh,
		transform,
		displace,
		setAttribute,
		merge,
		result
	].map((kind): [string, AnyNode] => [kind.id, kind as AnyNode])
);

export * from './define.ts';
