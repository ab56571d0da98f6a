import { quaternion } from '../../math/index.ts';
import type { Column } from '../../geometry/index.ts';
import {
	allocate,
	column,
	edgesOf,
	faceAreas,
	faceNormals,
	geometryOf,
	makeTable,
	pointNormals,
	positionsOf,
	pollAt
} from '../../geometry/index.ts';
import { choice, defineNode, geometry, output } from '../define.ts';

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
			label: 'From',
			help: 'Which elements give a point.',
			default: 'points',
			options: [
				{ id: 'points', label: 'Points' },
				{ id: 'edges', label: 'Edge middles' },
				{ id: 'faces', label: 'Face centres' }
			]
		})
	},
	outputs: { points: output('geometry', 'Points', 'The points, with normal, tangent and orientation.') },
	estimate: ({ mesh, from }) => ({
		elements: from === 'points' ? mesh.mesh!.points.count : mesh.mesh!.topology.cornerPoints.length,
		of: 'points',
		lower: 'Use a coarser mesh.'
	}),
	run({ mesh: { mesh: found, materials }, from }) {
		const mesh = found!;
		const p = positionsOf(mesh);
		const { faceStarts, cornerPoints } = mesh.topology;
		const edges = edgesOf(mesh.topology);
		const n = from === 'points' ? mesh.points.count : from === 'edges' ? edges.uses.length : mesh.faces.count;
		const position = allocate('float', 3 * n),
			normal = allocate('float', 3 * n),
			tangent = allocate('float', 3 * n);
		const orientation = allocate('float', 4 * n),
			size = allocate('float', n);
		const vertex = pointNormals(mesh);
		for (let i = 0; i < n; i++) {
			pollAt(i);
			let t = [0, 0, 1];
			if (from === 'points') {
				position.set(p.subarray(3 * i, 3 * i + 3), 3 * i);
				normal.set(vertex.subarray(3 * i, 3 * i + 3), 3 * i);
			} else if (from === 'edges') {
				const a = 3 * edges.points[2 * i],
					b = 3 * edges.points[2 * i + 1];
				t = [0, 1, 2].map((k) => p[b + k] - p[a + k]);
				const sum = [0, 1, 2].map((k) => vertex[a + k] + vertex[b + k]);
				const length = Math.sqrt(sum[0] * sum[0] + sum[1] * sum[1] + sum[2] * sum[2]) || 1;
				for (let k = 0; k < 3; k++) {
					position[3 * i + k] = (p[a + k] + p[b + k]) / 2;
					normal[3 * i + k] = sum[k] / length;
				}
				size[i] = Math.sqrt(t[0] * t[0] + t[1] * t[1] + t[2] * t[2]);
			} else {
				const start = faceStarts[i],
					count = faceStarts[i + 1] - start;
				for (let c = start; c < start + count; c++)
					for (let k = 0; k < 3; k++) position[3 * i + k] += p[3 * cornerPoints[c] + k] / count;
				const a = 3 * cornerPoints[start],
					b = 3 * cornerPoints[start + 1];
				t = [0, 1, 2].map((k) => p[b + k] - p[a + k]);
				normal.set(faceNormals(mesh).subarray(3 * i, 3 * i + 3), 3 * i);
				size[i] = Math.sqrt(faceAreas(mesh)[i]);
			}
			const long = Math.sqrt(t[0] * t[0] + t[1] * t[1] + t[2] * t[2]) || 1;
			tangent.set(
				t.map((x) => x / long),
				3 * i
			);
			quaternion.lookAlong(
				orientation,
				4 * i,
				normal[3 * i],
				normal[3 * i + 1],
				normal[3 * i + 2],
				t[0],
				t[1],
				t[2]
			);
		}
		const table = from === 'points' ? mesh.points : from === 'faces' ? mesh.faces : mesh.edges;
		const columns: Record<string, Column> = Object.fromEntries(
			[...(table?.columns ?? [])].filter(([name]) => name !== 'material')
		);
		columns.position = column('vec3', 'position', position);
		columns.normal = column('vec3', 'normal', normal);
		columns.tangent = column('vec3', 'direction', tangent);
		columns.orientation = column('vec4', 'orientation', orientation);
		if (from === 'edges') columns.length = column('float', 'plain', size);
		if (from === 'faces') {
			columns.size = column('float', 'plain', size);
			columns.area = column('float', 'plain', Float32Array.from(faceAreas(mesh)));
		}
		return {
			points: geometryOf({ points: { points: makeTable(n, columns, table?.ids ?? null) }, materials })
		};
	}
});
