import { formatCount, mix } from '../../math/index.ts';
import type { Column, Geometry, Mesh, Table } from '../../geometry/index.ts';
import {
	areaOf,
	column,
	copyOf,
	findAttribute,
	floats,
	gatherTable,
	geometryOf,
	pollAt,
	withColumns
} from '../../geometry/index.ts';
import { keepApart } from '../../kernels/keep-apart.ts';
import { sowThinned } from '../../kernels/sow-thinned.ts';
import { sownTable } from '../../kernels/sown-table.ts';
import { cumulativeAreas } from '../../kernels/triangle-records.ts';
import type { Varying } from '../../varying/index.ts';
import { elementsOf, partsOf, takeOut, typeOn } from '../../varying/index.ts';
import type { Context } from '../define.ts';
import { choice, defineNode, geometry, number, output, yesNo } from '../define.ts';

export const sowPoints = defineNode({
	id: 'sow-points',
	version: 3,
	name: 'Sow points',
	family: 'points',
	words: [
		'scatter',
		'distribute',
		'poisson',
		'density',
		'random points',
		'surface',
		'grass',
		'forest',
		'vegetation',
		'point cloud'
	],
	help: 'Puts points at random on the faces of a mesh, fairly by area, or by area times a weight. Raising the count keeps the points that are there.',
	renamed: [{ before: 2, inputs: { distance: 'minimumDistance' } }],
	inputs: {
		surface: geometry({ label: 'Surface', help: 'The mesh to sow on.', needs: 'mesh' }),
		by: choice({
			label: 'By',
			help: 'How the number of points is set.',
			default: 'density',
			options: [
				{ id: 'density', label: 'Density' },
				{ id: 'count', label: 'Count' }
			]
		}),
		density: number({
			label: 'Density',
			help: 'Points on each square metre where the weight is 1.',
			default: 10,
			min: 0,
			slider: [0, 200],
			unit: 'per m²',
			when: (s) => s.by === 'density'
		}),
		count: number({
			label: 'Count',
			help: 'Points in all.',
			default: 500,
			min: 0,
			slider: [0, 5000],
			whole: true,
			when: (s) => s.by === 'count'
		}),
		weight: number({
			label: 'Weight',
			help: 'Where more or less grows: 0 is nowhere, 1 is the full density. It is read where each point falls, so a formula of position holds on large faces too.',
			default: 1,
			min: 0,
			max: 1,
			varies: 'face'
		}),
		minimumDistance: number({
			label: 'Minimum distance',
			help: 'Points nearer than this to an earlier one are left out; 0 keeps all.',
			default: 0,
			min: 0,
			slider: [0, 2],
			unit: 'm'
		}),
		upright: yesNo({
			label: 'Upright',
			help: 'Points stand straight up; otherwise they stand off the surface.',
			default: false
		}),
		seed: number({ label: 'Seed', help: 'Another seed, other places.', default: 0, whole: true, min: 0 })
	},
	outputs: { points: output('geometry', 'Points', 'The points, with the surface’s normal and attributes.') },
	seeded: true,
	estimate({ surface, by, density, count, minimumDistance }) {
		const elements = by === 'count' ? count : Math.floor(density * areaOf(surface) + 0.5);
		const looked = minimumDistance > 0 ? elements : 0;
		return {
			elements,
			of: 'points',
			bytes: BYTES_APART * looked,
			seconds: SECONDS_APART * looked,
			lower: by === 'count' ? 'Lower “Count”.' : 'Lower “Density”.'
		};
	},
	run({ surface, by, density, count, weight, minimumDistance, upright, seed }, context) {
		const mesh = surface.mesh!;
		const differs = (leaf: Varying) => differsOnFace(leaf, surface);
		const isByFace = ![...partsOf(weight)].some(differs);
		const weights = isByFace && !isOne(weight) ? weightsOfFaces(context, weight, surface) : null;
		const areas = cumulativeAreas(mesh, weights);
		const area = areas.length ? areas[areas.length - 1] : 0;
		if (mesh.faces.count && !(area > 0))
			context.warn(
				weights
					? 'The weight is 0 on every face, so nothing was sown.'
					: 'The faces have no area, so nothing was sown.'
			);
		const wanted = by === 'count' ? count : Math.floor(density * area + 0.5);
		const [first, second] = context.stream();
		const how = { stream: [mix(first, seed), mix(second, seed)] as const, areas, upright };
		let table: Table;
		if (isByFace) table = sownTable(mesh, { ...how, count: wanted, weights });
		else {
			const { rest, parts } = takeOut(weight, differs);
			const [third, fourth] = context.stream('weight');
			const sown = sowThinned(withFaceValues(mesh, parts, context, surface), {
				...how,
				count: by === 'count' ? candidatesFor(count) : wanted,
				most: by === 'count' ? count : Infinity,
				chance: [mix(third, seed), mix(fourth, seed)],
				weigh: (candidates) =>
					context.numbersOn(
						rest,
						elementsOf(geometryOf({ points: { points: candidates } }), 'points', 'point')
					)
			});
			table = withColumns(sown.table, Object.fromEntries([...parts.keys()].map((name) => [name, null])));
			if (wanted > 0 && area > 0 && sown.largest <= 0)
				context.warn('The weight is 0 wherever a point fell, so nothing was sown.');
			else if (by === 'count' && area > 0 && table.count < count)
				context.warn(
					`${formatCount(table.count)} of ${formatCount(count)} points were sown: the weight is all but 0 almost everywhere. Sow on the faces where it is more, or lower “Count”.`
				);
		}
		const sown = table.count;
		if (minimumDistance > 0) {
			const rows = keepApart(floats(table, 'position'), minimumDistance);
			if (by === 'count' && rows.length < sown)
				context.warn(`${rows.length} of ${sown} points fit with this minimum distance.`);
			table = gatherTable(table, rows);
		}
		return { points: geometryOf({ points: { points: table } }) };
	}
});

