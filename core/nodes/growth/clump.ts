import { allocate, scratch, curveCount, floats, idsOf, positionsOf, pollAt } from '../../geometry/index.ts';
import type { Curves, Geometry } from '../../geometry/index.ts';
import { mix, toUnit } from '../../math/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { clumpCurves } from '../../kernels/comb.ts';
import { PointTree } from '../../kernels/point-tree.ts';
import { defineNode, geometry, number, output } from '../define.ts';

export const clump = defineNode({
	id: 'clump',
	version: 1,
	name: 'Clump',
	family: 'growth',
	words: ['tuft', 'bundle', 'wisp', 'lock', 'gather strands', 'wet'],
	help: 'Draws the ends of strands together: each to the strand of its clump, which is the nearest to a centre, or one of so many by chance.',
	inputs: {
		strands: geometry({ label: 'Strands', help: 'The curves that are drawn together.', needs: 'curves' }),
		centres: geometry({
			label: 'Centres',
			help: 'Points: the strand nearest to each is a clump’s. Without any, some strands are by chance.',
			optional: true
		}),
		size: number({
			label: 'Strands in a clump',
			help: 'In the mean, where no centres are wired.',
			default: 12,
			min: 1,
			slider: [1, 100]
		}),
		amount: number({
			label: 'Amount',
			help: 'How far their ends are drawn: 1 brings them together.',
			default: 0.7,
			min: 0,
			max: 1,
			varies: 'curve'
		}),
		shape: number({
			label: 'Shape',
			help: '1 draws evenly along a strand; more draws only its end.',
			default: 1.5,
			min: 0.1,
			slider: [0.2, 5]
		})
	},
	outputs: { strands: output('geometry', 'Strands', 'The same, in clumps.') },
	seeded: true,
	run({ strands, centres, size, amount, shape }, context) {
		const curves = strands.curves!;
		if (!curveCount(curves)) return { strands };
		const leaders = leadersOf(curves, centres, size, context.stream());
		const roots = rootsOf(curves);
		const tree = new PointTree(gathered(roots, leaders), 3);
		const centre = allocate('int', curveCount(curves));
		for (let c = 0; c < centre.length; c++) {
			pollAt(c);
			centre[c] = leaders[tree.nearest(roots[3 * c], roots[3 * c + 1], roots[3 * c + 2])];
		}
		const by = context.numbers(amount, { geometry: strands, part: 'curves', kind: 'curve' });
		return { strands: { ...strands, curves: clumpCurves(curves, centre, by, shape) } };
	}
});

/** The first points of curves. */
function rootsOf(curves: Curves): Float64Array {
	const p = positionsOf(curves);
	const roots = scratch('double', 3 * curveCount(curves));
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		for (let k = 0; k < 3; k++) roots[3 * c + k] = p[3 * curves.starts[c] + k];
	}
	return roots;
}

function gathered(roots: Float64Array, rows: readonly number[]): Float64Array {
	const out = scratch('double', 3 * rows.length);
	rows.forEach((row, i) => {
		for (let k = 0; k < 3; k++) out[3 * i + k] = roots[3 * row + k];
	});
	return out;
}

/** The strands to which others are drawn: a strand that is one stays one when there are more of them. */
function leadersOf(
	curves: Curves,
	centres: Geometry | null,
	size: number,
	[first, second]: readonly [number, number]
): number[] {
	const count = curveCount(curves);
	if (centres) {
		const places = floats(asPoints(centres).points!.points, 'position');
		const tree = new PointTree(rootsOf(curves), 3);
		const found = new Set<number>();
		for (let i = 0; i < places.length; i += 3)
			found.add(tree.nearest(places[i], places[i + 1], places[i + 2]));
		if (found.size) return [...found];
	}
	const ids = idsOf(curves.curves);
	const chosen: number[] = [];
	for (let c = 0; c < count; c++) {
		pollAt(c);
		if (toUnit(mix(mix(mix(first, ids[2 * c]), ids[2 * c + 1]), second)) * size < 1) chosen.push(c);
	}
	return chosen.length ? chosen : [0];
}
