import { NodeError, plural } from '../../math/index.ts';
import type { Curves, Geometry, Table } from '../../geometry/index.ts';
import {
	EMPTY,
	allocate,
	column,
	gatherTable,
	makeCurves,
	makeMesh,
	poll,
	pollAt,
	withColumns
} from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import type { Plane } from '../../kernels/extrude.ts';
import type { Region } from '../../kernels/fill.ts';
import { regionsOf, trianglesOfRegion } from '../../kernels/fill.ts';
import { combineOutlines, offsetOutlines } from '../../kernels/outlines.ts';
import { roundedPolygon } from '../../kernels/rounded-polygon.ts';
import type { Section } from '../../kernels/section.ts';
import { areaOfSection, sectionsOf } from '../../kernels/section.ts';
import { voronoiCells as cellsOf } from '../../kernels/voronoi.ts';
import type { Varying } from '../../varying/index.ts';
import { choice, defineNode, geometry, number, output, vector, yesNo } from '../define.ts';
import { flattened, heightOver, planeInput, planeFor, valuesOf } from '../plane-tools.ts';

const isZero = (of: Varying): boolean => of.op === 'constant' && of.value === 0;

export const voronoiCells = defineNode({
	id: 'voronoi-cells',
	version: 2,
	name: 'Voronoi cells',
	family: 'curves',
	words: ['thiessen', 'tessellate', 'plots', 'cracks', 'nearest', 'partition', 'mosaic', 'spline', 'path'],
	help: 'Around each point the part of a plane that is nearer to it than to any other, as outlines or filled faces. They have the points’ attributes.',
	inputs: {
		points: geometry({ label: 'Points', help: 'Points, or whatever has some.', needs: 'anything' }),
		plane: planeInput,
		bounds: choice({
			label: 'Bounds',
			help: 'Where the outer cells end.',
			default: 'around',
			options: [
				{ id: 'around', label: 'Around the points' },
				{ id: 'rectangle', label: 'A rectangle' },
				{ id: 'curve', label: 'Closed curves' }
			]
		}),
		margin: number({
			label: 'Margin',
			help: 'How far beyond the outermost points.',
			default: 1,
			min: 0,
			slider: [0, 5],
			unit: 'm',
			when: (s) => s.bounds === 'around'
		}),
		centre: vector({
			label: 'Centre',
			help: 'The middle of the rectangle.',
			default: [0, 0, 0],
			unit: 'm',
			when: (s) => s.bounds === 'rectangle'
		}),
		width: number({
			label: 'Width',
			help: 'Along the first axis of the plane.',
			default: 10,
			min: 0,
			unit: 'm',
			when: (s) => s.bounds === 'rectangle'
		}),
		height: number({
			label: 'Height',
			help: 'Along the other axis.',
			default: 10,
			min: 0,
			unit: 'm',
			when: (s) => s.bounds === 'rectangle'
		}),
		outline: geometry({
			label: 'Outline',
			help: 'Closed curves in the plane; one inside another is a hole.',
			needs: 'curves',
			optional: true,
			when: (s: Record<string, unknown>) => s.bounds === 'curve'
		}),
		inset: number({
			label: 'Inset',
			help: 'How far the sides of a cell are moved inwards: half of the gap between cells.',
			default: 0,
			min: 0,
			slider: [0, 1],
			unit: 'm',
			varies: 'point'
		}),
		limited: yesNo({
			label: 'Limited',
			help: 'Cells end at a distance from their point, so that they are discs until they meet.',
			default: false
		}),
		reach: number({
			label: 'Largest reach',
			help: 'That distance.',
			default: 1,
			min: 0,
			slider: [0, 5],
			unit: 'm',
			varies: 'point',
			when: (s) => s.limited === true
		}),
		radius: number({
			label: 'Corner radius',
			help: 'How round the corners are; where a side is short, as round as fits.',
			default: 0,
			min: 0,
			slider: [0, 1],
			unit: 'm',
			varies: 'point'
		}),
		segments: number({
			label: 'Segments',
			help: 'Pieces of a whole circle, in round corners and discs.',
			default: 32,
			min: 3,
			max: 512,
			whole: true
		}),
		as: choice({
			label: 'Result',
			help: 'What a cell is.',
			default: 'curves',
			options: [
				{ id: 'curves', label: 'Outlines' },
				{ id: 'faces', label: 'Faces' }
			]
		})
	},
	handles: { move: 'centre' },
	handlesWhen: (s) => s.bounds === 'rectangle',
	outputs: { cells: output('geometry', 'Cells', 'A closed curve or a face for each cell.') },
	// Six corners in the middle of many, and what the bounds cut; all corners of a cell together turn once round.
	estimate: ({ points, segments, limited, radius, outline }) => ({
		elements:
			asPoints(points).points!.points.count *
				(16 + (limited ? 3 * segments : isZero(radius) ? 0 : segments)) +
			4 * (outline?.curves?.points.count ?? 0),
		of: 'points',
		most: 4_000_000,
		lower: 'Use fewer points, or lower “Segments”.'
	}),
	run(
		{
			points,
			plane: name,
			bounds,
			margin,
			centre,
			width,
			height,
			outline,
			inset,
			limited,
			reach,
			radius,
			segments,
			as
		},
		context
	) {
		const source = asPoints(points);
		const table = source.points!.points;
		const where = { geometry: source, part: 'points', kind: 'point' } as const;
		const plane = planeFor(name, table);
		const places = flattened(table, plane);
		const regions = bounds === 'curve' ? outlinesIn(outline, plane) : null;
		const within =
			bounds === 'rectangle'
				? rectangle(centre, width, height, plane)
				: boxOf(regions ? regions.flatMap(({ points }) => [...points]) : places, regions ? 0 : margin);
		const insets = context.numbers(inset, where),
			radii = context.numbers(radius, where);
		const cells = cellsOf(places, {
			within,
			inset: regions ? null : insets,
			reach: limited ? context.numbers(reach, where) : null,
			segments
		});
		const made: { points: Float64Array; of: number }[] = [];
		cells.forEach((cell, i) => {
			pollAt(i);
			if (!cell.length) return;
			for (const { outline, holes } of regions
				? cutOut(cell, regions, insets[i])
				: [{ outline: cell, holes: [] }]) {
				const points = distinct(roundedPolygon(outline, radii[i], segments));
				if (points.length < 6) continue;
				const around = holes.map(distinct).filter((hole) => hole.length >= 6);
				const pieces = around.length && as === 'faces' ? triangles(points, around) : [points, ...around];
				for (const piece of pieces) made.push({ points: piece, of: i });
			}
		});
		const without = table.count - new Set(made.map(({ of }) => of)).size;
		if (without)
			context.warn(
				`${plural(without, 'point has', 'points have')} no cell: they lie exactly on others or out of bounds, or nothing is left of theirs.`
			);
		return { cells: { ...EMPTY, materials: points.materials, ...shaped(made, table, plane, as) } };
	}
});

