import { twistMap } from '../../kernels/deform-maps.ts';
import { defineNode, geometry, number, output } from '../define.ts';
import { deform, stretchInputs, stretchOf } from './deform-tools.ts';
import { weightInputs } from '../weights/weight-tools.ts';

export const twist = defineNode({
	id: 'twist',
	version: 1,
	name: 'Twist',
	family: 'deform',
	words: ['wring', 'spiral', 'turn', 'screw', 'deform', 'warp'],
	help: 'Turns cross-sections about an axis, more and more along it.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What is twisted. Copies move and turn with it.',
			needs: 'anything'
		}),
		angle: number({
			label: 'Angle',
			help: 'At the end of the stretch.',
			default: 90,
			slider: [-720, 720],
			step: 1,
			unit: '°'
		}),
		...stretchInputs,
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same, twisted.') },
	run({ geometry, angle, axis, from, to, ...given }, context) {
		const stretch = stretchOf(geometry, { axis, from, to });
		return { geometry: stretch ? deform(geometry, given, context, twistMap(stretch, angle)) : geometry };
	}
});
