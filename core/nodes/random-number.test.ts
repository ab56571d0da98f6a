/** Chance over 100,000 elements: what comes how often, and that nothing hangs together that should not. Seeds are fixed. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Row } from '../testing/index.ts';

const N = 100_000;

/** Numbers of one or more attributes on as many points, each written from a wire. */
function drawn(nodes: readonly Row[], wires: readonly string[], seed = 1): Float32Array[] {
	const rows: Row[] = [['points-from-values', 'points', { count: N }], ...nodes];
	wires.forEach((wire, i) =>
		rows.push([
			'write-attribute',
			`w${i}`,
			{ name: `a${i}` },
			{ geometry: i ? `w${i - 1}.geometry` : 'points.points', value: wire }
		])
	);
	const run = evaluateAll(generator(rows, seed));
	const { columns } = run.geometry(`w${wires.length - 1}`).points!.points;
	return wires.map((_, i) => columns.get(`a${i}`)!.data as Float32Array);
}
const one = (settings: Record<string, unknown>, port = 'value') =>
	drawn([['random-number', 'chance', settings]], [`chance.${port}`])[0];
const mean = (data: ArrayLike<number>): number => {
	let sum = 0;
	for (let i = 0; i < data.length; i++) sum += data[i];
	return sum / data.length;
};
const deviation = (data: ArrayLike<number>) => {
	const middle = mean(data);
	let sum = 0;
	for (let i = 0; i < data.length; i++) sum += (data[i] - middle) ** 2;
	return Math.sqrt(sum / data.length);
};
function correlation(a: ArrayLike<number>, b: ArrayLike<number>): number {
	const [x, y] = [mean(a), mean(b)];
	let sum = 0;
	for (let i = 0; i < a.length; i++) sum += (a[i] - x) * (b[i] - y);
	return sum / a.length / (deviation(a) * deviation(b));
}
/** How far counts are from equal ones: chi-square. */
const unevenness = (counts: readonly number[], wanted: readonly number[]) =>
	counts.reduce((sum, count, i) => sum + (count - wanted[i]) ** 2 / wanted[i], 0);
const histogram = (data: ArrayLike<number>, bins: number, low: number, high: number) => {
	const counts = Array<number>(bins).fill(0);
	for (let i = 0; i < data.length; i++)
		counts[Math.min(bins - 1, Math.floor(((data[i] - low) / (high - low)) * bins))]++;
	return counts;
};

test('even numbers are even, and whole ones come equally often', () => {
	const even = histogram(one({ low: -3, high: 5 }), 50, -3, 5);
	// 49 degrees of freedom: beyond 85 once in a thousand.
	assert.ok(unevenness(even, Array<number>(50).fill(N / 50)) < 85);
	const dice = one({ low: 1, high: 6, whole: true });
	const faces = [1, 2, 3, 4, 5, 6].map((face) => dice.filter((x) => x === face).length);
	assert.equal(
		faces.reduce((sum, x) => sum + x, 0),
		N
	);
	assert.ok(unevenness(faces, Array<number>(6).fill(N / 6)) < 20.5);
});

test('normal numbers have their mean and deviation, and the shares of the bell', () => {
	const data = one({ distribution: 'normal', mean: 4, deviation: 2 });
	assert.ok(Math.abs(mean(data) - 4) < (4 * 2) / Math.sqrt(N));
	assert.ok(Math.abs(deviation(data) / 2 - 1) < 0.01);
	for (const [times, share] of [
		[1, 0.682689],
		[2, 0.9545],
		[3, 0.9973]
	]) {
		const within = data.filter((x) => Math.abs(x - 4) < times * 2).length / N;
		assert.ok(Math.abs(within - share) < 4 * Math.sqrt((share * (1 - share)) / N), `${times}: ${within}`);
	}
});

test('triangular numbers rise to the likeliest and fall behind it', () => {
	const data = one({ distribution: 'triangular', low: 0, high: 10, likeliest: 2 });
	const counts = histogram(data, 20, 0, 10);
	const density = (x: number) => (x < 2 ? x / 10 : (10 - x) / 40);
	const wanted = counts.map((_, i) => N * 0.5 * density(i / 2 + 0.25));
	assert.ok(unevenness(counts, wanted) < 45, `${unevenness(counts, wanted)}`);
	const down = one({ distribution: 'triangular', low: 1, high: 1, likeliest: 3 });
	assert.ok(down.every((x) => x === 1));
});

