import { SHARP_ANGLE, allocate, smoothColumn, withColumns } from '../../geometry/index.ts';
import { defineNode, geometry, number, output } from '../define.ts';

export const smoothNormals = defineNode({
	id: 'smooth-normals',
	version: 1,
	name: 'Smooth normals',
	family: 'meshes',
	words: ['shading', 'flat shading', 'smooth shading', 'hard edges', 'facets', 'auto smooth', 'normals'],
	help: 'Says up to which angle faces shade as one surface: 0 shows every face flat, 180 makes all of it smooth. The shape stays as it is.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What is shaded.', needs: 'mesh' }),
		angle: number({
			label: 'Angle',
			help: 'Edges between faces that turn by less than this are drawn smooth. Of two faces the smaller angle counts.',
			default: SHARP_ANGLE,
			min: 0,
			max: 180,
			step: 1,
			unit: '°',
			varies: 'face'
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its shading.') },
	entries: [
		{ name: 'Flat shading', words: ['facets', 'low poly', 'hard edges'], settings: { angle: 0 } },
		{ name: 'Smooth shading', words: ['soft', 'round'], settings: { angle: 180 } }
	],
	run({ geometry, angle }, context) {
		const mesh = geometry.mesh!;
		const degrees = context.numbers(angle, { geometry, part: 'mesh', kind: 'face' });
		const data = allocate('float', mesh.faces.count);
		data.set(degrees);
		const faces = withColumns(mesh.faces, { smooth: smoothColumn(data) });
		// Normals that came with a file would be drawn in place of those.
		const corners = {
			...mesh.corners,
			columns: new Map([...mesh.corners.columns].filter(([name]) => name !== 'normal'))
		};
		return { geometry: { ...geometry, mesh: { ...mesh, faces, corners } } };
	}
});
