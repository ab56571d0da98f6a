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
import { randomNumber } from './random-number.ts';
import { resampleCurve } from './resample-curve.ts';
import { result } from './result.ts';
import { ringOfPoints } from './ring-of-points.ts';
import { rowOfPoints } from './row-of-points.ts';
import { writeAttribute } from './write-attribute.ts';
import { materialNode } from './material.ts';
import { sowPoints } from './sow-points.ts';
import { sphere } from './sphere.ts';
import { torus } from './torus.ts';
import { transform } from './transform.ts';
import { tube } from './tube.ts';
import { rampNode } from './ramp.ts';
import { colourRamp } from './colour-ramp.ts';
import { weightAlongCurve } from './weight-along-curve.ts';
import { weightNearObject } from './weight-near-object.ts';
import { weightInZone } from './weight-in-zone.ts';
import { weightBySlope } from './weight-by-slope.ts';
import { weightByHeight } from './weight-by-height.ts';
import { weightByNoise } from './weight-by-noise.ts';
import { weightByPattern } from './weight-by-pattern.ts';
import { weightByOrder } from './weight-by-order.ts';
import { weightAtRandom } from './weight-at-random.ts';
import { weightByOpenness } from './weight-by-openness.ts';
import { combineWeights } from './combine-weights.ts';
import { shapeWeight } from './shape-weight.ts';
import { drawCurve } from './draw-curve.ts';
import { arc } from './arc.ts';
import { rectangle } from './rectangle.ts';
import { polygon } from './polygon.ts';
import { star } from './star.ts';
import { spiral } from './spiral.ts';
import { helix } from './helix.ts';
import { reverseCurve } from './reverse-curve.ts';
import { displaceByNoise } from './displace-by-noise.ts';
import { bend } from './bend.ts';
import { twist } from './twist.ts';
import { taper } from './taper.ts';
import { relax } from './relax.ts';
import { morph } from './morph.ts';
import { sweep } from './sweep.ts';
import { extrude } from './extrude.ts';
import { revolve } from './revolve.ts';
import { fillOutline } from './fill-outline.ts';
import { deleteWhere } from './delete-where.ts';
import { hideWhere } from './hide-where.ts';
import { cutAtValue } from './cut-at-value.ts';
import { layAlongCurve } from './lay-along-curve.ts';
import { textOutline } from './text-outline.ts';
import { importSvg } from './import-svg.ts';
import { partOfCurve } from './part-of-curve.ts';
import { joinCurves } from './join-curves.ts';
import { roundCorners } from './round-corners.ts';
import { projectOnSurface } from './project-on-surface.ts';
import { edgesToCurves } from './edges-to-curves.ts';
import { ribbon } from './ribbon.ts';
import { offsetCurve } from './offset-curve.ts';
import { combineOutlines } from './combine-outlines.ts';
import { loft } from './loft.ts';
import { subdivide } from './subdivide.ts';
import { bendLattice } from './bend-lattice.ts';
import { yesOrNo } from './yes-or-no.ts';
import { bodyInput, bodyOutput } from './body-ports.ts';
import { subgraph } from './subgraph.ts';

/** Kinds of node by id. */
export const nodeKinds: ReadonlyMap<string, AnyNode> = new Map(
	[
		numberNode,
		yesOrNo,
		countUp,
		evenSteps,
		formulaNode,
		randomNumber,
		noiseValue,
		rampNode,
		colourRamp,
		weightNearObject,
		weightInZone,
		weightAlongCurve,
		weightBySlope,
		weightByHeight,
		weightByNoise,
		weightByPattern,
		weightByOrder,
		weightAtRandom,
		weightByOpenness,
		combineWeights,
		shapeWeight,
		drawCurve,
		line,
		circle,
		arc,
		rectangle,
		polygon,
		star,
		helix,
		spiral,
		textOutline,
		importSvg,
		resampleCurve,
		reverseCurve,
		partOfCurve,
		joinCurves,
		roundCorners,
		offsetCurve,
		combineOutlines,
		projectOnSurface,
		edgesToCurves,
		grid,
		box,
		cylinder,
		sphere,
		disc,
		torus,
		tube,
		sweep,
		extrude,
		revolve,
		ribbon,
		loft,
		subdivide,
		fillOutline,
		deleteWhere,
		cutAtValue,
		importMesh,
		materialNode,
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
		hideWhere,
		transform,
		displace,
		displaceByNoise,
		bend,
		twist,
		taper,
		layAlongCurve,
		bendLattice,
		relax,
		morph,
		writeAttribute,
		subgraph,
		bodyInput,
		bodyOutput,
		merge,
		result
	].map((kind): [string, AnyNode] => [kind.id, kind as AnyNode])
);

/** The kinds that are offered, in the order of the handbook. */
export const offeredKinds: readonly AnyNode[] = [...nodeKinds.values()].filter(({ hidden }) => !hidden);

export * from './define.ts';
export * from './list.ts';
