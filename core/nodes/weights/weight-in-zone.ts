import { zoneField } from '../../kernels/zone.ts';
import type { Zone } from '../../kernels/zone.ts';
import { fieldAt } from '../../varying/index.ts';
import { choice, defineNode, number, vector, yesNo } from '../define.ts';
import { oneMinus, weightOutput } from './weight-tools.ts';

export const weightInZone = defineNode({
	id: 'weight-in-zone',
	version: 1,
	name: 'Weight in zone',
	family: 'weights',
	words: ['falloff', 'mask', 'sphere', 'box', 'region', 'area of effect'],
	help: 'A shape in space: 1 up to its inner bound, falling to 0 at its outer bound. Move it in the View. Several nodes may share it by wires.',
	renamed: [{ before: 2, inputs: { rotate: 'rotation' } }],
	inputs: {
		shape: choice({
			label: 'Shape',
			help: 'A half-space is everything below a plane.',
			default: 'sphere',
			options: [
				{ id: 'sphere', label: 'Sphere' },
				{ id: 'box', label: 'Box' },
				{ id: 'cylinder', label: 'Cylinder' },
				{ id: 'half-space', label: 'Half-space' }
			]
		}),
		centre: vector({ label: 'Centre', help: 'Where it is.', default: [0, 0, 0], unit: 'm' }),
		rotation: vector({
			label: 'Rotation',
			help: 'About the world’s axes x, then y, then z.',
			default: [0, 0, 0],
			unit: '°',
			step: 1
		}),
		size: vector({
			label: 'Size',
			help: 'The whole shape along each of its axes.',
			default: [2, 2, 2],
			unit: 'm',
			min: 0,
			uniform: true,
			when: (s) => s.shape !== 'half-space'
		}),
		inner: number({
			label: 'Inner bound',
			help: 'How far outside the shape the weight is still 1. Negative: inside it.',
			default: -0.5,
			slider: [-2, 2],
			step: 0.01,
			unit: 'm'
		}),
		outer: number({
			label: 'Outer bound',
			help: 'How far outside the shape the weight is 0.',
			default: 0.5,
			slider: [-2, 2],
			step: 0.01,
			unit: 'm'
		}),
		power: number({
			label: 'Power',
			help: '1 falls evenly; more keeps the effect nearer to the shape.',
			default: 1,
			min: 0.01,
			slider: [0.1, 8],
			step: 0.1
		}),
		invert: yesNo({ label: 'Invert', help: 'Weighs 1 outside and 0 within.', default: false })
	},
	outputs: { weight: weightOutput },
	handles: { move: 'centre', rotate: 'rotation', scale: 'size' },
	run({ shape, centre, rotation, size, inner, outer, power, invert }, context) {
		if (outer < inner)
			context.warn('“Outer bound” lies within “Inner bound”, so the zone has a hard edge at the inner one.');
		const inside = fieldAt(
			zoneField({ shape: shape as Zone['shape'], centre, rotate: rotation, size, inner, outer, power })
		);
		return { weight: invert ? oneMinus(inside) : inside };
	}
});
