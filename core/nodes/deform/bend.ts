import { bendMap } from '../../kernels/deform-maps.ts';
import { defineNode, geometry, number, output } from '../define.ts';
import { deform, stretchInputs, stretchOf } from './deform-tools.ts';
import { weightInputs } from '../weights/weight-tools.ts';

export const bend = defineNode({
	id: 'bend',
	version: 1,
	name: 'Bend',
	family: 'deform',
	words: ['curl', 'lean', 'bow', 'deform', 'warp'],
	help: 'Bends along an axis into an arc. Lengths along the axis are kept; what lies beyond the stretch goes on straight.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What is bent. Copies move and turn with it.',
			needs: 'anything'
		}),
		angle: number({
			label: 'Angle',
			help: 'Over the whole stretch.',
			default: 45,
			slider: [-360, 360],
			step: 1,
			unit: '°'
		}),
		towards: number({
			label: 'Towards',
			help: 'Where it leans to, about the axis.',
			default: 0,
			slider: [-180, 180],
			step: 1,
			unit: '°'
		}),
		...stretchInputs,
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same, bent.') },
	run({ geometry, angle, towards, axis, from, to, ...given }, context) {
		const stretch = stretchOf(geometry, { axis, from, to });
		if (!stretch || angle === 0) return { geometry };
		if (!(stretch.to > stretch.from))
			context.warn('The stretch has no length along this axis, so nothing was bent.');
		return { geometry: deform(geometry, given, context, bendMap(stretch, angle, towards)) };
	}
});
