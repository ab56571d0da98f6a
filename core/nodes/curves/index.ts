/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { drawCurve } from './draw-curve.ts';
import { line } from './line.ts';
import { circle } from './circle.ts';
import { arc } from './arc.ts';
import { rectangle } from './rectangle.ts';
import { polygon } from './polygon.ts';
import { star } from './star.ts';
import { helix } from './helix.ts';
import { spiral } from './spiral.ts';
import { textOutline } from './text-outline.ts';
import { importSvg } from './import-svg.ts';
import { resampleCurve } from './resample-curve.ts';
import { reverseCurve } from './reverse-curve.ts';
import { partOfCurve } from './part-of-curve.ts';
import { joinCurves } from './join-curves.ts';
import { roundCorners } from './round-corners.ts';
import { offsetCurve } from './offset-curve.ts';
import { combineOutlines } from './combine-outlines.ts';
import { projectOnSurface } from './project-on-surface.ts';
import { edgesToCurves } from './edges-to-curves.ts';
import { voronoiCells } from './voronoi-cells.ts';
import { nearestNeighbours } from './nearest-neighbours.ts';

export const curves: readonly AnyNode[] = [
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
	voronoiCells,
	nearestNeighbours
];