test('by shares each comes as often as its share, within three standard deviations; one of 0 never', () => {
	const data = one({ distribution: 'shares', shares: '3, 0, 1, 6' });
	[0.3, 0, 0.1, 0.6].forEach((share, place) => {
		const count = data.filter((x) => x === place).length;
		assert.ok(Math.abs(count - share * N) <= 3 * Math.sqrt(N * share * (1 - share)), `${place}: ${count}`);
	});
	const refused = evaluateAll(
		generator([['random-number', 'chance', { distribution: 'shares', shares: '1, -2' }]])
	);
	assert.match(refused.error('chance')!, /positive numbers with commas/);
});

test('vectors lie on their sphere, fill their ball evenly, and stay in their cone', () => {
	const sphere = one({ within: 'sphere', size: 2 }, 'vector');
	const at = (data: Float32Array, i: number) => [data[3 * i], data[3 * i + 1], data[3 * i + 2]];
	const long = (data: Float32Array) => Float64Array.from({ length: N }, (_, i) => Math.hypot(...at(data, i)));
	assert.ok(long(sphere).every((far) => Math.abs(far - 2) < 1e-5));
	for (let k = 0; k < 3; k++) {
		const counts = histogram(
			Float64Array.from({ length: N }, (_, i) => sphere[3 * i + k]),
			20,
			-2,
			2
		);
		assert.ok(unevenness(counts, Array<number>(20).fill(N / 20)) < 43.8, 'even along every axis');
	}
	const ball = long(one({ within: 'ball', size: 3 }, 'vector'));
	const shells = histogram(
		ball.map((far) => far ** 3),
		20,
		0,
		27
	);
	assert.ok(unevenness(shells, Array<number>(20).fill(N / 20)) < 43.8);
	const cone = one({ within: 'cone', axis: [1, 2, -2], angle: 25 }, 'vector');
	const near = Float64Array.from(
		{ length: N },
		(_, i) => (cone[3 * i] + 2 * cone[3 * i + 1] - 2 * cone[3 * i + 2]) / 3
	);
	const least = Math.cos((25 * Math.PI) / 180);
	assert.ok(near.every((x) => x > least - 1e-6));
	assert.ok(
		unevenness(histogram(near, 20, least, 1), Array<number>(20).fill(N / 20)) < 43.8,
		'even over the cap'
	);
});

test('no two of twenty streams hang together, nor neighbours, nor seeds, nor the number and the vector of one node', () => {
	const nodes = Array.from({ length: 20 }, (_, i): Row => ['random-number', `c${i}`, {}]);
	const data = drawn(
		nodes,
		nodes.map(([, short]) => `${short}.value`)
	);
	for (let i = 0; i < 20; i++)
		for (let j = 0; j < i; j++) assert.ok(Math.abs(correlation(data[i], data[j])) < 0.01, `${i} and ${j}`);
	const [first] = data;
	assert.ok(Math.abs(correlation(first.subarray(1), first.subarray(0, N - 1))) < 0.01, 'neighbours');
	const [next] = drawn([nodes[0]], ['c0.value'], 2);
	assert.ok(Math.abs(correlation(first, next)) < 0.01, 'the next seed');
	const [number, vector] = drawn(
		[['random-number', 'chance', { within: 'ball' }]],
		['chance.value', 'chance.vector']
	);
	for (let k = 0; k < 3; k++)
		assert.ok(
			Math.abs(
				correlation(
					number,
					Float32Array.from({ length: N }, (_, i) => vector[3 * i + k])
				)
			) < 0.01
		);
});

test('a list that is too short says how often it repeats, and one that is too long what is left of it', () => {
	const run = (count: number, values: string) =>
		evaluateAll(
			generator([
				['row-of-points', 'row', { count }],
				['list-from-text', 'list', { text: values }],
				['write-attribute', 'it', {}, { geometry: 'row.points', value: 'list.list' }]
			])
		).warnings('it');
	assert.deepEqual(run(240, '1, 2, 3, 4, 5, 6, 7, 8'), ['8 values repeated over 240 points.']);
	assert.deepEqual(run(3, '1, 2, 3, 4'), ['Only the first 3 of 4 values are used, as there are 3 points.']);
	assert.deepEqual(run(4, '1, 2, 3, 4'), []);
	assert.deepEqual(run(4, '1'), []);
});
