import { geometryOf } from '../../geometry/index.ts';
import { fillRegions } from '../../kernels/extrude.ts';
import { heightOf, planeOf } from '../../kernels/section.ts';
import { defineNode, geometry, output } from '../define.ts';
import { fillRuleInput, filledRegions } from './fill-inputs.ts';

export const fillOutline = defineNode({
	id: 'fill-outline',
	version: 1,
	name: 'Fill outline',
	family: 'meshes',
	words: ['cap', 'face', 'planar', 'patch', 'triangulate', 'surface from curve'],
	help: 'Faces inside closed flat curves. An outline within another is a hole, one within a hole is filled again.',
	example: { wires: { outline: 'star' } },
	inputs: {
		outline: geometry({
			label: 'Outline',
			help: 'Flat closed curves; open ones are left out.',
			needs: 'curves'
		}),
		fill: fillRuleInput
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The faces.') },
	run({ outline, fill }, context) {
		const regions = filledRegions(outline.curves!, fill, context.warn);
		return {
			mesh: geometryOf({
				mesh: fillRegions(regions, planeOf(outline.curves!), heightOf(outline.curves!)),
				materials: outline.materials
			})
		};
	}
});
