import { geometryOf } from '../../geometry/index.ts';
import { revolve } from '../../kernels/revolve.ts';
import { defineNode, number, output } from '../define.ts';

export const disc = defineNode({
	id: 'disc',
	version: 1,
	name: 'Disc',
	family: 'meshes',
	words: ['circle', 'filled circle', 'annulus', 'washer', 'fan', 'primitive'],
	help: 'A flat round mesh facing up. An inner radius leaves a hole.',
	renamed: [{ before: 2, inputs: { sides: 'segments' } }],
	inputs: {
		radius: number({
			label: 'Radius',
			help: 'From the middle to the rim.',
			default: 0.5,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		innerRadius: number({
			label: 'Inner radius',
			help: 'The radius of the hole; 0 leaves none.',
			default: 0,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		segments: number({
			label: 'Segments',
			help: 'Faces around.',
			default: 32,
			min: 3,
			max: 4096,
			slider: [3, 96],
			whole: true
		}),
		rings: number({
			label: 'Rings',
			help: 'Faces from the middle to the rim.',
			default: 1,
			min: 1,
			max: 4096,
			slider: [1, 32],
			whole: true
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The disc.') },
	estimate: ({ segments, rings }) => ({
		elements: segments * (rings + 1),
		of: 'points',
		lower: 'Lower “Segments” or “Rings”.'
	}),
	run({ radius, innerRadius, segments, rings }, context) {
		if (innerRadius > radius) context.warn('The hole is wider than the disc; the two were exchanged.');
		const [inner, outer] = innerRadius > radius ? [radius, innerRadius] : [innerRadius, radius];
		const points = Array.from({ length: rings + 1 }, (_, i): [number, number] => [
			outer + ((inner - outer) * i) / rings,
			0
		]);
		return { mesh: geometryOf({ mesh: revolve({ points, closed: false }, segments) }) };
	}
});
