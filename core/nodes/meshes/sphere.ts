import { PI, cos, sin } from '../../math/index.ts';
import { geometryOf } from '../../geometry/index.ts';
import { revolve } from '../../kernels/revolve.ts';
import { defineNode, number, output } from '../define.ts';

export const sphere = defineNode({
	id: 'sphere',
	version: 1,
	name: 'Sphere',
	family: 'meshes',
	words: ['ball', 'globe', 'dome', 'primitive'],
	help: 'A sphere around the origin, with a point at each pole.',
	renamed: [{ before: 2, inputs: { sides: 'segments' } }],
	inputs: {
		radius: number({
			label: 'Radius',
			help: 'From the middle to the surface.',
			default: 0.5,
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
		rows: number({
			label: 'Rows',
			help: 'Faces from pole to pole.',
			default: 16,
			min: 2,
			max: 4096,
			slider: [2, 64],
			whole: true
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The sphere.') },
	estimate: ({ segments, rows }) => ({
		elements: segments * rows,
		of: 'points',
		lower: 'Lower “Segments” or “Rows”.'
	}),
	run({ radius, segments, rows }) {
		const points = Array.from({ length: rows + 1 }, (_, i): [number, number] => {
			const angle = (PI * i) / rows;
			return [i === 0 || i === rows ? 0 : radius * sin(angle), -radius * cos(angle)];
		});
		return { mesh: geometryOf({ mesh: revolve({ points, closed: false }, segments) }) };
	}
});
