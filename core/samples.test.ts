import assert from 'node:assert/strict';
import { test } from 'node:test';
import { digestOf, edgesOf, faceAreas, lengthsAlong } from './geometry/index.ts';
import type { Curves, Table } from './geometry/index.ts';
import { isGeometry, withSetting } from './engine/index.ts';
import { BoxTree } from './kernels/box-tree.ts';
import { nodeKinds } from './nodes/index.ts';
import { evaluateAll, generator } from './testing/index.ts';
import { SAMPLES, sample } from './testing/samples.ts';

const positions = (curves: Curves) => curves.points.columns.get('position')!.data as Float32Array;

/** The pieces of one curve. */
function treeOf(curves: Curves, c: number): BoxTree {
	const p = positions(curves);
	const pieces: number[] = [];
	for (let i = curves.starts[c]; i + 1 < curves.starts[c + 1]; i++)
		pieces.push(...p.subarray(3 * i, 3 * i + 6));
	return new BoxTree(Float32Array.from(pieces), 2);
}

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

test('strands of the net are never nearer than their thickness, and cross front and back', () => {
	const flat = sample('drying-net').run().geometry('net').curves!;
	const thick = 0.012;
	const count = flat.starts.length - 1;
	assert.equal(count, 12, 'six rows of two strands');
	const p = positions(flat);
	let nearest = Infinity;
	for (let c = 0; c < count; c++) {
		const tree = treeOf(flat, c);
		for (let other = 0; other < count; other++) {
			if (other === c) continue;
			for (let i = flat.starts[other]; i < flat.starts[other + 1]; i++)
				nearest = Math.min(nearest, tree.nearest(p[3 * i], p[3 * i + 1], p[3 * i + 2]).distance);
		}
	}
	assert.ok(nearest > 0.97 * thick && nearest < 1.2 * thick, `${nearest}`);
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
	assert.equal(
		evaluateAll({ ...document, graphs: { main } }, {}, by).geometry('net').curves!.curves.count,
		16
	);
});

test('bars of the rack lie beside one another at their angle, sag between trestles, and two pegs of five bear a skin', () => {
	const run = sample('drying-rack').run();
	const bars = run.geometry('curves').curves!;
	assert.equal(bars.curves.count, 4);
	const p = positions(bars);
	// Straight bars, before they are laid along the path: each 30 cm from the last, 38 degrees up.
	for (let c = 1; c < 4; c++) {
		const [a, b] = [3 * bars.starts[c - 1], 3 * bars.starts[c]];
		const [up, aside] = [p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
		assert.ok(Math.abs(Math.hypot(up, aside) - 0.3) < 1e-5);
		assert.ok(Math.abs(Math.atan2(up, aside) - (38 * Math.PI) / 180) < 1e-4);
	}
	// As high at the trestles as it was, lowest half-way between them.
	const trestles = run.geometry('trestles').copies!.copies.count;
	const spans = trestles - 1;
	const points = bars.starts[1];
	const heights = Array.from({ length: points }, (_, i) => p[3 * i + 1]);
	const highest = Math.max(...heights);
	for (let k = 0; k <= spans; k++) {
		const at = Math.min(points - 1, Math.round((k * (points - 1)) / spans));
		assert.ok(highest - heights[at] < 0.004, `${highest - heights[at]} m at trestle ${k}`);
	}
	assert.ok(Math.abs(highest - Math.min(...heights) - 0.11) < 0.002);
	const pegs = run.geometry('pegs').copies!.copies.count;
	const skins = run.geometry('skins').copies!.copies.count;
	assert.ok(pegs > 120 && Math.abs(skins / pegs - 0.42) < 0.1, `${skins} skins on ${pegs} pegs`);
});

test('stakes of the oyster plots stand where their formulas say, three of five stay with their numbers, and each has its plot', () => {
	const run = sample('oyster-plots').run();
	const at = (short: string) => run.geometry(short).points!.points;
	const p = at('places').columns.get('position')!.data;
	assert.equal(at('places').count, 240);
	for (let n = 0; n < 240; n++) {
		const row = Math.floor(n / 4);
		assert.ok(Math.abs(p[3 * n] - (row * 0.56 - 16.5)) < 1e-6 * 34);
		assert.ok(Math.abs(p[3 * n + 2] - ((n % 4) * 0.95 - 1.4 + 3 * Math.sin(row / 13))) < 1e-6 * 34);
	}
	const old = [...at('threeOfFive').columns.get('oldIndex')!.data];
	assert.deepEqual(
		old,
		Array.from({ length: 240 }, (_, n) => n).filter((n) => n % 5 < 3)
	);
	assert.equal(old.length, 144);
	const left = at('whereLow').count;
	assert.ok(left > 80 && left < 144);
	assert.equal(run.geometry('plots').mesh!.faces.count, left);
	// Every shell lies within the reach of a plot that is left.
	const stakes = at('whereLow').columns.get('position')!.data;
	const tree = new BoxTree(stakes as Float32Array, 1);
	const shells = at('sowing').columns.get('position')!.data;
	for (let i = 0; i < shells.length; i += 3)
		assert.ok(tree.nearest(shells[i], shells[i + 1], shells[i + 2]).distance < 0.63);
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

test('of the float line the floats swell towards the net, and equal ones share a shape', () => {
	const run = sample('float-line').run();
	const { copies, sources } = run.geometry('floats').copies!;
	assert.ok(sources.length <= 24 && sources.length > 6, `${sources.length} shapes of ${copies.count}`);
	const width = sources.map(({ mesh }) =>
		Math.max(...(mesh!.points.columns.get('position')!.data as Float32Array).filter((_, i) => i % 3 === 0))
	);
	const net = treeOf(run.geometry('netEdge').curves!, 0);
	const at = copies.columns.get('position')!.data,
		source = copies.columns.get('source')!.data;
	const far = [...source.keys()].map((i) => net.nearest(at[3 * i], at[3 * i + 1], at[3 * i + 2]).distance);
	const order = [...source.keys()].sort((a, b) => far[a] - far[b]);
	assert.ok(width[source[order[0]]] > 1.5 * width[source[order.at(-1)!]]);
	for (let i = 1; i < order.length; i++)
		assert.ok(width[source[order[i]]] <= width[source[order[i - 1]]] + 1e-6, `float ${order[i]}`);
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
	assert.ok(counts[0] > 0 && counts[0] < 100 && counts[6] === 286, counts.join(' '));
	const [goal, there] = [placesOf(at('bundles', 120)), placesOf(at('flying', 120))];
	const away = Array.from(goal, (x, k) => Math.abs(x - there[k]));
	assert.ok(Math.max(...away) < 0.05, `${Math.max(...away)} m away`);
});
