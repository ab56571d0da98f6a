import assert from 'node:assert/strict';
import { test } from 'node:test';
import { boundsOf, digestOf, edgesOf, faceAreas, lengthsAlong } from './geometry/index.ts';
import type { Curves, Table } from './geometry/index.ts';
import { Evaluator, isGeometry, settled, withDialValues, withSetting } from './engine/index.ts';
import { BoxTree } from './kernels/box-tree.ts';
import { nodeKinds } from './nodes/index.ts';
import { evaluateAll, generator } from './testing/index.ts';
import { SAMPLES, sample } from './testing/samples.ts';

const positions = (curves: Curves) => curves.points.columns.get('position')!.data as Float32Array;

test('every sample opens whole and evaluates without an error or a warning', () => {
	for (const file of SAMPLES) {
		const { document, leftOut, run } = sample(file);
		assert.deepEqual(leftOut, [], file);
		const { evaluation } = run();
		for (const node of document.graphs.main.nodes) {
			const result = evaluation.results.get(node.id)!;
			assert.equal(result.state, 'fresh', `${file}, ${node.short}: ${result.error?.message}`);
			assert.deepEqual([...result.warnings], [], `${file}, ${node.short}`);
		}
	}
});

test('every dial of every sample says in a sentence of its own what it changes', () => {
	const told = new Set(
		[...nodeKinds.values()].flatMap((kind) =>
			Object.values(kind.inputs as Record<string, { help: string }>).map(({ help }) => help)
		)
	);
	for (const file of SAMPLES)
		for (const { name, help } of sample(file).document.dials)
			assert.ok(help && !told.has(help) && /^[A-Z].*\.$/.test(help), `${file}, ${name}: ${help}`);
});

test('another seed makes another of every sample', () => {
	for (const file of SAMPLES) {
		const { document, run, by } = sample(file);
		const other = evaluateAll({ ...document, seed: document.seed + 1 }, {}, by);
		assert.notEqual(digestOf(other.geometry('result')), digestOf(run().geometry('result')), file);
	}
});

/** Kinds of node that make solids. A tube without caps makes none. */
const SOLIDS: ReadonlySet<string> = new Set([
	'box',
	'sphere',
	'cylinder',
	'torus',
	'extrude',
	'revolve',
	'sweep',
	'tube'
]);

test('no face or edge of a sample is without size, and what is solid is closed', () => {
	let solids = 0;
	for (const file of SAMPLES) {
		const { document, run: runOf } = sample(file);
		const run = runOf();
		for (const { short, kind, settings } of document.graphs.main.nodes) {
			const mesh = run.meshOf(short);
			if (!mesh?.faces.count) continue;
			const p = mesh.points.columns.get('position')!.data;
			const { points, uses } = edgesOf(mesh.topology);
			for (let e = 0; e < uses.length; e++) {
				const [a, b] = [3 * points[2 * e], 3 * points[2 * e + 1]];
				const isSame = p[a] === p[b] && p[a + 1] === p[b + 1] && p[a + 2] === p[b + 2];
				assert.ok(!isSame, `${file}, ${short}: an edge of no length`);
			}
			assert.ok(
				faceAreas(mesh).every((area) => area > 0),
				`${file}, ${short}: a face without size`
			);
			if (!SOLIDS.has(kind) || settings.caps === false) continue;
			solids++;
			assert.ok(
				uses.every((count) => count === 2),
				`${file}, ${short} is open`
			);
		}
	}
	assert.ok(solids > 15, `${solids}`);
});