function outlinesIn(outline: Geometry | null, plane: Plane): Section[] {
	const sections = outline ? sectionsIn(outline.curves!, plane) : [];
	if (!sections.length)
		throw new NodeError('Connect closed curves to “Outline”, or choose other bounds.', { input: 'outline' });
	return sections;
}

/** Closed curves as they lie in a plane, which need not be their own. */
const sectionsIn = (curves: Curves, plane: Plane): Section[] =>
	sectionsOf(curves, { closedOnly: true, plane }).filter(({ points }) => areaOfSection(points) !== 0);

const rectangle = (
	centre: readonly number[],
	width: number,
	height: number,
	[a, signA, b, signB]: Plane
): [number, number, number, number] => [
	signA * centre[a] - width / 2,
	signB * centre[b] - height / 2,
	signA * centre[a] + width / 2,
	signB * centre[b] + height / 2
];

function boxOf(places: ArrayLike<number>, margin: number): [number, number, number, number] {
	const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
	for (let i = 0; i < places.length; i++) {
		pollAt(i);
		const k = i % 2;
		box[k] = Math.min(box[k], places[i] - margin);
		box[k + 2] = Math.max(box[k + 2], places[i] + margin);
	}
	return box;
}

/** What of a cell lies in outlines, its sides moved inwards, with the holes that lie wholly in it. */
function cutOut(cell: Float64Array, regions: readonly Section[], inset: number): Region[] {
	poll();
	const pieces = combineOutlines([{ points: cell, closed: true }], regions, 'overlap');
	const moved = inset > 0 ? offsetOutlines(pieces, -inset, 'mitre', 0.01) : pieces;
	return regionsOf(moved);
}

/** A cell with holes as faces: a face has none, so that it becomes triangles. */
function triangles(outline: Float64Array, holes: Float64Array[]): Float64Array[] {
	const corners = trianglesOfRegion({ outline, holes });
	const all = [outline, ...holes].flatMap((loop) => [...loop]);
	return Array.from({ length: corners.length / 3 }, (_, t) => {
		const three = [0, 1, 2].map((k) => corners[3 * t + k]);
		return Float64Array.from(three.flatMap((corner) => [all[2 * corner], all[2 * corner + 1]]));
	});
}

/** A polygon without corners that are the one before it in single precision: sides without length. */
function distinct(polygon: Float64Array): Float64Array {
	const n = polygon.length;
	const isNew = (_: number, k: number) => {
		const i = k - (k % 2);
		const before = (i + n - 2) % n;
		return (
			Math.fround(polygon[i]) !== Math.fround(polygon[before]) ||
			Math.fround(polygon[i + 1]) !== Math.fround(polygon[before + 1])
		);
	};
	return polygon.every(isNew) ? polygon : polygon.filter(isNew);
}

/** Cells as curves or faces, each with the values of its point, and at its height. */
function shaped(
	cells: readonly { points: Float64Array; of: number }[],
	table: Table,
	plane: Plane,
	as: string
): Partial<Geometry> {
	const starts = allocate('index', cells.length + 1);
	cells.forEach(({ points }, c) => (starts[c + 1] = starts[c] + points.length / 2));
	const [a, signA, b, signB] = plane;
	const positions = allocate('float', 3 * starts[cells.length]);
	cells.forEach(({ points, of }, c) => {
		const height = heightOver(table, plane, of);
		for (let i = 0, o = 3 * starts[c]; i < points.length; i += 2, o += 3) {
			pollAt(i);
			positions[o + a] = signA * points[i];
			positions[o + b] = signB * points[i + 1];
			positions[o + 3 - a - b] = height;
		}
	});
	const values = gatherTable(
		valuesOf(table),
		cells.map(({ of }) => of)
	);
	if (as === 'faces') {
		const corners = allocate('index', starts[cells.length]);
		for (let i = 0; i < corners.length; i++) {
			pollAt(i);
			corners[i] = i;
		}
		const mesh = makeMesh(positions, starts, corners);
		return { mesh: { ...mesh, faces: values } };
	}
	const curves = makeCurves(positions, starts, new Uint8Array(0));
	const closed = allocate('byte', cells.length).fill(1);
	return {
		curves: {
			...curves,
			curves: withColumns(values, { closed: column('bool', 'plain', closed) })
		}
	};
}
