import assert from 'node:assert/strict';
import { test } from 'node:test';
import { addressOf, formulas, patternAt, registersFor } from './formulas.ts';
import * as binaries from './binaries.ts';
import { THOROUGH } from '../testing/runs.ts';
import { MODULES, compile, madeFrom } from '../../scripts/make-wasm.mjs';

test('the binaries were made from the sources as they are, by this compiler', () => {
	assert.equal(madeFrom(), binaries.MADE_FROM, 'run node scripts/make-wasm.mjs');
});

test('the binaries are what the sources compile to', { skip: !THOROUGH && 'EMBRELL_THOROUGH=1' }, () => {
	for (const name of MODULES)
		assert.equal(
			compile(name).toString('base64'),
			binaries[name.toUpperCase() as 'FORMULAS'],
			'run node scripts/make-wasm.mjs'
		);
});

const remainder = (x: number, y: number) => x - y * Math.floor(x / y);
const one = (yes: boolean) => (yes ? 1 : 0);
/** What each loop gives, in plain words. */
const PLAIN: Record<string, (a: number, b: number, c: number) => number> = {
	add: (a, b) => a + b,
	subtract: (a, b) => a - b,
	multiply: (a, b) => a * b,
	multiplyAdd: (a, b, c) => a * b + c,
	divide: (a, b) => a / b,
	negate: (a) => -a,
	sqrt: Math.sqrt,
	abs: Math.abs,
	floor: Math.floor,
	ceil: Math.ceil,
	round: (a) => Math.floor(a + 0.5),
	fract: (a) => a - Math.floor(a),
	sign: (a) => (a > 0 ? 1 : a < 0 ? -1 : 0),
	mod: remainder,
	min: (a, b) => Math.min(a, b),
	max: (a, b) => Math.max(a, b),
	clamp: (a, b, c) => (a < b ? b : a > c ? c : a),
	mix: (a, b, c) => a + (b - a) * c,
	step: (a, b) => one(!(b < a)),
	smoothstep(a, b, c) {
		const width = b - a;
		let t = width === 0 ? one(!(c < a)) : (c - a) / width;
		t = t < 0 ? 0 : t > 1 ? 1 : t;
		return t * t * (3 - 2 * t);
	},
	less: (a, b) => one(a < b),
	atMost: (a, b) => one(a <= b),
	equal: (a, b) => one(a === b),
	and: (a, b) => one(a !== 0 && b !== 0),
	or: (a, b) => one(a !== 0 || b !== 0),
	not: (a) => one(a === 0),
	choose: (a, b, c) => (a !== 0 ? b : c),
	length3: (a, b, c) => Math.sqrt(a * a + b * b + c * c)
};

test('every loop gives what plain arithmetic gives, to the bit, also at the edges of numbers', () => {
	const edges = [0, -0, 1, -1, 0.5, -0.5, 2.5, 1e-320, 1e300, -1e300, Infinity, -Infinity, NaN, 3, 7.25];
	const [o, a, b, c] = registersFor(4);
	for (const [name, plain] of Object.entries(PLAIN)) {
		for (let shift = 0; shift < edges.length; shift++)
			for (let turn = 0; turn < edges.length; turn += 4) {
				const n = edges.length;
				for (let i = 0; i < n; i++) {
					a[i] = edges[i];
					b[i] = edges[(i + shift) % n];
					c[i] = edges[(i + turn) % n];
				}
				const loop = formulas()[name as 'mix'];
				loop(n, addressOf(0), addressOf(1), addressOf(2), addressOf(3));
				for (let i = 0; i < n; i++)
					assert.ok(
						Object.is(o[i], plain(a[i], b[i], c[i])),
						`${name}(${a[i]}, ${b[i]}, ${c[i]}) gave ${o[i]}, wanted ${plain(a[i], b[i], c[i])}`
					);
			}
	}
});

test('noise is 0 at whole places, smooth between them, and another with another pattern', () => {
	const [o, x, y, z] = registersFor(4);
	const order = Uint8Array.from({ length: 512 }, (_, i) => (i * 167 + 13) & 255);
	const other = Uint8Array.from({ length: 512 }, (_, i) => (i * 91 + 5) & 255);
	const read = (pattern: Uint8Array, n: number) => {
		formulas().noise(n, addressOf(0), patternAt(pattern), addressOf(1), addressOf(2), addressOf(3));
		return o.slice(0, n);
	};
	for (let i = 0; i < 100; i++) [x[i], y[i], z[i]] = [i - 50, 3 * i, -i];
	assert.deepEqual(new Set(read(order, 100).map(Math.abs)), new Set([0]));
	for (let i = 0; i < 200; i++) [x[i], y[i], z[i]] = [i / 100 - 1, 0.3, 0.7];
	const line = read(order, 200);
	for (let i = 1; i < 200; i++) assert.ok(Math.abs(line[i] - line[i - 1]) < 0.04, `a jump at ${x[i]}`);
	assert.notDeepEqual([...read(other, 200)], [...line]);
});

test('more registers keep their places and patterns', () => {
	const few = registersFor(2);
	few[1].fill(7);
	const many = registersFor(5000);
	assert.equal(many[1][100], 7);
	assert.equal(many[4999].length, 260);
});
