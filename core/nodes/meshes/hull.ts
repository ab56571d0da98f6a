import { EMPTY, allocate, floats, makeCurves, makeMesh, pollAt } from '../../geometry/index.ts';
import type { Geometry } from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { hullInPlane, hullInSpace } from '../../kernels/hull.ts';
import { choice, defineNode, geometry, output } from '../define.ts';
import { flattened, planeInput, planeFor } from '../plane-tools.ts';

export const hull = defineNode({
	id: 'hull',
	version: 1,
	name: 'Hull',
	family: 'meshes',
	words: ['convex', 'envelope', 'bounding', 'outline of points'],
	help: 'The smallest shape without dents that holds all points: a closed mesh around them, or an outline in a plane.',
	inputs: {
		points: geometry({ label: 'Points', help: 'Points, or whatever has some.', needs: 'anything' }),
		method: choice({
			label: 'Method',
			help: 'In space or in a plane.',
			default: 'space',
			options: [
				{ id: 'space', label: 'In space' },
				{ id: 'plane', label: 'In a plane' }
			]
		}),
		plane: { ...planeInput, when: (s: Record<string, unknown>) => s.method === 'plane' }
	},
	outputs: { hull: output('geometry', 'Hull', 'The mesh, or the closed curve.') },
	run({ points, method, plane: name }, context) {
		const table = asPoints(points).points!.points;
		const p = floats(table, 'position');
		const wrap = (made: Partial<Geometry>) => ({ hull: { ...EMPTY, materials: points.materials, ...made } });
		if (method === 'plane') {
			const rows = hullInPlane(flattened(table, planeFor(name, table)));
			if (rows.length < 3) {
				if (table.count)
					context.warn('The points lie on one line as seen in this plane, so there is no hull.');
				return wrap({});
			}
			return wrap({
				curves: makeCurves(placesOf(p, rows), Uint32Array.of(0, rows.length), Uint8Array.of(1))
			});
		}
		const triangles = hullInSpace(p);
		if (!triangles) {
			if (table.count)
				context.warn('The points lie in one plane, so there is nothing between them. Choose “In a plane”.');
			return wrap({});
		}
		const used = [...new Set(triangles)].sort((a, b) => a - b);
		const place = new Map(used.map((i, at) => [i, at]));
		const starts = allocate('index', triangles.length / 3 + 1);
		for (let f = 0; f < starts.length; f++) {
			pollAt(f);
			starts[f] = 3 * f;
		}
		return wrap({
			mesh: makeMesh(
				placesOf(p, used),
				starts,
				Uint32Array.from(triangles, (i) => place.get(i)!)
			)
		});
	}
});

function placesOf(p: Float32Array, rows: readonly number[]): Float32Array {
	const out = allocate('float', 3 * rows.length);
	rows.forEach((row, i) => out.set(p.subarray(3 * row, 3 * row + 3), 3 * i));
	return out;
}
