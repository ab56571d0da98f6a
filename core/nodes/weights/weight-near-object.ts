import type { Geometry } from '../../geometry/index.ts';
import { digestOf, pollAt } from '../../geometry/index.ts';
import { treesOf } from '../../kernels/nearest.ts';
import { constant, defineField, fieldAt, operate } from '../../varying/index.ts';
import { defineNode, geometry, number, output, yesNo } from '../define.ts';
import { oneMinus, wayBetween, weightOutput } from './weight-tools.ts';

export const weightNearObject = defineNode({
	id: 'weight-near-object',
	version: 1,
	name: 'Weight near object',
	family: 'weights',
	words: ['falloff', 'mask', 'proximity', 'distance', 'closest', 'attractor'],
	help: 'By the distance to an object: the surface of a mesh, curves or points. 1 up to one distance, 0 from another.',
	renamed: [{ before: 2, inputs: { from: 'fullUpTo', to: 'noneFrom' } }],
	inputs: {
		object: geometry({
			label: 'Object',
			help: 'Mesh, curves and points; the nearest of them counts.',
			needs: 'anything'
		}),
		fullUpTo: number({
			label: 'Full up to',
			help: 'The distance up to which the weight is 1.',
			default: 0,
			min: 0,
			slider: [0, 5],
			unit: 'm',
			varies: 'point'
		}),
		noneFrom: number({
			label: 'None from',
			help: 'The distance at which it is 0.',
			default: 1,
			min: 0,
			slider: [0, 5],
			unit: 'm',
			varies: 'point'
		}),
		invert: yesNo({ label: 'Invert', help: 'Weighs 1 far away and 0 near.', default: false })
	},
	outputs: {
		weight: weightOutput,
		distance: output('number', 'Distance', 'To the object, in metres.')
	},
	run({ object, fullUpTo, noneFrom, invert }, context) {
		const trees = treesOf(object);
		if (!trees.length)
			context.warn(
				object.copies
					? 'Copies are not looked into: make a mesh of them with “Copies to mesh”.'
					: 'The object is empty, so nothing is near it.'
			);
		const distance = trees.length ? fieldAt(distanceField(digestOf(object), { object })) : constant(1e9);
		const near = oneMinus(wayBetween(distance, fullUpTo, noneFrom));
		return { weight: invert ? oneMinus(near) : near, distance: operate('add', [distance, constant(0)]) };
	}
});

export const distanceField = defineField('distance', ({ object }: { object: Geometry }) => {
	const trees = treesOf(object);
	return (n, out, x, y, z) =>
		trees.forEach((tree, t) => {
			for (let i = 0; i < n; i++) {
				pollAt(i);
				const d = tree.nearest(x[i], y[i], z[i]).distance;
				out[i] = t === 0 || d < out[i] ? d : out[i];
			}
		});
});
