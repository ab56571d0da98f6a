import { mix } from '../math/index.ts';
import type { Column } from '../geometry/index.ts';
import {
	WIDTH,
	allocate,
	areaOf,
	cornerNormals,
	findAttribute,
	gatherColumn,
	gatherTable,
	geometryOf,
	makeTable,
	column,
	trianglesOf
} from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';
import {
	blendAcross,
	cumulativeAreas,
	keepApart,
	pointsOfTriangles,
	sowPoints as sow
} from '../kernels/sow-points.ts';
import { normalizeAll, standOff } from '../kernels/stand-off.ts';
import type { Sown } from '../kernels/sow-points.ts';
import { choice, defineNode, geometry, number, output, yesNo } from './define.ts';

export const sowPoints = defineNode({
	id: 'sow-points',
	version: 2,
	name: 'Sow points',
	family: 'points',
	words: ['scatter', 'distribute', 'poisson', 'density', 'random points', 'surface'],
	help: 'Puts points at random on the faces of a mesh, fairly by area, or by area times a weight. Raising the count keeps the points that are there.',
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
			help: 'Where more or less grows: 0 is nowhere, 1 is the full density. It may differ from face to face.',
			default: 1,
			min: 0,
			max: 1,
			varies: 'face'
		}),
		distance: number({
			label: 'Least distance',
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
	estimate({ surface, by, density, count }) {
		return {
			elements: by === 'count' ? count : density * areaOf(surface),
			of: 'points',
			lower: by === 'count' ? 'Lower “Count”.' : 'Lower “Density”.'
		};
	},
	run({ surface, by, density, count, weight, distance, upright, seed }, context) {
		const mesh = surface.mesh!;
		const weights =
			weight.op === 'constant' && weight.value === 1
				? null
				: clamped(context.numbers(weight, { geometry: surface, part: 'mesh', kind: 'face' }));
		const sums = cumulativeAreas(mesh, weights);
		const area = sums.length ? sums[sums.length - 1] : 0;
		if (mesh.faces.count && !(area > 0))
			context.warn(
				weights
					? 'The weight is 0 on every face, so nothing was sown.'
					: 'The faces have no area, so nothing was sown.'
			);
		const wanted = by === 'count' ? count : Math.floor(density * area + 0.5);
		const [first, second] = context.stream();
		const sown = sow(mesh, {
			count: wanted,
			stream: [mix(first, seed), mix(second, seed)],
			weights,
			poll: context.poll
		});
		let table = makeTable(sown.faces.length, columnsOf(mesh, sown, upright, context.poll), sown.ids);
		for (const [name, source] of attributesAt(surface, sown, context.poll))
			if (!table.columns.has(name)) (table.columns as Map<string, Column>).set(name, source);
		if (distance > 0) {
			const rows = keepApart(sown.positions, distance, context.poll);
			if (by === 'count' && rows.length < wanted)
				context.warn(`${rows.length} of ${wanted} points fit with this least distance.`);
			table = gatherTable(table, rows);
		}
		return { points: geometryOf({ points: { points: table } }) };
	}
});

/** Weights outside 0 … 1 count as the nearer end. */
const clamped = (weights: Float32Array): Float32Array => weights.map((w) => (w > 0 ? (w < 1 ? w : 1) : 0));

function columnsOf(mesh: Mesh, sown: Sown, upright: boolean, poll: () => void): Record<string, Column> {
	const n = sown.faces.length;
	const normals = cornerNormals(mesh);
	const normal = allocate('float', 3 * n),
		orientation = allocate('float', 4 * n);
	blendAcross(normal, normals, 3, trianglesOf(mesh).corners, sown, poll);
	normalizeAll(normal);
	if (upright) for (let i = 0; i < n; i++) orientation[4 * i + 3] = 1;
	else standOff(orientation, normal);
	return {
		position: column('vec3', 'position', sown.positions),
		normal: column('vec3', 'normal', normal),
		orientation: column('vec4', 'orientation', orientation)
	};
}

/** The surface's own attributes at the points: those of points and corners blend across the triangle. */
function* attributesAt(
	surface: Parameters<typeof findAttribute>[0],
	sown: Sown,
	poll: () => void
): Generator<[string, Column]> {
	const mesh = surface.mesh!;
	for (const [table, rows] of [
		[mesh.corners, trianglesOf(mesh).corners],
		[mesh.points, pointsOfTriangles(mesh)]
	] as const)
		for (const [name, source] of table.columns) {
			if (name === 'position' || name === 'normal') continue;
			if (!(source.data instanceof Float32Array) || source.role === 'id') {
				yield [
					name,
					gatherColumn(
						source,
						sown.triangles.map((t) => rows[3 * t])
					)
				];
				continue;
			}
			const width = WIDTH[source.type];
			const data = allocate('float', sown.faces.length * width);
			blendAcross(data, source.data, width, rows, sown, poll);
			yield [name, { ...source, data }];
		}
	for (const [name, source] of mesh.faces.columns)
		if (name !== 'material') yield [name, gatherColumn(source, sown.faces)];
}
