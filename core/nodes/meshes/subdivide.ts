import { scratch, pollAt, poll } from '../../geometry/index.ts';
import { closeUp, subdivideWhere } from '../../kernels/subdivide.ts';
import { splitDented } from '../../kernels/split-dented.ts';
import type { Refined } from '../../kernels/subdivide.ts';
import type { Geometry, Mesh } from '../../geometry/index.ts';
import type { Varying } from '../../varying/index.ts';
import type { Context } from '../define.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';

export const subdivide = defineNode({
	id: 'subdivide',
	version: 1,
	name: 'Subdivide',
	family: 'meshes',
	words: ['catmull clark', 'smooth', 'refine', 'subdivision surface', 'more faces', 'remesh'],
	help: 'Cuts every face into quads, several times: flat, or smoothed into a rounded surface.',
	renamed: [{ before: 2, inputs: { how: 'method', times: 'levels' } }],
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'The mesh; the rest is let through.', needs: 'mesh' }),
		levels: number({
			label: 'Levels',
			help: 'Each time there are four times as many quads.',
			default: 1,
			min: 0,
			max: 8,
			slider: [0, 5],
			whole: true
		}),
		method: choice({
			label: 'Method',
			help: 'Flat keeps the shape; smooth rounds it off.',
			default: 'smooth',
			options: [
				{ id: 'smooth', label: 'Smooth (Catmull-Clark)' },
				{ id: 'flat', label: 'Flat' }
			]
		}),
		weight: number({
			label: 'Weight',
			help: 'Where: faces of weight 1 are cut all the times, of 0 not at all, between them fewer times. It is read at the middles and points of faces, and again on the finer ones, so its edge becomes fine; faces next to cut ones are joined to them without cracks.',
			default: 1,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'face'
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with more faces.') },
	// Where a weight chooses, what it chooses is not known before.
	estimate: ({ geometry: { mesh }, levels, weight }) =>
		mesh && weight.constant
			? {
					elements: (levels ? splitDented(mesh, null) : mesh).corners.count * (1 << (2 * levels)),
					of: 'corners',
					lower: 'Lower “Levels”.'
				}
			: null,
	run({ geometry, levels, method, weight }, context) {
		const everywhere = weight.op === 'constant' && weight.value === 1;
		// Around the middle of a face with a dent its parts would lie over one another.
		const whole = geometry.mesh!;
		const first =
			everywhere || levels === 0 ? null : facesFor(0.5 / levels, weight, geometry, whole, context);
		const plain = levels === 0 ? whole : splitDented(whole, first);
		let refined: Refined = { mesh: plain, wanting: scratch('byte', plain.faces.count) };
		for (let time = 1; time <= levels; time++) {
			poll();
			const chosen = everywhere
				? null
				: facesFor(time / levels - 0.5 / levels, weight, geometry, refined.mesh, context);
			if (chosen && !chosen.includes(1)) break;
			refined = subdivideWhere(refined, chosen, method === 'smooth');
		}
		const mesh = closeUp(refined);
		return { geometry: mesh === geometry.mesh ? geometry : { ...geometry, mesh } };
	}
});

/**
 * The faces that weigh at least so much, in their middle or at one of their points: so a face that a weight only reaches
 * into is cut too, and the weight's edge becomes fine.
 */
function facesFor(
	least: number,
	weight: Varying,
	geometry: Geometry,
	mesh: Mesh,
	context: Context
): Uint8Array {
	const on = (kind: 'face' | 'point') =>
		context.numbers(weight, { geometry: { ...geometry, mesh }, part: 'mesh', kind });
	const chosen = Uint8Array.from(on('face'), (w) => (w >= least ? 1 : 0));
	const points = on('point');
	const { faceStarts, cornerPoints } = mesh.topology;
	for (let f = 0; f < chosen.length; f++) {
		pollAt(f);
		for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++)
			if (points[cornerPoints[c]] >= least) chosen[f] = 1;
	}
	return chosen;
}
