import { geometryOf } from '../geometry/index.ts';
import { extrudeRegions } from '../kernels/extrude.ts';
import { regionsOf } from '../kernels/fill.ts';
import { heightOf, planeOf, sectionsOf } from '../kernels/section.ts';
import { defineNode, geometry, number, output } from './define.ts';

export const extrude = defineNode({
	id: 'extrude',
	version: 1,
	name: 'Extrude',
	family: 'meshes',
	words: ['thicken', 'solid', 'sign', 'letters', 'bevel', 'chamfer', 'push pull'],
	help: 'Closed outlines as solids: an outline within another is a hole. A chamfer takes off the edges at front and back.',
	inputs: {
		outline: geometry({
			label: 'Outline',
			help: 'Flat closed curves; open ones are left out.',
			needs: 'curves'
		}),
		depth: number({
			label: 'Depth',
			help: 'How thick it is, towards the side it faces.',
			default: 0.2,
			slider: [0, 2],
			step: 0.01,
			unit: 'm'
		}),
		chamfer: number({
			label: 'Chamfer',
			help: 'How far the edges are taken off. 0 leaves them sharp.',
			default: 0,
			min: 0,
			slider: [0, 0.2],
			step: 0.005,
			unit: 'm'
		}),
		steps: number({
			label: 'Chamfer steps',
			help: '1 is a flat chamfer; more make it round.',
			default: 1,
			min: 1,
			max: 32,
			slider: [1, 8],
			whole: true,
			when: (s) => s.chamfer !== 0
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The solid.') },
	run({ outline, depth, chamfer, steps }, context) {
		const sections = sectionsOf(outline.curves!);
		const open = sections.filter((one) => !one.closed).length;
		if (open)
			context.warn(
				`${open === 1 ? 'One open curve was' : `${open} open curves were`} left out: only closed outlines have an inside.`
			);
		const regions = regionsOf(sections);
		if (!regions.length) context.warn('There is no closed outline with an area, so nothing was made.');
		const mesh = extrudeRegions(regions, planeOf(outline.curves!), heightOf(outline.curves!), {
			depth,
			chamfer,
			steps
		});
		return { mesh: geometryOf({ mesh, materials: outline.materials }) };
	}
});