/** What it takes to look whether a point keeps its distance, of those that fall. */
const BYTES_APART = 140,
	SECONDS_APART = 1e-5;

const isOne = ({ op, value }: Varying): boolean => op === 'constant' && value === 1;

/** Candidates among which so many points are looked for: where the weight is nearly 0 everywhere it must come to an end. */
const candidatesFor = (count: number): number =>
	Math.min(Math.max(64 * count, 1 << 18), Math.max(count, 1 << 24));

/** Whether a leaf of a value may differ from place to place on one face. */
function differsOnFace({ op, value }: Varying, surface: Geometry): boolean {
	if (op === 'element') return value !== 'index' && value !== 'count' && value !== 'id';
	if (op !== 'attribute') return false;
	const kind = findAttribute(surface, 'mesh', 'face', String(value))?.kind;
	return kind === 'point' || kind === 'corner';
}

/** The weight of each face, 0 to 1; outside, the nearer end. */
function weightsOfFaces(context: Context, weight: Varying, geometry: Geometry): Float32Array {
	const weights = copyOf(context.numbers(weight, { geometry, part: 'mesh', kind: 'face' }));
	for (let f = 0; f < weights.length; f++) {
		pollAt(f);
		weights[f] = weights[f] > 0 ? (weights[f] < 1 ? weights[f] : 1) : 0;
	}
	return weights;
}

/** The mesh with values worked out on its faces as attributes of these, so that points sown on it have them. */
function withFaceValues(
	mesh: Mesh,
	parts: ReadonlyMap<string, Varying>,
	context: Context,
	geometry: Geometry
): Mesh {
	const on = { geometry, part: 'mesh', kind: 'face' } as const;
	const columns: Record<string, Column> = {};
	for (const [name, value] of parts) {
		const type = typeOn(value, elementsOf(geometry, 'mesh', 'face'));
		columns[name] =
			type === 'vector'
				? column('vec3', 'plain', context.vectors(value, on))
				: type === 'yesno'
					? column('bool', 'plain', context.yesNos(value, on))
					: column('float', 'plain', context.numbers(value, on));
	}
	return { ...mesh, faces: withColumns(mesh.faces, columns) };
}
