import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import { NodeError } from '../math/index.ts';
import { column, geometryOf, makePoints, withColumns } from '../geometry/index.ts';
import type { Names, Varying } from './index.ts';
import {
	FormulaError,
	bindFormula,
	constant,
	constantNumber,
	element,
	elementsOf,
	operate,
	parseFormula,
	parseQuantity,
	plainElements,
	random,
	renameInFormula,
	renameName,
	run,
	streamWords
} from './index.ts';

const scope = (names: Record<string, Varying> = {}, unit?: string): Names => ({
	lookUp: (name) => (Object.hasOwn(names, name) ? { value: names[name], unit } : null),
	names: () => Object.keys(names),
	attributes: true,
	stream: (place, shared) => streamWords(1, '', shared ?? `call ${place}`),
	noiseSeed: 1
});
const bind = (text: string, names: Record<string, Varying> = {}, unit?: string) =>
	bindFormula(parseFormula(text), scope(names, unit), text);
const valueOf = (text: string) => constantNumber(bind(text));

test('arithmetic follows mathematics', () => {
	const cases: [string, number][] = [
		['1 + 2 * 3', 7],
		['2 ^ 3 ^ 2', 512],
		['-2 ^ 2', -4],
		['2 ^ -1', 0.5],
		['(1 + 2) * 3', 9],
		['7 % 3', 1],
		['-1 % 3', 2],
		['10 cm + 1 m', 1.1],
		['sqrt(16) + abs(-2)', 6],
		['clamp(5, 0, 1)', 1],
		['mix(0, 10, 0.25)', 2.5],
		['step(2, 3)', 1],
		['smoothstep(0, 1, 0.5)', 0.5],
		['choose(2 > 1 and not (1 > 2), 5, 6)', 5],
		['len(vec(3, 4, 0))', 5],
		['dot(vec(1, 2, 3), vec(4, 5, 6))', 32],
		['cross(vec(1, 0, 0), vec(0, 1, 0)).z', 1],
		['normalize(vec(0, 5, 0)).y', 1],
		['remap(5, 0, 10, 100, 200)', 150],
		['fract(-0.25)', 0.75],
		['round(2.5)', 3],
		['vec(1, 2, 3).y', 2],
		['atan(1, -1)', 2.356194490192345],
		['radians(180) - pi', 0],
		['3 ≥ 3 and 2 ≠ 3', 1],
		['golden - (1 + sqrt(5)) / 2', 0],
		['distance(vec(1, 1, 1), vec(1, 1, 3))', 2]
	];
	for (const [text, wanted] of cases)
		assert.ok(Math.abs(valueOf(text) - wanted) < 1e-12, `${text} is ${valueOf(text)}, not ${wanted}`);
});

test('any tree of sums and products gives what the engine gives', () => {
	const tree = fc.letrec((tie) => ({
		tree: fc.oneof(
			{ maxDepth: 4 },
			fc.integer({ min: -9, max: 9 }).map((n) => `(${n})`),
			fc
				.tuple(tie('tree'), fc.constantFrom('+', '-', '*'), tie('tree'))
				.map(([a, op, b]) => `(${String(a)} ${op} ${String(b)})`)
		)
	})).tree;
	// The oracle is a second, tiny evaluator over the fully bracketed text.
	const oracle = (text: string): number => {
		const inner = text.slice(1, -1);
		if (/^-?\d+$/.test(inner)) return Number(inner);
		let depth = 0;
		for (let i = 0; i < inner.length; i++) {
			if (inner[i] === '(') depth++;
			if (inner[i] === ')') depth--;
			if (depth === 0 && inner[i] === ' ') {
				const a = oracle(inner.slice(0, i)),
					b = oracle(inner.slice(i + 3));
				return inner[i + 1] === '+' ? a + b : inner[i + 1] === '-' ? a - b : a * b;
			}
		}
		throw new Error(text);
	};
	fc.assert(fc.property(tree, (text) => assert.equal(valueOf(String(text)), oracle(String(text)))));
});

test('mistakes point at their column and propose a mending', () => {
	const fails = (text: string, names = {}, unit?: string): FormulaError => {
		try {
			bind(text, names, unit);
		} catch (error) {
			assert.ok(error instanceof FormulaError, String(error));
			return error;
		}
		throw new Error(`${text} was taken`);
	};
	assert.equal(fails('1 + ').message, 'The formula ends too early: a value is missing here.');
	assert.equal(fails('2 * (3 + 4').mending?.text, ')');
	const sine = fails('2 + sinn(1)');
	assert.deepEqual([sine.from, sine.to, sine.mending?.text], [4, 8, 'sin']);
	const degrees = fails('sin(wall.lean)', { 'wall.lean': constant(3) }, '°');
	assert.equal(degrees.message, 'wall.lean is in degrees: write sin(radians(wall.lean))');
	assert.equal(degrees.mending?.text, 'radians(wall.lean)');
	assert.equal(fails('wal.height + 1', { 'wall.height': constant(3) }).mending?.text, 'wall.height');
	assert.match(fails('dot(1, vec(1, 2, 3))').message, /works on vectors; its first value is a number/);
	assert.match(fails('3 x').message, /a sign is missing/);
	assert.match(fails('a $ b').message, /means nothing/);
	assert.match(fails('('.repeat(200) + '1' + ')'.repeat(200)).message, /nested more than/);
});

