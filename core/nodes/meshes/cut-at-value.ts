import { cutAtValue as cut } from '../../kernels/cut-at-value.ts';
import { attribute, constant } from '../../varying/index.ts';
import { defineNode, geometry, number, output } from '../define.ts';

export const cutAtValue = defineNode({
	id: 'cut-at-value',
	version: 1,
	name: 'Cut at value',
	family: 'meshes',
	words: ['clip', 'slice', 'bisect', 'erase', 'split', 'isoline', 'contour', 'threshold', 'waterline'],
	help: 'Cuts faces exactly where a value crosses a threshold. Faces get an attribute “side” (attribute.side in formulas), yes where the value is above; “Delete where” can take one side away.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'The mesh to cut; the rest is let through.',
			needs: 'mesh'
		}),
		value: number({
			label: 'Value',
			help: 'A number for each point, such as position.y or a weight.',
			default: 0,
			varies: 'point'
		}),
		threshold: number({
			label: 'Threshold',
			help: 'Where the cut lies.',
			default: 0.5,
			slider: [-2, 2],
			step: 0.01
		})
	},
	outputs: {
		geometry: output('geometry', 'Geometry', 'The mesh with its faces cut.'),
		side: output('value', 'Side', 'Yes on faces above the threshold.')
	},
	estimate: ({ geometry }) => ({
		elements: 2 * (geometry.mesh?.corners.count ?? 0),
		of: 'corners',
		lower: 'Use a mesh with fewer faces.'
	}),
	run({ geometry, value, threshold }, context) {
		const values = context.numbers(value, { geometry, part: 'mesh', kind: 'point' });
		const mesh = geometry.mesh!;
		if (!mesh.faces.count) return { geometry, side: constant(0) };
		return { geometry: { ...geometry, mesh: cut(mesh, values, threshold) }, side: attribute('side') };
	}
});
