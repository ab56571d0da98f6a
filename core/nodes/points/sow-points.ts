import { mix } from '../../math/index.ts';
import type { Column } from '../../geometry/index.ts';
import {
	WIDTH,
	allocate,
	areaOf,
	cornerNormals,
	gatherColumn,
	gatherTable,
	geometryOf,
	column,
	trianglesOf,
	pollAt
} from '../../geometry/index.ts';
import type { Mesh, Table } from '../../geometry/index.ts';
import { keepApart } from '../../kernels/keep-apart.ts';
import { sowPoints as sow } from '../../kernels/sow-points.ts';
import type { Sown } from '../../kernels/sow-points.ts';
import { cumulativeAreas, pointsOfTriangles } from '../../kernels/triangle-records.ts';
import type { Blend } from '../../kernels/triangle-records.ts';
import { choice, defineNode, geometry, number, output, yesNo } from '../define.ts';

export const sowPoints = defineNode({
	id: 'sow-points',
	version: 2,
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
			help: 'Where more or less grows: 0 is nowhere, 1 is the full density. It may differ from face to face.',
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
	estimate({ surface, by, density, count }) {
		return {
			elements: by === 'count' ? count : density * areaOf(surface),
			of: 'points',
			lower: by === 'count' ? 'Lower “Count”.' : 'Lower “Density”.'
		};
	},
	run({ surface, by, density, count, weight, minimumDistance, upright, seed }, context) {
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
		const { blends, gathers } = attributesOf(mesh);
		const sown = sow(mesh, {
			count: wanted,
			stream: [mix(first, seed), mix(second, seed)],
			weights,
			areas: sums,
			normals: cornerNormals(mesh),
			orientations: !upright,
			blends,
			faces: ofFaces(mesh).length > 0,
			triangles: gathers.length > 0
		});
		let table: Table = {
			count: sown.positions.length / 3,
			columns: columnsOf(mesh, sown, blends, gathers),
			ids: sown.ids
		};
		if (minimumDistance > 0) {
			const rows = keepApart(sown.positions, minimumDistance);
			if (by === 'count' && rows.length < wanted)
				context.warn(`${rows.length} of ${wanted} points fit with this minimum distance.`);
			table = gatherTable(table, rows);
		}
		return { points: geometryOf({ points: { points: table } }) };
	}
});

/** Weights outside 0 … 1 count as the nearer end. */
const clamped = (weights: Float32Array): Float32Array => weights.map((w) => (w > 0 ? (w < 1 ? w : 1) : 0));

/** An attribute of the surface that blends across triangles. */
interface NamedBlend extends Blend {
	name: string;
	column: Column;
}
/** One that does not: each point takes that of its triangle’s first corner. */
interface NamedGather {
	name: string;
	column: Column;
	rows: Uint32Array;
}

const OWN = new Set(['position', 'normal', 'orientation']);

/** The surface’s own attributes: those of corners come before those of points with the same name. */
function attributesOf(mesh: Mesh): { blends: NamedBlend[]; gathers: NamedGather[] } {
	const blends: NamedBlend[] = [],
		gathers: NamedGather[] = [];
	const taken = new Set(OWN);
	for (const [table, rowsOf] of [
		[mesh.corners, () => trianglesOf(mesh).corners],
		[mesh.points, () => pointsOfTriangles(mesh)]
	] as const) {
		const rows = [...table.columns.keys()].some((name) => !taken.has(name)) ? rowsOf() : new Uint32Array();
		for (const [name, column] of table.columns) {
			if (taken.has(name)) continue;
			taken.add(name);
			const { data } = column;
			if (data instanceof Float32Array && column.role !== 'id')
				blends.push({ name, column, source: data, width: WIDTH[column.type], rows });
			else gathers.push({ name, column, rows });
		}
	}
	return { blends, gathers };
}

/** The attributes that points have from their faces. */
const ofFaces = (mesh: Mesh) => [...mesh.faces.columns].filter(([name]) => name !== 'material');

function columnsOf(
	mesh: Mesh,
	sown: Sown,
	blends: readonly NamedBlend[],
	gathers: readonly NamedGather[]
): Map<string, Column> {
	const n = sown.positions.length / 3;
	const columns = new Map<string, Column>();
	columns.set('position', column('vec3', 'position', sown.positions));
	columns.set('normal', column('vec3', 'normal', sown.normals!));
	columns.set('orientation', column('vec4', 'orientation', sown.orientations ?? upright(n)));
	blends.forEach(({ name, column }, i) => columns.set(name, { ...column, data: sown.blended[i] }));
	for (const { name, column, rows } of gathers)
		columns.set(
			name,
			gatherColumn(
				column,
				sown.triangles!.map((t) => rows[3 * t])
			)
		);
	for (const [name, source] of ofFaces(mesh))
		if (!columns.has(name)) columns.set(name, gatherColumn(source, sown.faces!));
	return columns;
}

/** Orientations that turn nothing. */
function upright(count: number): Float32Array {
	const all = allocate('float', 4 * count);
	for (let i = 3; i < all.length; i += 4) {
		pollAt(i);
		all[i] = 1;
	}
	return all;
}