test('walks of any length lay their last plank short of the end', () => {
	const { document, by } = sample('boardwalk');
	const length = document.graphs.main.nodes.find(({ short }) => short === 'walkLength')!;
	for (const metres of [9, 10, 11, 12, 13, 14, 15.5]) {
		const graph = withSetting(document.graphs.main, length.id, 'value', metres);
		const { geometry } = evaluateAll({ ...document, graphs: { ...document.graphs, main: graph } }, {}, by);
		const points = geometry('plankPlaces').points!.points;
		const [u, whole] = ['u', 'length'].map((name) => points.columns.get(name)!.data);
		const n = u.length;
		const gap = (u[1] - u[0]) * whole[0];
		for (let i = 1; i < n; i++) assert.ok(Math.abs((u[i] - u[i - 1]) * whole[0] - gap) < 1e-4);
		assert.ok(Math.abs(u[0] * whole[0] - gap / 2) < 1e-4, `${metres} m: the first`);
		assert.ok(Math.abs((1 - u[n - 1]) * whole[0] - gap / 2) < 1e-4, `${metres} m: the last`);
	}
});

test('cords of the net run from knot to knot, all of one length before it hangs; no knot holds more than four', () => {
	const run = sample('drying-net').run();
	const { curves, points } = run.geometry('cords').curves!;
	const lengths = curves.columns.get('length')!.data;
	assert.ok(lengths.every((length) => Math.abs(length - 0.24 * Math.SQRT1_2) < 1e-6));
	assert.equal(points.count, 2 * curves.count);
	const knots = run.geometry('upright').points!.points.count;
	const held = new Uint8Array(knots);
	for (const end of ['first', 'second']) for (const knot of curves.columns.get(end)!.data) held[knot]++;
	const [columns, rows] = [27, 13];
	assert.equal(knots, columns * rows);
	assert.equal(curves.count, (rows - 1) * (2 * columns - 1));
	// Inside every knot holds four, at the upper and lower edge two; at the sides one to three.
	assert.equal(held.filter((count) => count === 4).length, (rows - 2) * (columns - 1));
	assert.equal(Math.max(...held), 4);
	assert.equal(run.geometry('balls').copies!.copies.count, knots);
	assert.equal(run.geometry('balls').curves?.curves.count ?? 0, 0);
});

test('the net hangs from its rope between the poles, is gathered at the foot, and floats are thickest in the middle', () => {
	const run = sample('drying-net').run();
	const rope = positions(run.geometry('rope').curves!);
	const net = positions(run.geometry('sway').curves!);
	const heightOfRope = (x: number) => {
		let best = 0;
		for (let i = 3; i < rope.length; i += 3) if (Math.abs(rope[i] - x) < Math.abs(rope[best] - x)) best = i;
		return rope[best + 1];
	};
	let [top, foot] = [-Infinity, Infinity];
	const wide = { top: [Infinity, -Infinity], foot: [Infinity, -Infinity] };
	for (let i = 0; i < net.length; i += 3) {
		const below = heightOfRope(net[i]) - net[i + 1];
		top = Math.max(top, -below);
		foot = Math.min(foot, -below);
		for (const [part, within] of [
			['top', below < 0.1],
			['foot', below > 1.3]
		] as const)
			if (within) {
				wide[part][0] = Math.min(wide[part][0], net[i]);
				wide[part][1] = Math.max(wide[part][1], net[i]);
			}
	}
	// A mesh may stand a little above the rope, because it is wound around it.
	assert.ok(Math.abs(top) < 0.03, `the net ends ${top} m above its rope`);
	const [upper, lower] = [wide.top[1] - wide.top[0], wide.foot[1] - wide.foot[0]];
	assert.ok(lower < 0.75 * upper && lower > 0.55 * upper, `${lower} m at the foot, ${upper} m at the head`);
	// The rope sags: lowest in its middle, as high at one pole as at the other.
	const [first, last] = [rope[1], rope[rope.length - 2]];
	assert.ok(Math.abs(first - last) < 1e-3 && first - heightOfRope(0) > 0.35);
	const floats = run.geometry('floats').copies!;
	const size = floats.copies.columns.get('scale')!.data;
	const n = floats.copies.count;
	assert.ok(n >= 10 && size[3 * Math.floor(n / 2)] > 1.4 * size[0]);
});

