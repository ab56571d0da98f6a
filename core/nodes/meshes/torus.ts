import { TAU, cos, sin } from '../../math/index.ts';
import { geometryOf } from '../../geometry/index.ts';
import { revolve } from '../../kernels/revolve.ts';
import { defineNode, number, output } from '../define.ts';

export const torus = defineNode({
	id: 'torus',
	version: 1,
	name: 'Torus',
	family: 'meshes',
	words: ['ring', 'donut', 'tyre', 'primitive'],
	help: 'A ring with a round section, lying flat.',
	renamed: [{ before: 2, inputs: { sides: 'segments', rows: 'sectionSegments' } }],
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
		segments: number({
			label: 'Segments',
			help: 'Faces round the ring.',
			default: 48,
			min: 3,
			max: 4096,
			slider: [3, 128],
			whole: true
		}),
		sectionSegments: number({
			label: 'Section segments',
			help: 'Faces round the section.',
			default: 16,
			min: 3,
			max: 4096,
			slider: [3, 64],
			whole: true
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The torus.') },
	estimate: ({ segments, sectionSegments }) => ({
		elements: segments * sectionSegments,
		of: 'points',
		lower: 'Lower “Segments” or “Section segments”.'
	}),
	run({ radius, thickness, segments, sectionSegments }) {
		const points = Array.from({ length: sectionSegments }, (_, i): [number, number] => [
			Math.max(0, radius + thickness * cos((TAU * i) / sectionSegments)),
			thickness * sin((TAU * i) / sectionSegments)
		]);
		return { mesh: geometryOf({ mesh: revolve({ points, closed: true }, segments) }) };
	}
});
