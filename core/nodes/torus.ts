import { TAU, cos, sin } from '../math/index.ts';
import { geometryOf } from '../geometry/index.ts';
import { revolve } from '../kernels/revolve.ts';
import { defineNode, number, output } from './define.ts';

export const torus = defineNode({
	id: 'torus',
	version: 1,
	name: 'Torus',
	family: 'meshes',
	words: ['ring', 'donut', 'tyre', 'primitive'],
	help: 'A ring with a round section, lying flat.',
	inputs: {
		radius: number({
			label: 'Radius',
			help: 'From the middle of the ring to the middle of its section.',
			default: 1,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		thickness: number({
			label: 'Section radius',
			help: 'The radius of the section.',
			default: 0.25,
			min: 0,
			slider: [0, 2],
			unit: 'm'
		}),
		sides: number({
			label: 'Sides',
			help: 'Faces round the ring.',
			default: 48,
			min: 3,
			max: 4096,
			slider: [3, 128],
			whole: true
		}),
		rows: number({
			label: 'Section sides',
			help: 'Faces round the section.',
			default: 16,
			min: 3,
			max: 4096,
			slider: [3, 64],
			whole: true
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The torus.') },
	estimate: ({ sides, rows }) => ({
		elements: sides * rows,
		of: 'points',
		lower: 'Lower “Sides” or “Section sides”.'
	}),
	run({ radius, thickness, sides, rows }) {
		const points = Array.from({ length: rows }, (_, i): [number, number] => [
			Math.max(0, radius + thickness * cos((TAU * i) / rows)),
			thickness * sin((TAU * i) / rows)
		]);
		return { mesh: geometryOf({ mesh: revolve({ points, closed: true }, sides) }) };
	}
});
