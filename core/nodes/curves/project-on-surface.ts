import {
	allocate,
	cornerNormals,
	column,
	positionsOf,
	trianglesOf,
	withColumns,
	pollAt
} from '../../geometry/index.ts';
import { treeOfMesh } from '../../kernels/nearest.ts';
import { choice, defineNode, geometry, number, output, vector } from '../define.ts';
import { withMoved } from '../deform/deform-tools.ts';

export const projectOnSurface = defineNode({
	id: 'project-on-surface',
	version: 1,
	name: 'Project on surface',
	family: 'curves',
	words: ['spline', 'path', 'drape', 'snap', 'wrap', 'attach', 'drop', 'conform', 'raycast', 'ray'],
	help: 'Puts the points of curves, and loose points, onto a mesh: to the nearest place, or along a direction. They get the surface’s normal.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'Curves and loose points.', needs: 'anything' }),
		surface: geometry({ label: 'Surface', help: 'The mesh to lie on.', needs: 'mesh' }),
		by: choice({
			label: 'By',
			help: 'The nearest place, or what is met along a direction, forward or backward.',
			default: 'direction',
			options: [
				{ id: 'direction', label: 'Along a direction' },
				{ id: 'nearest', label: 'The nearest place' }
			]
		}),
		direction: vector({
			label: 'Direction',
			help: 'Only its direction counts.',
			default: [0, -1, 0],
			when: (s: Record<string, unknown>) => s.by === 'direction'
		}),
		above: number({
			label: 'Above',
			help: 'How far off the surface they come to lie.',
			default: 0,
			slider: [-0.5, 0.5],
			step: 0.005,
			unit: 'm'
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same on the surface.') },
	run({ geometry, surface, by, direction, above }, context) {
		const mesh = surface.mesh!;
		if (!mesh.faces.count) {
			context.warn('The surface has no faces, so nothing was moved.');
			return { geometry };
		}
		const tree = treeOfMesh(mesh);
		const normals = cornerNormals(mesh);
		const { corners } = trianglesOf(mesh);
		const size = Math.sqrt(
			direction[0] * direction[0] + direction[1] * direction[1] + direction[2] * direction[2]
		);
		const [dx, dy, dz] = size > 0 ? direction.map((x) => x / size) : [0, -1, 0];
		let missed = 0;
		let out = geometry;
		for (const part of ['curves', 'points'] as const) {
			const own = geometry[part];
			if (!own?.points.count) continue;
			const p = positionsOf(own);
			const moved = allocate('float', p.length),
				normal = allocate('float', p.length);
			for (let i = 0; i < p.length; i += 3) {
				pollAt(i);
				let [x, y, z] = [p[i], p[i + 1], p[i + 2]];
				if (by === 'direction') {
					const ahead = tree.along(x, y, z, dx, dy, dz),
						behind = tree.along(x, y, z, -dx, -dy, -dz);
					const t = ahead <= behind ? ahead : -behind;
					if (!Number.isFinite(t)) {
						missed++;
						moved.set([x, y, z], i);
						normal[i + 1] = 1;
						continue;
					}
					[x, y, z] = [x + dx * t, y + dy * t, z + dz * t];
				}
				const found = tree.nearest(x, y, z);
				const [a, b, c] = [0, 1, 2].map((k) => 3 * corners[3 * found.primitive + k]);
				const { u, v } = found;
				const n = [0, 1, 2].map(
					(k) => normals[a + k] * (1 - u - v) + normals[b + k] * u + normals[c + k] * v
				);
				const length = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
				normal.set(
					n.map((w) => w / length),
					i
				);
				moved.set(
					[found.x + normal[i] * above, found.y + normal[i + 1] * above, found.z + normal[i + 2] * above],
					i
				);
			}
			out = withMoved(out, part, 'point', moved);
			const table = withColumns(out[part]!.points, { normal: column('vec3', 'normal', normal) });
			out = { ...out, [part]: { ...out[part]!, points: table } };
		}
		if (missed)
			context.warn(`${missed} points meet no surface along this direction and stayed where they were.`);
		return { geometry: out };
	}
});
