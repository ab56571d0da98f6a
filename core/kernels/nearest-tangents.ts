/** The direction of guide curves at the places nearest to the roots of others. */
import type { Curves } from '../geometry/index.ts';
import { allocate, curveCount, positionsOf, pollAt } from '../geometry/index.ts';
import { treeOfCurves } from './nearest.ts';

/** Three numbers for each curve. */
export function nearestTangents(curves: Curves, guides: Curves): Float32Array {
	const { tree, ends } = treeOfCurves(guides);
	const p = positionsOf(curves),
		g = positionsOf(guides);
	const out = allocate('float', 3 * curveCount(curves));
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		const o = 3 * curves.starts[c];
		if (curves.starts[c] === curves.starts[c + 1]) continue;
		const { primitive } = tree.nearest(p[o], p[o + 1], p[o + 2]);
		if (primitive < 0) continue;
		const [a, b] = [3 * ends[2 * primitive], 3 * ends[2 * primitive + 1]];
		for (let k = 0; k < 3; k++) out[3 * c + k] = g[b + k] - g[a + k];
	}
	return out;
}
