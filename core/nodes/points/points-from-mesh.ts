import { Growing, edgesOf, geometryOf, keepRows, pollAt } from '../../geometry/index.ts';
import { cosinesOf } from '../../kernels/edge-turns.ts';
import type { FromMesh } from '../../kernels/points-of-mesh.ts';
import { pointsOfMesh } from '../../kernels/points-of-mesh.ts';
import { choice, defineNode, geometry, output, yesNo } from '../define.ts';

/** The cosine of the turn from which on two faces are not of one plane: a tenth of a degree. */
const LEVEL = 0.9999985;

export const pointsFromMesh = defineNode({
	id: 'points-from-mesh',
	version: 1,
	name: 'Points from mesh',
	family: 'points',
	words: ['vertices', 'edge midpoints', 'face centers', 'centroids', 'points of mesh'],
	help: 'A point at each point, edge middle or face centre of a mesh, turned so that its up is the surface normal. Edge middles know their edge’s length and lie along it; face centres know their face’s size and area.',
	inputs: {
		mesh: geometry({ label: 'Mesh', help: 'The mesh to take points from.', needs: 'mesh' }),
		from: choice({
			label: 'Elements',
			help: 'Which elements give a point.',
			default: 'points',
			options: [
				{ id: 'points', label: 'Points' },
				{ id: 'edges', label: 'Edge middles' },
				{ id: 'faces', label: 'Face centres' }
			]
		}),
		flat: yesNo({
			label: 'In flat parts too',
			help: 'Also edges between faces of one plane, such as the diagonals of triangles.',
			default: true,
			when: (s) => s.from === 'edges'
		})
	},
	outputs: { points: output('geometry', 'Points', 'The points, with normal, tangent and orientation.') },
	estimate: ({ mesh, from }) => ({
		elements: from === 'points' ? mesh.mesh!.points.count : mesh.mesh!.topology.cornerPoints.length,
		of: 'points',
		lower: 'Use a coarser mesh.'
	}),
	run({ mesh: { mesh, materials }, from, flat }) {
		const points = geometryOf({ points: { points: pointsOfMesh(mesh!, from as FromMesh) }, materials });
		if (from !== 'edges' || flat) return { points };
		const turns = cosinesOf(mesh!);
		const { uses } = edgesOf(mesh!.topology);
		const rows = new Growing('index');
		for (let e = 0; e < uses.length; e++) {
			pollAt(e);
			if (uses[e] !== 2 || turns[e] < LEVEL) rows.push(e);
		}
		return { points: keepRows(points, 'points', 'point', rows.take()) };
	}
});
