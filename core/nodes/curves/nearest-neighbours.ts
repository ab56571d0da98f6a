import { plural } from '../../math/index.ts';
import {
	Growing,
	EMPTY,
	allocate,
	column,
	floats,
	makeCurves,
	pollAt,
	withColumns
} from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { pairsWithin } from '../../kernels/pairs-within.ts';
import { PointTree } from '../../kernels/point-tree.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';

export const nearestNeighbours = defineNode({
	id: 'nearest-neighbours',
	// 2: within a distance the nearest of all come first, and none with room stay apart.
	version: 2,
	name: 'Nearest neighbours',
	family: 'curves',
	words: [
		'spline',
		'path',
		'connect points',
		'proximity',
		'web',
		'network',
		'k nearest',
		'lines between points'
	],
	help: 'A line from each point to those nearest to it: to so many, or to all within a distance. Each pair is joined once.',
	inputs: {
		points: geometry({ label: 'Points', help: 'Points, or whatever has some.', needs: 'anything' }),
		method: choice({
			label: 'Method',
			help: 'Which neighbours are joined.',
			default: 'count',
			options: [
				{ id: 'count', label: 'So many' },
				{ id: 'distance', label: 'Within a distance' }
			]
		}),
		count: number({
			label: 'Count',
			help: 'How many nearest ones of each point.',
			default: 3,
			min: 0,
			max: 64,
			whole: true,
			when: (s) => s.method === 'count'
		}),
		distance: number({
			label: 'Distance',
			help: 'Pairs no further apart.',
			default: 1,
			min: 0,
			slider: [0, 5],
			unit: 'm',
			when: (s) => s.method === 'distance'
		}),
		most: number({
			label: 'At most',
			help: 'How many lines may end at one point. The nearest pairs of all come first.',
			default: 12,
			min: 0,
			whole: true,
			when: (s) => s.method === 'distance'
		})
	},
	outputs: {
		lines: output(
			'geometry',
			'Lines',
			'A line for each pair, with the numbers of its two points in “first” and “second”, and its “length”.'
		)
	},
	estimate({ points, method, count, most }) {
		const lines = asPoints(points).points!.points.count * (method === 'count' ? count : Math.min(most, 24));
		return {
			elements: 2 * lines,
			of: 'points',
			most: 8_000_000,
			// The pairs that are joined already are kept apart while it runs.
			bytes: PAIR_BYTES * lines,
			lower: method === 'count' ? 'Lower “Count”.' : 'Lower “Distance” or “At most”.'
		};
	},
	run({ points, method, count, distance, most }, context) {
		const { points: table } = asPoints(points).points!;
		const p = floats(table, 'position');
		const places = Float64Array.from(p);
		const tree = new PointTree(places, 3);
		const n = table.count;
		const found = method === 'distance' ? pairsWithin(tree, p, distance, most) : pairsOf(tree, p, count);
		if (method === 'count' && n > 0 && count >= n)
			context.warn(
				`${plural(n, 'point has', 'points have')} ${n - 1} neighbours at most, fewer than “Count”.`
			);
		return {
			lines: {
				...EMPTY,
				materials: points.materials,
				curves: linesOf(p, found.firsts.view(), found.seconds.view())
			}
		};
	}
});

/** What a set of numbers takes for each. */
const PAIR_BYTES = 40;

/** Each point with so many nearest ones, each pair once. */
function pairsOf(tree: PointTree, p: Float32Array, count: number) {
	const n = p.length / 3;
	const [firsts, seconds] = [new Growing('index'), new Growing('index')];
	const seen = new Set<number>();
	for (let i = 0; i < n; i++) {
		pollAt(i << 6);
		for (const j of tree.kNearest(p[3 * i], p[3 * i + 1], p[3 * i + 2], Math.min(count, n), i)) {
			const [a, b] = [Math.min(i, j), Math.max(i, j)];
			const pair = a * n + b;
			if (seen.has(pair)) continue;
			seen.add(pair);
			firsts.push(a);
			seconds.push(b);
		}
	}
	return { firsts, seconds };
}

function apart(p: Float32Array, i: number, j: number): number {
	let square = 0;
	for (let k = 0; k < 3; k++) square += (p[3 * i + k] - p[3 * j + k]) * (p[3 * i + k] - p[3 * j + k]);
	return Math.sqrt(square);
}

function linesOf(p: Float32Array, firsts: Uint32Array, seconds: Uint32Array) {
	const count = firsts.length;
	const positions = allocate('float', 6 * count),
		starts = allocate('index', count + 1),
		lengths = allocate('float', count),
		first = allocate('int', count),
		second = allocate('int', count);
	for (let l = 0; l < count; l++) {
		pollAt(l);
		for (let k = 0; k < 3; k++) {
			positions[6 * l + k] = p[3 * firsts[l] + k];
			positions[6 * l + 3 + k] = p[3 * seconds[l] + k];
		}
		starts[l + 1] = 2 * (l + 1);
		lengths[l] = apart(p, firsts[l], seconds[l]);
		[first[l], second[l]] = [firsts[l], seconds[l]];
	}
	const curves = makeCurves(positions, starts, allocate('byte', count));
	return {
		...curves,
		curves: withColumns(curves.curves, {
			first: column('int', 'id', first),
			second: column('int', 'id', second),
			length: column('float', 'plain', lengths)
		})
	};
}
