import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { acos, asin, atan, atan2, cos, exp, log, pow, sin, tan } from './elementary.ts';

const close = (mine: number, wanted: number, what: string) => {
	const error = Math.abs(mine - wanted) / Math.max(1e-300, Math.abs(wanted), 1e-3);
	assert.ok(error < 4e-13, `${what}: ${mine} against ${wanted}`);
};

test('trigonometry agrees with the engine to 13 digits', () => {
	fc.assert(
		fc.property(fc.double({ min: -1e5, max: 1e5, noNaN: true }), (x) => {
			assert.ok(Math.abs(sin(x) - Math.sin(x)) < 1e-14, `sin ${x}`);
			assert.ok(Math.abs(cos(x) - Math.cos(x)) < 1e-14, `cos ${x}`);
			close(atan(x), Math.atan(x), `atan ${x}`);
		})
	);
	close(tan(1), Math.tan(1), 'tan 1');
});

test('a large angle still has sin² + cos² = 1', () => {
	for (const x of [1e6 + 1, 123456789.25, 1e15]) assert.ok(Math.abs(sin(x) ** 2 + cos(x) ** 2 - 1) < 1e-14);
});

test('exp, log and pow agree with the engine', () => {
	fc.assert(
		fc.property(fc.double({ min: -700, max: 700, noNaN: true }), (x) =>
			close(exp(x), Math.exp(x), `exp ${x}`)
		)
	);
	fc.assert(
		fc.property(fc.double({ min: 1e-300, max: 1e300, noNaN: true }), (x) =>
			close(log(x), Math.log(x), `log ${x}`)
		)
	);
	fc.assert(
		fc.property(
			fc.double({ min: 1e-3, max: 1e3, noNaN: true }),
			fc.double({ min: -20, max: 20, noNaN: true }),
			(x, y) => close(pow(x, y), Math.pow(x, y), `${x}^${y}`)
		)
	);
});

test('inverse functions cover their quadrants', () => {
	for (const [y, x] of [
		[1, 1],
		[1, -1],
		[-1, -1],
		[-1, 1],
		[0, -1],
		[0, 1],
		[1, 0],
		[-1, 0],
		[0, 0]
	])
		close(atan2(y, x), Math.atan2(y, x), `atan2 ${y} ${x}`);
	for (const x of [-1, -0.9999999, -0.3, 0, 0.5, 1]) {
		close(asin(x), Math.asin(x), `asin ${x}`);
		close(acos(x), Math.acos(x), `acos ${x}`);
	}
	assert.ok(Number.isNaN(asin(1.1)) && Number.isNaN(acos(-2)));
});

test('edges: powers of negatives, zero and infinities', () => {
	assert.equal(pow(-2, 3), -8);
	assert.equal(pow(2, -1), 0.5);
	assert.ok(Number.isNaN(pow(-2, 0.5)));
	assert.equal(pow(0, 0), 1);
	assert.equal(exp(-1000), 0);
	assert.equal(exp(1000), Infinity);
	assert.equal(log(0), -Infinity);
	assert.ok(Number.isNaN(sin(Infinity)) && Number.isNaN(cos(-Infinity)) && Number.isNaN(log(-1)));
});
