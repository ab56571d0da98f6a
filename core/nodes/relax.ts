import { allocate, edgesOf, positionsOf, scratch } from '../geometry/index.ts';
import type { Curves, Mesh } from '../geometry/index.ts';
import { pollAt } from '../geometry/index.ts';
import { defineNode, geometry, number, output, yesNo } from './define.ts';
import { withMoved } from './deform-tools.ts';
import { weightInputs, weightsOn } from './weight-tools.ts';

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
	run({ geometry, iterations, amount, keepEnds, ...given }, context) {
		let out = geometry;
		for (const part of ['mesh', 'curves'] as const) {
			const own = geometry[part];
			if (!own?.points.count || iterations === 0) continue;
			const weights = weightsOn(context, given, { geometry, part, kind: 'point' });
			const pairs = part === 'mesh' ? pairsOfMesh(geometry.mesh!) : pairsOfCurves(geometry.curves!);
			const fixed = keepEnds
				? bordersOf(pairs, part === 'mesh' ? geometry.mesh! : null, own.points.count)
				: null;
			const share = weights.map((w, i) => (fixed?.[i] ? 0 : w * amount));
			out = withMoved(out, part, 'point', smoothed(positionsOf(own), pairs, share, iterations));
		}
		return { geometry: out };
	}
});

const pairsOfMesh = (mesh: Mesh): Uint32Array => edgesOf(mesh.topology).points;

function pairsOfCurves({ starts, curves }: Curves): Uint32Array {
	const closed = curves.columns.get('closed')!.data;
	const out: number[] = [];
	for (let c = 0; c + 1 < starts.length; c++) {
		pollAt(c);
		for (let i = starts[c]; i + 1 < starts[c + 1]; i++) out.push(i, i + 1);
		if (closed[c] && starts[c + 1] - starts[c] > 2) out.push(starts[c + 1] - 1, starts[c]);
	}
	return Uint32Array.from(out);
}

/** On curves the points with one neighbour, on meshes those of edges that only one face uses. */
function bordersOf(pairs: Uint32Array, mesh: Mesh | null, count: number): Uint8Array {
	const out = scratch('byte', count);
	if (mesh) {
		const { uses } = edgesOf(mesh.topology);
		for (let e = 0; e < uses.length; e++) {
			pollAt(e);
			if (uses[e] === 1) out[pairs[2 * e]] = out[pairs[2 * e + 1]] = 1;
		}
		return out;
	}
	const neighbours = scratch('index', count);
	for (const point of pairs) neighbours[point]++;
	for (let i = 0; i < count; i++) {
		pollAt(i);
		out[i] = neighbours[i] < 2 ? 1 : 0;
	}
	return out;
}

function smoothed(
	positions: Float32Array,
	pairs: Uint32Array,
	share: Float32Array,
	iterations: number
): Float32Array {
	let from = scratch('double', positions.length),
		to = scratch('double', from.length);
	from.set(positions);
	const counts = scratch('double', share.length);
	for (const point of pairs) counts[point]++;
	for (let time = 0; time < iterations; time++) {
		to.fill(0);
		for (let e = 0; e < pairs.length; e += 2) {
			pollAt(e >> 1);
			const a = 3 * pairs[e],
				b = 3 * pairs[e + 1];
			for (let k = 0; k < 3; k++) {
				to[a + k] += from[b + k];
				to[b + k] += from[a + k];
			}
		}
		for (let i = 0; i < share.length; i++)
			for (let k = 3 * i; k < 3 * i + 3; k++)
				to[k] = counts[i] && share[i] !== 0 ? from[k] + (to[k] / counts[i] - from[k]) * share[i] : from[k];
		[from, to] = [to, from];
	}
	const out = allocate('float', positions.length);
	out.set(from);
	return out;
}
