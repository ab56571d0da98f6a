import { curveCount, gatherTable, positionsOf, column, allocate, pollAt } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import { defineNode, geometry, number, output, yesNo } from './define.ts';

export const joinCurves = defineNode({
	id: 'join-curves',
	version: 1,
	name: 'Join curves',
	family: 'curves',
	words: ['weld', 'connect', 'chain', 'stitch', 'merge ends', 'spline', 'path'],
	help: 'Open curves whose ends lie near one another become one, turned round where need be. A chain that comes back to its start is closed.',
	inputs: {
		curve: geometry({
			label: 'Curve',
			help: 'The curves to join; closed ones are let through.',
			needs: 'curves'
		}),
		distance: number({
			label: 'Distance',
			help: 'Ends nearer than this are joined.',
			default: 0.001,
			min: 0,
			slider: [0, 1],
			step: 0.001,
			unit: 'm'
		}),
		bridge: yesNo({
			label: 'Keep both ends',
			help: 'Both points stay, with a piece between them; otherwise the second is left out.',
			default: false
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The joined curves.') },
	run: ({ curve, distance, bridge }) => ({
		curve: { ...curve, curves: joined(curve.curves!, distance, bridge) }
	})
});

/** Chains are grown from each curve that is left, always by the nearest free end. */
function joined(curves: Curves, distance: number, bridge: boolean): Curves {
	const p = positionsOf(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const free = new Set<number>();
	const rows: number[] = [];
	const starts = [0];
	const closes: number[] = [];
	const kept: number[] = [];
	const pointsOf = (c: number) =>
		Array.from({ length: curves.starts[c + 1] - curves.starts[c] }, (_, i) => curves.starts[c] + i);
	const apart = (a: number, b: number) => {
		let square = 0;
		for (let k = 0; k < 3; k++) square += (p[3 * a + k] - p[3 * b + k]) * (p[3 * a + k] - p[3 * b + k]);
		return Math.sqrt(square);
	};
	const finish = (points: number[], isClosed: boolean, c: number) => {
		rows.push(...points);
		starts.push(rows.length);
		closes.push(isClosed ? 1 : 0);
		kept.push(c);
	};
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		if (closed[c]) finish(pointsOf(c), true, c);
		else if (curves.starts[c + 1] > curves.starts[c]) free.add(c);
	}
	while (free.size) {
		const [seed] = free;
		free.delete(seed);
		let chain = pointsOf(seed);
		// First onward from the end, then the chain is turned and grown from its start.
		for (let way = 0; way < 2; way++) {
			for (;;) {
				const end = chain[chain.length - 1];
				let best = -1,
					nearest = Infinity,
					turn = false;
				for (const c of free) {
					const head = apart(end, curves.starts[c]),
						tail = apart(end, curves.starts[c + 1] - 1);
					const d = Math.min(head, tail);
					if (d <= distance && d < nearest) [best, nearest, turn] = [c, d, tail < head];
				}
				if (best < 0) break;
				free.delete(best);
				const next = turn ? pointsOf(best).reverse() : pointsOf(best);
				chain.push(...(bridge && nearest > 0 ? next : next.slice(1)));
			}
			chain = chain.reverse();
		}
		const isClosed = chain.length > 3 && apart(chain[0], chain[chain.length - 1]) <= distance;
		finish(isClosed && !bridge ? chain.slice(0, -1) : chain, isClosed, seed);
	}
	const table = gatherTable(curves.curves, kept);
	const flags = allocate('byte', closes.length);
	flags.set(closes);
	return {
		points: gatherTable(curves.points, rows),
		curves: { ...table, columns: new Map([...table.columns, ['closed', column('bool', 'plain', flags)]]) },
		starts: Uint32Array.from(starts)
	};
}
