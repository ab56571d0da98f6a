import { pollAt, scratch } from '../../geometry/index.ts';
import { relaxed } from '../../kernels/relax.ts';
import { defineNode, geometry, number, output, yesNo } from '../define.ts';
import { withMoved } from './deform-tools.ts';
import { weightInputs, weightsOn } from '../weights/weight-tools.ts';

/** For a point or a neighbour of one, each time, on a slow machine. */
const SECONDS_EACH = 7e-8;

export const relax = defineNode({
	id: 'relax',
	version: 1,
	name: 'Relax',
	family: 'deform',
	words: ['smooth', 'laplacian', 'soften', 'even out', 'blur', 'average', 'deform'],
	help: 'Draws each point towards the middle of its neighbours, several times. Smooths meshes and curves.',
	renamed: [{ before: 2, inputs: { times: 'iterations' } }],
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'Meshes and curves; the rest is let through.',
			needs: 'anything'
		}),
		iterations: number({
			label: 'Iterations',
			help: 'How often all points are moved towards their neighbours.',
			default: 5,
			min: 0,
			max: 500,
			slider: [0, 50],
			whole: true
		}),
		amount: number({
			label: 'Amount',
			help: 'How far to the middle of its neighbours a point goes each time.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01
		}),
		keepEnds: yesNo({
			label: 'Keep borders',
			help: 'Ends of curves and open edges of meshes stay where they are.',
			default: true
		}),
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same, smoother.') },
	estimate({ geometry: { mesh, curves }, iterations }) {
		const points = (mesh?.points.count ?? 0) + (curves?.points.count ?? 0);
		const looked = points + (mesh?.corners.count ?? 0) + 2 * (curves?.points.count ?? 0);
		return {
			elements: points,
			of: 'points',
			seconds: SECONDS_EACH * looked * iterations,
			lower: 'Lower “Iterations”, or relax what has fewer points.'
		};
	},
	run({ geometry, iterations, amount, keepEnds, ...given }, context) {
		let out = geometry;
		for (const part of ['mesh', 'curves'] as const) {
			const own = geometry[part];
			if (!own?.points.count || iterations === 0) continue;
			const weights = weightsOn(context, given, { geometry, part, kind: 'point' });
			const share = scratch('float', weights.length);
			for (let i = 0; i < share.length; i++) {
				pollAt(i);
				share[i] = weights[i] * amount;
			}
			const moved = relaxed(geometry, part, { iterations, share, keepEnds });
			out = withMoved(out, part, 'point', moved);
		}
		return { geometry: out };
	}
});
