import { closeUp, subdivideWhere } from '../kernels/subdivide.ts';
import type { Refined } from '../kernels/subdivide.ts';
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
		}),
		weight: number({
			label: 'Weight',
			help: 'Where: faces of weight 1 are cut all the times, of 0 not at all, between them fewer times. It is read again on the finer faces, so its edge becomes finer too; faces next to cut ones are joined to them without cracks.',
			default: 1,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'face'
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with more faces.') },
	estimate: ({ geometry, times, weight }) => ({
		elements:
			times === 0 || weight.op !== 'constant'
				? 0
				: (geometry.mesh?.corners.count ?? 0) *
					4 *
					Array.from({ length: times - 1 }).reduce((sum: number) => sum * 4, 1),
		of: 'corners',
		lower: 'Lower “Times”.'
	}),
	run({ geometry, times, how, weight }, context) {
		const everywhere = weight.op === 'constant' && weight.value === 1;
		let refined: Refined = { mesh: geometry.mesh!, wanting: new Uint8Array(geometry.mesh!.faces.count) };
		for (let time = 1; time <= times; time++) {
			context.poll();
			const chosen = everywhere
				? null
				: facesFor(
						time,
						times,
						context.numbers(weight, {
							geometry: { ...geometry, mesh: refined.mesh },
							part: 'mesh',
							kind: 'face'
						})
					);
			if (chosen && !chosen.includes(1)) break;
			refined = subdivideWhere(refined, chosen, how === 'smooth');
		}
		const mesh = closeUp(refined);
		return { geometry: mesh === geometry.mesh ? geometry : { ...geometry, mesh } };
	}
});

/** The faces whose weight asks for at least so many times of all. */
const facesFor = (time: number, times: number, weights: Float32Array): Uint8Array =>
	Uint8Array.from(weights, (weight) => (weight * times >= time - 0.5 ? 1 : 0));
