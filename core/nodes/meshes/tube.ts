import { geometryOf } from '../../geometry/index.ts';
import { makeTube } from '../../kernels/tube.ts';
import { defineNode, geometry, number, output, yesNo } from '../define.ts';
import { repeatsOf, textureRepeat } from './texture-repeat.ts';

export const tube = defineNode({
	id: 'tube',
	// 2: bends are mitred.
	// 3: faces know what their curve knows.
	version: 3,
	name: 'Tube',
	family: 'meshes',
	words: ['pipe', 'hose', 'sweep', 'cable', 'rope', 'gutter', 'cylinder'],
	help: 'A round mesh along every curve. The radius may vary along it: a formula in u tapers it.',
	renamed: [{ before: 2, inputs: { sides: 'segments' } }],
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The middle line.', needs: 'curves' }),
		radius: number({
			label: 'Radius',
			help: 'From the middle line to the surface, at each point of the curve.',
			default: 0.1,
			min: 0,
			slider: [0, 1],
			unit: 'm',
			varies: 'point'
		}),
		segments: number({
			label: 'Segments',
			help: 'Faces around.',
			default: 8,
			min: 3,
			max: 512,
			slider: [3, 48],
			whole: true
		}),
		caps: yesNo({ label: 'Caps', help: 'Puts a face on both ends of open curves.', default: true }),
		repeat: textureRepeat
	},
	begins: { radius: 'radius' },
	outputs: { mesh: output('geometry', 'Mesh', 'The tube.') },
	estimate: ({ curve, segments }) => ({
		elements: curve.curves!.points.count * segments,
		of: 'points',
		lower: 'Lower “Segments”, or resample the curve.'
	}),
	run({ curve, radius, segments, caps, repeat }, context) {
		const radii = context.numbers(radius, { geometry: curve, part: 'curves', kind: 'point' });
		return {
			mesh: geometryOf({
				mesh: makeTube(curve.curves!, radii, segments, caps, repeatsOf(repeat, curve, context)),
				materials: curve.materials
			})
		};
	}
});
