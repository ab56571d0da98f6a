import { geometryOf } from '../geometry/index.ts';
import { fillRegions } from '../kernels/extrude.ts';
import { regionsOf } from '../kernels/fill.ts';
import { heightOf, planeOf, sectionsOf } from '../kernels/section.ts';
import { defineNode, geometry, output } from './define.ts';

export const fillOutline = defineNode({
	id: 'fill-outline',
	version: 1,
	name: 'Fill outline',
	family: 'meshes',
	words: ['cap', 'face', 'planar', 'patch', 'triangulate', 'surface from curve'],
	help: 'Faces inside closed flat curves. An outline within another is a hole, one within a hole is filled again.',
	inputs: {
		outline: geometry({
			label: 'Outline',
			help: 'Flat closed curves; open ones are left out.',
			needs: 'curves'
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The faces.') },
	run({ outline }, context) {
		const sections = sectionsOf(outline.curves!);
		if (sections.some((one) => !one.closed))
			context.warn('Open curves were left out: only closed outlines have an inside.');
		const regions = regionsOf(sections);
		if (!regions.length) context.warn('There is no closed outline with an area, so nothing was filled.');
		return {
			mesh: geometryOf({
				mesh: fillRegions(regions, planeOf(outline.curves!), heightOf(outline.curves!)),
				materials: outline.materials
			})
		};
	}
});
