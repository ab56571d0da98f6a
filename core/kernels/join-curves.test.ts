/** Joining against the plain way of doing it, which looks at every free end each time. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { curveCount, makeCurves, positionsOf } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import '../testing/index.ts';
import { FreeEnds } from './free-ends.ts';
import { joinCurves } from './join-curves.ts';

type Place = readonly [number, number, number];
const curvesOf = (lines: readonly (readonly Place[])[]): Curves => {
	const starts = Uint32Array.from({ length: lines.length + 1 }, (_, i) =>
		lines.slice(0, i).reduce((sum, line) => sum + line.length, 0)
	);
	return makeCurves(Float32Array.from(lines.flat(2)), starts, new Uint8Array(lines.length));
};
const linesOf = (curves: Curves): { places: string[]; closed: boolean }[] =>
	Array.from({ length: curveCount(curves) }, (_, c) => ({
		places: Array.from({ length: curves.starts[c + 1] - curves.starts[c] }, (_, i) =>
			[...positionsOf(curves).subarray(3 * (curves.starts[c] + i), 3 * (curves.starts[c] + i) + 3)].join()
		),
		closed: !!curves.curves.columns.get('closed')!.data[c]
	}));
const apart = (a: Place, b: Place) => Math.sqrt(a.reduce((sum, x, k) => sum + (x - b[k]) * (x - b[k]), 0));

/** Every free end is looked at each time. */
function joinedPlainly(lines: readonly (readonly Place[])[], distance: number, bridge: boolean) {
	const free = new Set(lines.keys());
	const out: { places: string[]; closed: boolean }[] = [];
	for (const seed of lines.keys()) {
		if (!free.delete(seed)) continue;
		const chain = [...lines[seed]];
		for (let way = 0; way < 2; way++) {
			for (;;) {
				const end = chain[chain.length - 1];
				let [best, nearest, turn] = [-1, Infinity, false];
				for (const c of free) {
					const [head, tail] = [apart(end, lines[c][0]), apart(end, lines[c][lines[c].length - 1])];
					const d = Math.min(head, tail);
					if (d <= distance && d < nearest) [best, nearest, turn] = [c, d, tail < head];
				}
				if (best < 0) break;
				free.delete(best);
				const next = turn ? [...lines[best]].reverse() : [...lines[best]];
				chain.push(...(bridge && nearest > 0 ? next : next.slice(1)));
			}
			chain.reverse();
		}
		const closed = chain.length > 3 && apart(chain[0], chain[chain.length - 1]) <= distance;
		out.push({ places: (closed && !bridge ? chain.slice(0, -1) : chain).map((p) => p.join()), closed });
	}
	return out;
}

const coordinate = fc.integer({ min: 0, max: 6 }).map((n) => n / 4);
const place = fc.tuple(coordinate, coordinate, coordinate);
const lines = fc.array(fc.array(place, { minLength: 2, maxLength: 4 }), { minLength: 1, maxLength: 24 });

test('joined curves are those of the plain way, whatever lies near what', () => {
	fc.assert(
		fc.property(lines, fc.constantFrom(0, 0.2, 0.25, 0.5, 1, 5), fc.boolean(), (some, distance, bridge) => {
			assert.deepEqual(
				linesOf(joinCurves(curvesOf(some), distance, bridge)),
				joinedPlainly(some, distance, bridge)
			);
		}),
		{ numRuns: 500 }
	);
});

test('the nearest free place is found, and none that was taken', () => {
	fc.assert(
		fc.property(
			fc.array(place, { minLength: 1, maxLength: 60 }),
			fc.array(fc.tuple(place, fc.boolean()), { minLength: 1, maxLength: 80 }),
			fc.constantFrom(0.3, 1, Infinity),
			(places, questions, most) => {
				const ends = new FreeEnds(Float32Array.from(places.flat()));
				const free = new Set(places.keys());
				for (const [asked, takes] of questions) {
					let best = -1;
					for (const i of free)
						if (
							apart(asked, places[i]) <= most &&
							(best < 0 || apart(asked, places[i]) < apart(asked, places[best]))
						)
							best = i;
					assert.equal(ends.nearest(...asked, most), best);
					if (best < 0 || !takes) continue;
					ends.take(best);
					free.delete(best);
					assert.equal(ends.isFree(best), false);
				}
			}
		),
		{ numRuns: 300 }
	);
});

test('300,000 pieces of a line are one curve in the end', () => {
	const count = 300_000;
	// Shuffled: the piece from x to x + 1 stands at a place that hops about.
	const x = Array.from({ length: count }, (_, i) => (i * 77_777) % count);
	const positions = Float32Array.from(x.flatMap((at) => [at, 0, 0, at + 1, 0, 0]));
	const starts = Uint32Array.from({ length: count + 1 }, (_, i) => 2 * i);
	const joined = joinCurves(makeCurves(positions, starts, new Uint8Array(count)), 0.001, false);
	assert.equal(curveCount(joined), 1);
	assert.equal(joined.points.count, count + 1);
});