test('a taller net gains rows', () => {
	const { document, by } = sample('drying-net');
	const tall = document.graphs.main.nodes.find((node) => node.short === 'tall')!;
	const main = withSetting(document.graphs.main, tall.id, 'value', 1.93);
	const taller = evaluateAll({ ...document, graphs: { main } }, {}, by);
	assert.equal(taller.geometry('upright').points!.points.count, 27 * 17);
});

test('bars of the rack lean on the legs from the lowest up, sag between trestles, and each bears its skins', () => {
	const { document, by, run } = sample('drying-rack');
	const made = run();
	const bars = made.geometry('curves').curves!;
	assert.equal(bars.curves.count, 4);
	const p = positions(bars);
	// Straight bars, before they are laid along the path: from the lowest, in equal steps up the lean of the legs.
	const starts = Array.from({ length: 4 }, (_, c) => [p[3 * bars.starts[c] + 1], p[3 * bars.starts[c] + 2]]);
	assert.ok(Math.abs(starts[0][0] - 0.75) < 1e-6);
	for (let c = 1; c < 4; c++) {
		const [up, aside] = [0, 1].map((k) => starts[c][k] - starts[c - 1][k]);
		assert.ok(Math.abs(Math.hypot(up, aside) - (0.78 * 2.3 - 0.75) / 3) < 1e-5);
		assert.ok(Math.abs(aside / up - 0.158) < 1e-4);
	}
	// As high at the trestles as it was, lowest half-way between them.
	const spans = made.geometry('trestles').copies!.copies.count - 1;
	const points = bars.starts[1];
	const heights = Array.from({ length: points }, (_, i) => p[3 * i + 1]);
	const highest = Math.max(...heights);
	for (let k = 0; k <= spans; k++) {
		const at = Math.min(points - 1, Math.round((k * (points - 1)) / spans));
		assert.ok(highest - heights[at] < 0.004, `${highest - heights[at]} m at trestle ${k}`);
	}
	assert.ok(Math.abs(highest - Math.min(...heights) - 0.11) < 0.002);
	for (const skins of [1, 16, 40]) {
		const some = evaluateAll(settled(withDialValues(document, { skins }), document), {}, by);
		for (const name of ['pegs', 'skins'])
			assert.equal(some.geometry(name).copies?.copies.count ?? 0, 4 * skins, `${skins} ${name}`);
	}
});

test('a plot lies between each stake and its nearest neighbour, as long as they are apart, and holds its shells', () => {
	const run = sample('oyster-plots').run();
	const stakes = run.geometry('whereLow').points!.points;
	const at = stakes.columns.get('position')!.data as Float32Array;
	const { curves } = run.geometry('pairs').curves!;
	const [first, second, lengths] = ['first', 'second', 'length'].map(
		(name) => curves.columns.get(name)!.data
	);
	const taken = new Set<number>();
	const { copies } = run.geometry('grown').copies!;
	const [position, scale] = ['position', 'scale'].map((name) => copies.columns.get(name)!.data);
	assert.ok(curves.count > 20 && copies.count === curves.count);
	for (let c = 0; c < curves.count; c++) {
		const [a, b] = [first[c], second[c]];
		assert.ok(!taken.has(a) && !taken.has(b), 'a stake has one plot');
		taken.add(a).add(b);
		const apart = Math.hypot(...[0, 1, 2].map((k) => at[3 * a + k] - at[3 * b + k]));
		assert.ok(Math.abs(apart - lengths[c]) < 1e-5 && apart <= 1.1);
		for (let k = 0; k < 3; k++)
			assert.ok(Math.abs(position[3 * c + k] - (at[3 * a + k] + at[3 * b + k]) / 2) < 1e-5);
		assert.ok(Math.abs(scale[3 * c] - 0.9 * apart) < 1e-5);
	}
	const tree = new BoxTree(position as Float32Array, 1);
	const shells = run.geometry('sowing').points!.points.columns.get('position')!.data;
	assert.ok(shells.length > 300);
	for (let i = 0; i < shells.length; i += 3)
		assert.ok(tree.nearest(shells[i], shells[i + 1], shells[i + 2]).distance < 0.55);
});

