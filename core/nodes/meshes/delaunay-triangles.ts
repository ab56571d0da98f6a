import { Growing, EMPTY, allocate, makeMesh, pollAt, withColumns } from '../../geometry/index.ts';
import { delaunay } from '../../kernels/delaunay.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { defineNode, geometry, number, output } from '../define.ts';
import { flattened, planeInput, planeFor } from '../plane-tools.ts';

export const delaunayTriangles = defineNode({
	id: 'delaunay-triangles',
	version: 1,
	name: 'Delaunay triangles',
	family: 'meshes',
	words: ['surface from points', 'height field', 'tin', 'net', 'connect points'],
	help: 'Points joined to triangles as compact as can be, seen in a plane; the points keep their heights and attributes.',
	inputs: {
		points: geometry({ label: 'Points', help: 'Points, or whatever has some.', needs: 'anything' }),
		plane: planeInput,
		longest: number({
			label: 'Longest side',
			help: 'Triangles with a longer one are left out; 0 keeps all.',
			default: 0,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The triangles.') },
	run({ points, plane: name, longest }, context) {
		const { points: table } = asPoints(points).points!;
		const plane = planeFor(name, table);
		const places = flattened(table, plane);
		const { triangles } = delaunay(places);
		if (table.count > 2 && !triangles.length)
			context.warn(
				'All points lie on one line as seen in this plane, so there are no triangles. Choose another plane.'
			);
		const p = table.columns.get('position')!.data;
		const far = (i: number, j: number) => {
			let square = 0;
			for (let k = 0; k < 3; k++) square += (p[3 * i + k] - p[3 * j + k]) * (p[3 * i + k] - p[3 * j + k]);
			return square > longest * longest;
		};
		const corners = new Growing('index');
		for (let t = 0; t < triangles.length; t += 3) {
			const [a, b, c] = [triangles[t], triangles[t + 1], triangles[t + 2]];
			if (longest > 0 && (far(a, b) || far(b, c) || far(c, a))) continue;
			// The library goes clockwise where y points up.
			for (const corner of [a, c, b]) corners.push(corner);
		}
		const starts = allocate('index', corners.length / 3 + 1);
		for (let f = 0; f < starts.length; f++) {
			pollAt(f);
			starts[f] = 3 * f;
		}
		const mesh = makeMesh(new Float32Array(0), starts, corners.take());
		return {
			mesh: {
				...EMPTY,
				materials: points.materials,
				mesh: {
					...mesh,
					topology: { ...mesh.topology, pointCount: table.count },
					points: withColumns(table, { orientation: null, normal: null, tangent: null, scale: null })
				}
			}
		};
	}
});
