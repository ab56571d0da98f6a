import { gatherTable, positionsOf, scratch, pollAt } from '../../geometry/index.ts';
import type { Curves } from '../../geometry/index.ts';
import { defineNode, geometry, output } from '../define.ts';

export const reverseCurve = defineNode({
	id: 'reverse-curve',
	version: 1,
	name: 'Reverse curve',
	family: 'curves',
	words: ['direction', 'turn round', 'invert', 'spline', 'path'],
	help: 'Every curve runs the other way: its last point comes first. Closed curves keep their first point.',
	inputs: { curve: geometry({ label: 'Curve', help: 'The curves to turn round.', needs: 'curves' }) },
	outputs: { curve: output('geometry', 'Curve', 'The same, the other way.') },
	run: ({ curve }) => ({ curve: { ...curve, curves: reversed(curve.curves!) } })
});

function reversed(curves: Curves): Curves {
	const closed = curves.curves.columns.get('closed')!.data;
	const rows = scratch('index', positionsOf(curves).length / 3);
	for (let c = 0; c + 1 < curves.starts.length; c++) {
		pollAt(c);
		const first = curves.starts[c],
			end = curves.starts[c + 1],
			size = end - first;
		for (let k = 0; k < size; k++) rows[first + k] = closed[c] ? first + ((size - k) % size) : end - 1 - k;
	}
	return { ...curves, points: gatherTable(curves.points, rows) };
}
