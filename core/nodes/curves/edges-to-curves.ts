import { PI, cos } from '../../math/index.ts';
import {
	column,
	edgesOf,
	EMPTY,
	gatherTable,
	Growing,
	makeTable,
	pollAt,
	scratch
} from '../../geometry/index.ts';
import type { Curves, Mesh } from '../../geometry/index.ts';
import { cosinesOf } from '../../kernels/edge-turns.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';

export const edgesToCurves = defineNode({
	id: 'edges-to-curves',
	version: 1,
	name: 'Edges to curves',
	family: 'curves',
	words: ['wireframe', 'outline', 'border', 'feature lines', 'mesh edges', 'spline', 'path'],
	help: 'Edges of a mesh as curves: all of them, the open border, sharp ones, or where a weight says. Edges that follow one another become one curve.',
	inputs: {
		mesh: geometry({ label: 'Mesh', help: 'The mesh whose edges are taken.', needs: 'mesh' }),
		which: choice({
			label: 'Which',
			help: 'Which edges are taken.',
			default: 'own',
			options: [
				{ id: 'own', label: 'The border, else all' },
				{ id: 'all', label: 'All' },
				{ id: 'border', label: 'The border' },
				{ id: 'angle', label: 'Sharp ones' },
				{ id: 'weight', label: 'By a weight' }
			]
		}),
		angle: number({
			label: 'Angle',
			help: 'Edges between faces that turn by more than this.',
			default: 30,
			min: 0,
			max: 180,
			unit: '°',
			when: (s) => s.which === 'angle'
		}),
		weight: number({
			label: 'Weight',
			help: 'Edges with more than a half are taken.',
			default: 1,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'edge',
			when: (s) => s.which === 'weight'
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The edges.') },
	run({ mesh: source, which, angle, weight }, context) {
		const mesh = source.mesh!;
		const { uses } = edgesOf(mesh.topology);
		let taken: (e: number) => boolean;
		const isAll = which === 'all' || (which === 'own' && !uses.some((count) => count === 1));
		if (isAll) taken = () => true;
		else if (which === 'border' || which === 'own') taken = (e) => uses[e] === 1;
		else if (which === 'weight') {
			const weights = context.numbers(weight, { geometry: source, part: 'mesh', kind: 'edge' });
			taken = (e) => weights[e] > 0.5;
		} else {
			const turns = cosinesOf(mesh);
			const least = cos((angle * PI) / 180);
			taken = (e) => uses[e] !== 2 || turns[e] < least;
		}
		return { curve: { ...EMPTY, curves: chains(mesh, taken) } };
	}
});

/** Runs of edges from branching points or ends; what is left are loops. */
function chains(mesh: Mesh, taken: (e: number) => boolean): Curves {
	const { points, uses } = edgesOf(mesh.topology);
	const { pointCount } = mesh.topology;
	const open = scratch('byte', uses.length);
	// The taken edges at each point, in their order: those of point p are `at[first[p] … first[p + 1]]`.
	const first = scratch('index', pointCount + 1);
	for (let e = 0; e < uses.length; e++) {
		pollAt(e);
		if (!taken(e)) continue;
		open[e] = 1;
		first[points[2 * e] + 1]++;
		first[points[2 * e + 1] + 1]++;
	}
	for (let p = 0; p < pointCount; p++) {
		pollAt(p);
		first[p + 1] += first[p];
	}
	const at = scratch('index', first[pointCount]);
	const filled = scratch('index', pointCount);
	for (let e = 0; e < uses.length; e++) {
		pollAt(e);
		if (!open[e]) continue;
		for (let end = 0; end < 2; end++) {
			const p = points[2 * e + end];
			at[first[p] + filled[p]++] = e;
		}
	}
	const degree = (p: number): number => first[p + 1] - first[p];
	const rows = new Growing('index'),
		starts = new Growing('index'),
		closed = new Growing('byte');
	starts.push(0);
	/** The edge that goes on from a point which two edges share; −1 where none is open. */
	const next = (p: number): number => {
		if (degree(p) !== 2) return -1;
		const [a, b] = [at[first[p]], at[first[p] + 1]];
		return open[a] ? a : open[b] ? b : -1;
	};
	const follow = (start: number, edge: number) => {
		const from = rows.length;
		rows.push(start);
		for (let e = edge, p = start; e >= 0; e = next(p)) {
			open[e] = 0;
			p = points[2 * e] === p ? points[2 * e + 1] : points[2 * e];
			rows.push(p);
		}
		const isLoop = rows.length - from > 3 && rows.at(from) === rows.at(rows.length - 1);
		if (isLoop) rows.length--;
		starts.push(rows.length);
		closed.push(isLoop ? 1 : 0);
	};
	for (let p = 0; p < pointCount; p++) {
		pollAt(p);
		if (degree(p) === 2) continue;
		for (let i = first[p]; i < first[p + 1]; i++) if (open[at[i]]) follow(p, at[i]);
	}
	for (let e = 0; e < uses.length; e++) {
		pollAt(e);
		if (open[e]) follow(points[2 * e], e);
	}
	return {
		points: gatherTable(mesh.points, rows.view()),
		curves: makeTable(closed.length, { closed: column('bool', 'plain', closed.take()) }),
		starts: starts.take()
	};
}
