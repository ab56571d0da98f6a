/** The ledger against a plain account: what is held is what a walk over all holders finds, each buffer once. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { NodeError } from '../math/index.ts';
import {
	Ledger,
	OutOfMemory,
	allocate,
	column,
	derive,
	geometryOf,
	holdGeometry,
	makePoints,
	setOwner,
	sizeOf,
	together,
	withColumns
} from './index.ts';
import { withOwner } from './owner.ts';
import type { Geometry } from './index.ts';

const points = (ledger: Ledger, count: number): Geometry =>
	withOwner(ledger, () => geometryOf({ points: makePoints(allocate('float', 3 * count)) }));
const withExtra = (ledger: Ledger, g: Geometry, name: string): Geometry => {
	const table = g.points!.points;
	const data = withOwner(ledger, () => allocate('float', table.count));
	return { ...g, points: { points: withColumns(table, { [name]: column('float', 'plain', data) }) } };
};
const buffersOf = (g: Geometry): Set<ArrayBufferLike> =>
	new Set([...g.points!.points.columns.values()].map(({ data }) => data.buffer));

test('what is held is the bytes of all buffers that somebody holds, each once, whoever shares them', () => {
	const act = fc.record({
		what: fc.constantFrom(
			'new' as const,
			'extend' as const,
			'hold' as const,
			'let go' as const,
			'derive' as const
		),
		which: fc.nat(50),
		count: fc.integer({ min: 1, max: 40 })
	});
	fc.assert(
		fc.property(fc.array(act, { maxLength: 80 }), (acts) => {
			const ledger = new Ledger({ limit: Infinity });
			const known: { geometry: Geometry; held: number; derived: Map<string, number> }[] = [];
			for (const { what, which, count } of acts) {
				const one = known.length ? known[which % known.length] : null;
				if (what === 'new' || !one)
					known.push({ geometry: points(ledger, count), held: 0, derived: new Map() });
				else if (what === 'extend')
					known.push({ geometry: withExtra(ledger, one.geometry, `a${which}`), held: 0, derived: new Map() });
				else if (what === 'hold') {
					holdGeometry(ledger, one.geometry);
					one.held++;
				} else if (what === 'derive')
					withOwner(ledger, () =>
						derive(one.geometry, `d${which}`, () => {
							one.derived.set(`d${which}`, 4 * count);
							return allocate('float', count);
						})
					);
				else if (one.held > 0) {
					ledger.letGo(one.geometry);
					// What was derived goes with the last who held it.
					if (--one.held === 0) one.derived.clear();
				}
			}
			const buffers = new Set<ArrayBufferLike>();
			let derived = 0;
			for (const { geometry, held, derived: own } of known)
				if (held > 0) {
					for (const buffer of buffersOf(geometry)) buffers.add(buffer);
					for (const bytes of own.values()) derived += bytes;
				}
			const wanted = [...buffers].reduce((sum, { byteLength }) => sum + byteLength, derived);
			assert.equal(ledger.held, wanted);
			for (const { geometry, held } of known) for (let i = 0; i < held; i++) ledger.letGo(geometry);
			assert.equal(ledger.held, 0);
		}),
		{ numRuns: 400 }
	);
});

test('what is derived from two objects goes when either of them goes', () => {
	for (const first of [0, 1]) {
		const ledger = new Ledger();
		const [a, b] = [points(ledger, 10), points(ledger, 20)];
		holdGeometry(ledger, a);
		holdGeometry(ledger, b);
		const before = ledger.held;
		const make = () => withOwner(ledger, () => allocate('double', 100));
		const kept = withOwner(ledger, () => derive(together(a, b), 'both', make));
		assert.equal(ledger.held, before + 800);
		assert.equal(
			withOwner(ledger, () => derive(together(a, b), 'both', make)),
			kept,
			'made once'
		);
		ledger.letGo([a, b][first]);
		assert.equal(ledger.held, [240, 120][first]);
		ledger.letGo([b, a][first]);
		assert.equal(ledger.held, 0);
	}
});

test('what was derived before it is held is counted from then on', () => {
	const ledger = new Ledger();
	const g = points(ledger, 10);
	withOwner(ledger, () => derive(g, 'early', () => allocate('byte', 1000)));
	assert.equal(ledger.held, 0);
	holdGeometry(ledger, g);
	assert.equal(ledger.held, 120 + 1000);
});

test('work is charged while it goes on, and is over its budget with a sentence; nothing stays charged after', () => {
	const ledger = new Ledger({ limit: 10_000 });
	ledger.work(() => {
		allocate('byte', 6000);
		assert.equal(ledger.working, 6000);
		assert.throws(
			() => allocate('byte', 6000),
			(error) =>
				error instanceof OutOfMemory &&
				error instanceof NodeError &&
				/^This needs 12 kB of memory; 10 kB are allowed\./.test(error.message)
		);
	});
	assert.deepEqual([ledger.working, ledger.held, ledger.peak], [0, 0, 6000]);
	for (let i = 0; i < 1000; i++) ledger.work(() => allocate('byte', 9000));
	assert.equal(ledger.working, 0);
});

test('where room is wanted, what can be made again is let go of first', () => {
	const asked: number[] = [];
	const kept: Geometry[] = [];
	const ledger: Ledger = new Ledger({
		limit: 1000,
		relieve(bytes) {
			asked.push(bytes);
			const one = kept.shift();
			if (one) ledger.letGo(one);
		}
	});
	for (let i = 0; i < 5; i++) {
		const g = points(ledger, 15);
		ledger.working = 0;
		holdGeometry(ledger, g);
		kept.push(g);
	}
	assert.equal(ledger.held, 900);
	ledger.work(() => allocate('byte', 200));
	assert.deepEqual([asked, ledger.held], [[200], 720]);
});

test('memory without an owner is refused', () => {
	setOwner(null);
	assert.throws(() => allocate('float', 1), /without an owner/);
	const ledger = new Ledger();
	assert.equal(withOwner(ledger, () => allocate('float', 4)).length, 4);
	assert.throws(() => allocate('float', 1), /without an owner/);
});

test('the size of a geometry is what a ledger would hold of it', () => {
	const ledger = new Ledger();
	setOwner(ledger);
	const g = withExtra(ledger, points(ledger, 100), 'weight');
	assert.equal(sizeOf(g), 1200 + 400);
	const copies = geometryOf({
		copies: {
			copies: withColumns(g.points!.points, { source: column('int', 'id', allocate('int', 100)) }),
			sources: [g, g]
		}
	});
	assert.equal(sizeOf(copies), 1600 + 400, 'a source that stands there twice counts once');
});