test('each float bears what hangs from it: its size is the cube root of its load, and its line as long as the load', () => {
	const run = sample('float-line').run();
	const load = run.geometry('load').points!.points.columns.get('load')!.data;
	const { copies: floats, sources } = run.geometry('floats').copies!;
	assert.ok(sources.length <= 24 && sources.length > 6, `${sources.length} shapes of ${floats.count}`);
	const source = floats.columns.get('source')!.data;
	const scale = run.geometry('drops').copies!.copies.columns.get('scale')!.data;
	for (let i = 0; i < floats.count; i++) {
		const { low, high } = boundsOf(sources[source[i]])!;
		const radius = (high[0] - low[0]) / 2;
		// Rounded to 24 steps.
		assert.ok(Math.abs(radius - (0.055 + 0.075 * Math.cbrt(load[i]))) < 0.075 / 24 + 1e-3, `float ${i}`);
		assert.ok(Math.abs(scale[3 * i + 1] - (0.2 + 0.8 * load[i])) < 1e-5);
	}
	assert.ok(Math.max(...load) > 3 * Math.min(...load));
});

test('thatch is laid behind the ladder: in order along each course, the courses above later', () => {
	const { document } = sample('thatch');
	const evaluator = new Evaluator();
	const idOf = (short: string) => document.graphs.main.nodes.find((node) => node.short === short)!.id;
	const laidAt = (frame: number) => {
		const { results } = evaluator.begin(document, { frame }).pull([idOf('laid')]);
		const made = results.get(idOf('laid'))!.outputs.get('geometry');
		assert.ok(made && isGeometry(made));
		return made.copies!.copies.columns;
	};
	assert.equal(
		laidAt(1)
			.get('laid')!
			.data.filter((one) => one).length,
		0
	);
	const half = laidAt(58);
	const [laid, row, p] = ['laid', 'row', 'position'].map((name) => half.get(name)!.data);
	const frontier = new Map<number, { last: number; next: number }>();
	for (let i = 0; i < laid.length; i++) {
		const at = frontier.get(row[i]) ?? { last: -Infinity, next: Infinity };
		if (laid[i]) at.last = Math.max(at.last, p[3 * i]);
		else at.next = Math.min(at.next, p[3 * i]);
		frontier.set(row[i], at);
	}
	assert.equal(frontier.size, 11);
	for (const [course, { last, next }] of frontier) {
		assert.ok(last < next, `course ${course}: ${last} m is laid, ${next} m is not`);
		const below = frontier.get(course + 1);
		if (below) assert.ok(below.last >= last - 0.11, `course ${course} is ahead of the one below it`);
	}
	assert.ok(
		laidAt(120)
			.get('laid')!
			.data.every((one) => one)
	);
});

test('reeds stand on the bank, and the mud falls to the creek all along one side', () => {
	const run = sample('reed-bed').run();
	const { position } = Object.fromEntries(
		[...run.geometry('sowing').points!.points.columns].map(([name, { data }]) => [name, data])
	);
	for (let i = 1; i < position.length; i += 3) assert.ok(position[i] > -0.03 && position[i] < 0.45);
	const flat = run.geometry('mudflat').mesh!.points.columns.get('position')!.data;
	const laid = run.geometry('alongCreek').mesh!.points.columns.get('position')!.data;
	let edge = -Infinity;
	for (let i = 0; i < flat.length; i += 3) if (flat[i + 2] > 5.2) edge = Math.max(edge, laid[i + 1]);
	assert.ok(edge < -0.4, `${edge} m at the creek`);
});