test('quantities take units', () => {
	for (const [text, wanted] of [
		['10 cm', 0.1],
		['1,5', 1.5],
		['2 * 3 m', 6],
		['45°', 45],
		['-3 mm', -0.003]
	] as const)
		assert.ok(Math.abs(constantNumber(parseQuantity(text)) - wanted) < 1e-12, text);
	assert.throws(() => parseQuantity('wide'), FormulaError);
});

test('renaming a name rewrites it and its parts, and nothing that only begins alike', () => {
	assert.equal(
		renameName('vel * vel.x + velvet + roof.vel + len(vel)', 'vel', 'speed'),
		'speed * speed.x + velvet + roof.vel + len(speed)'
	);
	assert.equal(renameName('vel +', 'vel', 'speed'), 'vel +');
});

test('renaming a node rewrites only references to it', () => {
	assert.equal(
		renameInFormula('wall.height + wallet.height * sin(wall.lean)', 'wall', 'front'),
		'front.height + wallet.height * sin(front.lean)'
	);
});

test('values per element: blocks, attributes, shared parts and fused steps agree with plain loops', () => {
	const n = 5000;
	const h = Float32Array.from({ length: n }, (_, i) => Math.sin(i));
	const points = makePoints(Float32Array.from({ length: 3 * n }, (_, i) => i % 7));
	const geometry = geometryOf({
		points: { points: withColumns(points.points, { height: column('float', 'plain', h) }) }
	});
	const on = elementsOf(geometry, 'points', 'point');
	const out = new Float64Array(n);
	run(bind('height * 2 + index / count + position.y - (height * 2) * (height * 2) + 3 * index'), on, 1, out);
	for (let i = 0; i < n; i++) {
		const wanted = h[i] * 2 + i / n + ((3 * i + 1) % 7) - h[i] * 2 * (h[i] * 2) + 3 * i;
		assert.ok(Math.abs(out[i] - wanted) < 1e-9, `element ${i}: ${out[i]} against ${wanted}`);
	}
	// A product is taken into the sum that follows it, once; and only while what it was made of still stands.
	run(bind('height * 2 + 1 + 3'), on, 1, out);
	for (let i = 0; i < n; i++) assert.equal(out[i], h[i] * 2 + 1 + 3);
	run(bind('(vec(abs(height) * 3, min(0, height), 0) + position).x'), on, 1, out);
	for (let i = 0; i < n; i++) assert.equal(out[i], Math.abs(h[i]) * 3 + ((3 * i) % 7));
	// Where there is no answer, 0 stands, whatever stood there before.
	out.fill(7);
	run(bind('sqrt(height - 10)'), on, 1, out);
	assert.ok(out.every((x) => x === 0));
	assert.throws(
		() => run(bind('heigth + 1'), on, 1, out),
		(error: Error) => error instanceof NodeError && /Did you mean “height”/.test(error.message)
	);
});

test('a value used twice at every level is worked out once for each level', () => {
	let value: Varying = element('index');
	for (let i = 0; i < 60; i++) value = operate('mix', [value, value, constant(0.5)]);
	const out = new Float64Array(10);
	run(value, plainElements(10), 1, out);
	assert.deepEqual([...out], [0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
	for (let i = 0; i < 10_000; i++) value = operate('add', [value, constant(i + 0.5)]);
	assert.throws(() => run(value, plainElements(1), 1, out), /more than 10,000 steps/);
});

test('two calls of random differ, and a named stream is one', () => {
	const out = new Float64Array(1000);
	run(bind('random(0, 1) - random(0, 1)'), plainElements(1000), 1, out);
	assert.ok(out.filter((x) => x === 0).length < 3);
	run(bind('random(0, 1, wind) - random(0, 1, wind)'), plainElements(1000), 1, out);
	assert.ok(out.every((x) => x === 0));
});

test('random numbers fill their range evenly', () => {
	const out = new Float64Array(100_000);
	run(random(constant(2), constant(4), streamWords(9, '', 's')), plainElements(100_000), 1, out);
	const bins = new Array(20).fill(0);
	for (const x of out) {
		assert.ok(x >= 2 && x < 4);
		bins[Math.floor((x - 2) * 10)]++;
	}
	const chiSquare = bins.reduce((sum: number, c: number) => sum + (c - 5000) ** 2 / 5000, 0);
	assert.ok(chiSquare < 48, `chi-square ${chiSquare} with 19 degrees of freedom`);
});

test('noise is smooth, stays within its bounds, and is zero on whole numbers', () => {
	const out = new Float64Array(1);
	const at = (x: number) => {
		run(bind('noise(vec(p, p * 0.7, 0.3))', { p: constant(x) }), plainElements(1), 1, out);
		return out[0];
	};
	let steepest = 0;
	for (let x = 0; x < 20; x += 0.01) {
		assert.ok(Math.abs(at(x)) <= 1.05);
		steepest = Math.max(steepest, Math.abs(at(x + 0.01) - at(x)) / 0.01);
	}
	assert.ok(steepest > 0.5 && steepest < 5, `steepest slope ${steepest}`);
	assert.equal(Math.abs(constantNumber(bind('noise(vec(3, 4, 5))'))), 0);
});
