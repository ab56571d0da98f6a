import { subdivide as once } from '../kernels/subdivide.ts';
import { choice, defineNode, geometry, number, output } from './define.ts';

export const subdivide = defineNode({
	id: 'subdivide',
	version: 1,
	name: 'Subdivide',
	family: 'meshes',
	words: ['catmull clark', 'smooth', 'refine', 'subdivision surface', 'more faces'],
	help: 'Cuts every face into quads, several times: flat, or smoothed into a rounded surface.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'The mesh; the rest is let through.', needs: 'mesh' }),
		times: number({
			label: 'Times',
			help: 'Each time there are four times as many quads.',
			default: 1,
			min: 0,
			max: 8,
			slider: [0, 5],
			whole: true
		}),
		how: choice({
			label: 'How',
			help: 'Flat keeps the shape; smooth rounds it off.',
			default: 'smooth',
			options: [
				{ id: 'smooth', label: 'Smooth (Catmull-Clark)' },
				{ id: 'flat', label: 'Flat' }
			]
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with more faces.') },
	estimate: ({ geometry, times }) => ({
		elements:
			times === 0
				? 0
				: (geometry.mesh?.corners.count ?? 0) *
					4 *
					Array.from({ length: times - 1 }).reduce((sum: number) => sum * 4, 1),
		of: 'corners',
		lower: 'Lower “Times”.'
	}),
	run({ geometry, times, how }, context) {
		let mesh = geometry.mesh!;
		for (let time = 0; time < times; time++) {
			context.poll();
			mesh = once(mesh, how === 'smooth');
		}
		return { geometry: times === 0 ? geometry : { ...geometry, mesh } };
	}
});