test('fitted points on curves of awkward length: even within a hundred-thousandth, first and last exactly at the ends', () => {
	for (const [name, settings, wanted] of [
		['line', { from: [0.1, 0, 0], to: [7.123, 3.21, -1.7], points: 7 }, 0.37],
		['circle', { radius: 1.2345, points: 4096 }, 0.31]
	] as const) {
		const run = evaluateAll(
			generator([
				[name, 'c', settings],
				['points-along-curve', 'fit', { by: 'fitted', spacing: wanted }, { curve: 'c.curve' }]
			])
		);
		const curves = run.geometry('c').curves!;
		const whole = lengthsAlong(curves).lengths[0];
		const p = run.geometry('fit').points!.points.columns.get('position')!.data;
		const n = p.length / 3;
		const pieces = name === 'line' ? n - 1 : n;
		const gaps = Array.from({ length: pieces }, (_, i) => {
			const [a, b] = [3 * i, 3 * ((i + 1) % n)];
			return Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
		});
		assert.ok(
			Math.max(...gaps) - Math.min(...gaps) < 1e-5,
			`${name}: ${Math.max(...gaps) - Math.min(...gaps)}`
		);
		assert.equal(pieces, Math.round(whole / wanted));
		if (name === 'line') {
			const from = curves.points.columns.get('position')!.data;
			assert.deepEqual([...p.slice(0, 3), ...p.slice(-3)], [...from.slice(0, 3), ...from.slice(-3)]);
		}
	}
});

test('of the shell drift, mussels are as common as their share by the water, cockles further up, and the line lies a step away', () => {
	const run = sample('shell-drift').run();
	const { columns, count } = run.geometry('shells').copies!.copies;
	const [far, kind, source] = ['far', 'kind', 'source'].map((name) => columns.get(name)!.data);
	assert.deepEqual([...source], [...kind], 'each shows the shell of its kind');
	const shareOf = (wanted: number, from: number, to: number) => {
		const rows = Array.from({ length: count }, (_, i) => i).filter((i) => far[i] >= from && far[i] < to);
		const share = rows.filter((i) => kind[i] === wanted).length / rows.length;
		return { share, deviation: Math.sqrt((share * (1 - share)) / rows.length) };
	};
	// 1 : 1 : 8 where it is wet, 6 : 2 : 1 where it is dry.
	const mussels = shareOf(2, 0, 0.4),
		cockles = shareOf(0, 1.5, 9);
	assert.ok(Math.abs(mussels.share - 0.8) < 3 * mussels.deviation, `${mussels.share}`);
	assert.ok(Math.abs(cockles.share - 6 / 9) < 3 * cockles.deviation, `${cockles.share}`);
	const sorted = Float32Array.from(far).sort();
	assert.ok(Math.abs(sorted[count >> 1] - 0.9) < 0.25, `half of them lie within ${sorted[count >> 1]} m`);
});

test('of the glasswort each plant has 127 joints, red at the tips', () => {
	const { copies } = sample('glasswort').run().geometry('reddened').copies!;
	assert.equal(copies.count % 127, 0);
	const progress = copies.columns.get('progress')!.data,
		colour = copies.columns.get('colour')!.data;
	const redness = (tip: boolean) => {
		const rows = [...progress.keys()].filter((i) => (tip ? progress[i] === 1 : progress[i] < 0.2));
		return rows.reduce((sum, i) => sum + colour[3 * i] - colour[3 * i + 1], 0) / rows.length;
	};
	assert.ok(redness(true) > 0.15 && redness(false) < -0.05, `${redness(true)}, ${redness(false)}`);
});

test('of the shingled roof every course and shingle is there once, brighter the higher it lies', () => {
	const { mesh } = sample('shingled-roof').run().geometry('courses');
	const [shingle, course, colour] = ['pass', 'outerPass', 'colour'].map(
		(name) => mesh!.faces.columns.get(name)!.data
	);
	assert.equal(new Set([...shingle.keys()].map((f) => `${course[f]} ${shingle[f]}`)).size, 200);
	const brightness = [0, 9].map((wanted) => {
		const faces = [...course.keys()].filter((f) => course[f] === wanted);
		return faces.reduce((sum, f) => sum + colour[3 * f], 0) / faces.length;
	});
	assert.ok(brightness[1] > 1.5 * brightness[0], brightness.join());
});

