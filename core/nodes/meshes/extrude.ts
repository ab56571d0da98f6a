import { geometryOf } from '../../geometry/index.ts';
import { extrudeRegions } from '../../kernels/extrude.ts';
import { heightOf, planeOf } from '../../kernels/section.ts';
import { defineNode, geometry, number, output } from '../define.ts';
import { fillRuleInput, filledRegions } from './fill-inputs.ts';

export const extrude = defineNode({
	id: 'extrude',
	version: 1,
	name: 'Extrude',
	family: 'meshes',
	words: ['thicken', 'solid', 'sign', 'letters', 'bevel', 'chamfer', 'raise'],
	help: 'Takes closed flat outlines, not faces of a mesh, and makes solids of them: an outline within another is a hole. A bevel takes off the edges at front and back.',
	renamed: [{ before: 2, inputs: { chamfer: 'bevel', steps: 'bevelSegments' } }],
	example: { wires: { outline: 'star' } },
	inputs: {
		outline: geometry({
			label: 'Outline',
			help: 'Flat closed curves; open ones are left out.',
			needs: 'curves'
		}),
		fill: fillRuleInput,
		depth: number({
			label: 'Depth',
			help: 'How thick it is, towards the side it faces.',
			default: 0.2,
			slider: [0, 2],
			step: 0.01,
			unit: 'm'
		}),
		bevel: number({
			label: 'Bevel',
			help: 'How far the edges are taken off. 0 leaves them sharp.',
			default: 0,
			min: 0,
			slider: [0, 0.2],
			step: 0.005,
			unit: 'm'
		}),
		bevelSegments: number({
			label: 'Bevel segments',
			help: '1 is a flat bevel; more make it round.',
			default: 1,
			min: 1,
			max: 32,
			slider: [1, 8],
			whole: true,
			when: (s) => s.bevel !== 0
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The solid.') },
	estimate: ({ outline, depth, bevel, bevelSegments }) => ({
		elements: outline.curves!.points.count * (depth === 0 ? 1 : bevel === 0 ? 2 : 2 * (bevelSegments + 1)),
		of: 'points',
		lower: 'Lower “Bevel segments”, or use fewer points.'
	}),
	run({ outline, fill, depth, bevel, bevelSegments }, context) {
		const regions = filledRegions(outline.curves!, fill, context.warn);
		const mesh = extrudeRegions(regions, planeOf(outline.curves!), heightOf(outline.curves!), {
			depth,
			chamfer: bevel,
			steps: bevelSegments
		});
		return { mesh: geometryOf({ mesh, materials: outline.materials }) };
	}
});