test('of the mangrove roots enter the mud and the crown stands above, by one body used twice', () => {
	const { document, run: runOf } = sample('mangrove');
	const run = runOf();
	const y = (short: string) =>
		(run.geometry(short).mesh!.points.columns.get('position')!.data as Float32Array).filter(
			(_, i) => i % 3 === 1
		);
	assert.ok(Math.min(...y('roots')) < -0.05);
	assert.ok(Math.max(...y('crown')) > 2.5 && Math.min(...y('crown')) > 1);
	const uses = document.graphs.main.nodes.filter(({ kind }) => kind === 'subgraph');
	assert.deepEqual(
		uses.map(({ settings }) => settings.body),
		['limbs', 'limbs']
	);
});

/** What a node of a sample gives at a frame. */
function atFrame(name: string) {
	const { document, by } = sample(name);
	return (short: string, frame: number) => {
		const { id } = document.graphs.main.nodes.find((node) => node.short === short)!;
		const result = by.begin(document, { frame }).pull([id]).results.get(id)!;
		assert.equal(result.error, null, result.error?.message);
		return [...result.outputs.values()].find(isGeometry)!.copies!.copies;
	};
}
const placesOf = (copies: Table) => copies.columns.get('position')!.data as Float32Array;

test('of the tide organ the pipes rise and sink, rest where the calm stands, and swing back after it', () => {
	const at = atFrame('tide-organ');
	const rest = placesOf(at('pipes', 1));
	const heights = (short: string, frame: number) => {
		const p = placesOf(at(short, frame));
		return Array.from({ length: p.length / 3 }, (_, i) => ({
			x: p[3 * i],
			away: p[3 * i + 1] - rest[3 * i + 1]
		}));
	};
	// At frame 58 the calm stands about the middle, and has been there long enough for those under it to settle.
	const middle = heights('swell', 58).filter(({ x }) => Math.abs(x) < 0.5);
	assert.ok(middle.length > 1 && middle.every(({ away }) => away === 0), 'the middle is calm');
	const aside = heights('swell', 58).filter(({ x }) => Math.abs(x) > 5.2);
	assert.ok(aside.length > 8 && aside.some(({ away }) => Math.abs(away) > 0.2), 'aside it is not');
	const late = heights('swinging', 58).filter(({ x }) => Math.abs(x) < 0.5);
	assert.ok(
		late.every(({ away }) => Math.abs(away) < 0.35),
		'they come to rest'
	);
	// What swings is never where it is drawn to, but stays within reach of it.
	const gap = heights('swinging', 100).map(({ away }, i) => away - heights('swell', 100)[i].away);
	assert.ok(gap.some((x) => Math.abs(x) > 0.01) && gap.every((x) => Math.abs(x) < 1));
});

test('of the thatch ever more bundles are laid, none goes back, and at the end all lie in their places', () => {
	const at = atFrame('thatch');
	const laid = (frame: number) => [...at('seen', frame).columns.get('shown')!.data];
	const frames = [1, 20, 40, 60, 80, 100, 120].map(laid);
	frames.slice(1).forEach((now, k) => {
		now.forEach((shown, i) => assert.ok(shown >= frames[k][i], `bundle ${i} is not taken away again`));
	});
	const counts = frames.map((shown) => shown.filter(Boolean).length);
	assert.ok(counts[0] === 0 && counts[3] > 60 && counts[6] === 286, counts.join(' '));
	const [goal, there] = [placesOf(at('bundles', 120)), placesOf(at('flying', 120))];
	const away = Array.from(goal, (x, k) => Math.abs(x - there[k]));
	assert.ok(Math.max(...away) < 0.05, `${Math.max(...away)} m away`);
});
