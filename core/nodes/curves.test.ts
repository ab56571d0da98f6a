import assert from 'node:assert/strict';
import { test } from 'node:test';
import { areaOf, boundsOf, edgesOf, lengthOf, trianglesOf, volumeOf } from '../geometry/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { framesOf } from '../kernels/frames.ts';
import type { Row } from '../testing/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';

const within = (a: number, b: number, share: number, what = '') =>
	assert.ok(Math.abs(a - b) <= share * Math.abs(b), `${what}: ${a} against ${b}`);
const openEdges = ({ mesh }: Geometry) => edgesOf(mesh!.topology).uses.filter((uses) => uses !== 2).length;

test('swept and revolved tori have the area and volume of the formulas, and no open edge', () => {
	const [R, r] = [3, 1];
	const run = evaluateAll(
		generator([
			['circle', 'ring', { radius: R, points: 256 }],
			['circle', 'round', { radius: r, points: 256, facing: 'front' }],
			['sweep', 'swept', { spread: true }, { path: 'ring.curve', section: 'round.curve' }],
			['circle', 'coarse', { radius: r, points: 64, facing: 'front', match: 'area' }],
			['sweep', 'swept64', { spread: true }, { path: 'ring.curve', section: 'coarse.curve' }],
			['transform', 'aside64', { move: [R, 0, 0] }, { geometry: 'coarse.curve' }],
			['revolve', 'turned64', { segments: 256 }, { profile: 'aside64.geometry' }],
			['transform', 'aside', { move: [R, 0, 0] }, { geometry: 'round.curve' }],
			['revolve', 'turned', { segments: 256 }, { profile: 'aside.geometry' }],
			['revolve', 'part', { segments: 64, angle: 90 }, { profile: 'aside.geometry' }]
		])
	);
	for (const name of ['swept', 'turned', 'swept64', 'turned64']) {
		const torus = run.geometry(name);
		within(areaOf(torus), 4 * Math.PI ** 2 * R * r, 1e-3, `area, ${name}`);
		within(volumeOf(torus.mesh!), 2 * Math.PI ** 2 * R * r * r, 1e-3, `volume, ${name}`);
		assert.equal(openEdges(torus), 0, name);
	}
	const part = run.geometry('part');
	within(volumeOf(part.mesh!), (Math.PI ** 2 * R * r * r) / 2, 2e-3, 'a quarter');
	assert.equal(openEdges(part), 0, 'capped');
});

test('a profile left of the axis is turned as the same to its right; one on both sides is told of', () => {
	const profiles: Row[] = [
		['rectangle', 'bar', { width: 1, height: 2, facing: 'front' }],
		['line', 'rod', { from: [0, 0, 0], to: [0.5, 2, 0] }]
	];
	for (const profile of ['bar', 'rod'])
		for (const x of [2, 5]) {
			const run = evaluateAll(
				generator([
					...profiles,
					['transform', 'right', { move: [x, 0, 0] }, { geometry: `${profile}.curve` }],
					['transform', 'left', { scale: [-1, 1, 1] }, { geometry: 'right.geometry' }],
					['transform', 'across', { move: [0.1, 0, 0] }, { geometry: 'bar.curve' }],
					['revolve', 'turned', {}, { profile: 'right.geometry' }],
					['revolve', 'mirrored', {}, { profile: 'left.geometry' }],
					['revolve', 'crossing', {}, { profile: 'across.geometry' }]
				])
			);
			const [right, left] = ['turned', 'mirrored'].map(run.geometry);
			within(areaOf(left), areaOf(right), 1e-5, `${profile} at ${x}: area`);
			within(volumeOf(left.mesh!), volumeOf(right.mesh!), 1e-5, `${profile} at ${x}: volume, outside out`);
			assert.deepEqual(run.warnings('mirrored'), []);
			assert.match(run.warnings('crossing')[0], /left of the axis/);
		}
});

test('a swept bend keeps its width at corners, and a path that turns sharply stays closed', () => {
	const run = evaluateAll(
		generator([
			['rectangle', 'frame', { width: 4, height: 2 }],
			['rectangle', 'bar', { width: 0.2, height: 0.2, facing: 'front' }],
			['sweep', 'border', { up: 'world' }, { path: 'frame.curve', section: 'bar.curve' }]
		])
	);
	const border = run.geometry('border');
	// A picture frame: the outer box less the inner.
	within(volumeOf(border.mesh!), (4.2 * 2.2 - 3.8 * 1.8) * 0.2, 1e-5, 'volume');
	assert.deepEqual(
		boundsOf(border)!.high.map((x) => Math.round(x * 1e4) / 1e4),
		[2.1, 0.1, 1.1]
	);
	assert.equal(openEdges(border), 0);
});

test('frames on a helix follow the torsion-free solution within half a degree', () => {
	const [r, height, turns] = [1, 3, 3];
	const run = evaluateAll(
		generator([['helix', 'coil', { radius: r, endRadius: r, height, turns, points: 64 }]])
	);
	const curves = run.geometry('coil').curves!;
	const { tangents, normals } = framesOf(curves);
	// Against the Frenet frame a frame without spin turns back by the torsion times the length: a constant rate here.
	const c = height / (2 * Math.PI * turns);
	const rate = (c / Math.sqrt(r * r + c * c)) * 2 * Math.PI;
	const p = curves.points.columns.get('position')!.data;
	const angleAt = (i: number) => {
		const [x, z] = [p[3 * i] / r, p[3 * i + 2] / r];
		const inward = [-x, 0, -z];
		const t = [tangents[3 * i], tangents[3 * i + 1], tangents[3 * i + 2]];
		const side = [
			t[1] * inward[2] - t[2] * inward[1],
			t[2] * inward[0] - t[0] * inward[2],
			t[0] * inward[1] - t[1] * inward[0]
		];
		const n = [normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]];
		const dot = (a: number[], b: number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
		return Math.atan2(dot(n, side), dot(n, inward));
	};
	const [first, last] = [2, curves.points.count - 3];
	const passed = (last - first) / 64;
	const turned = angleAt(last) - angleAt(first);
	const wanted = -rate * passed;
	const off = ((((turned - wanted) * 180) / Math.PI + 36_000 + 180) % 360) - 180;
	const other = ((((turned + wanted) * 180) / Math.PI + 36_000 + 180) % 360) - 180;
	assert.ok(Math.min(Math.abs(off), Math.abs(other)) < 0.5, `${off}° or ${other}° over ${passed} turns`);
});

test('outlines are filled with holes left open, and extruded into closed solids', () => {
	const rows = (depth: number, chamfer: number) =>
		evaluateAll(
			generator([
				['rectangle', 'sheet', { width: 4, height: 3 }],
				['circle', 'left', { radius: 0.5, points: 200 }],
				['transform', 'a', { move: [-1, 0, 0] }, { geometry: 'left.curve' }],
				['transform', 'b', { move: [1, 0, 0] }, { geometry: 'left.curve' }],
				['merge', 'all', {}, { geometry: ['sheet.curve', 'a.geometry', 'b.geometry'] }],
				['fill-outline', 'filled', {}, { outline: 'all.geometry' }],
				['extrude', 'solid', { depth, bevel: chamfer }, { outline: 'all.geometry' }]
			])
		);
	const run = rows(0.5, 0);
	const area = 12 - 2 * Math.PI * 0.25;
	within(areaOf(run.geometry('filled')), area, 1e-3, 'two holes are missing');
	const solid = run.geometry('solid');
	within(volumeOf(solid.mesh!), area * 0.5, 1e-3, 'volume');
	assert.equal(openEdges(solid), 0);
	const chamfered = rows(0.5, 0.1).geometry('solid');
	assert.equal(openEdges(chamfered), 0);
	assert.ok(volumeOf(chamfered.mesh!) < volumeOf(solid.mesh!) - 0.01);
	assert.deepEqual(boundsOf(chamfered), boundsOf(solid), 'a chamfer takes off, never adds');
});

test('drawn curves pass through their points, and lengths of primitives are right', () => {
	const at = (x: number, y: number, z: number) => ({ at: [x, y, z] });
	const path = { path: [at(0, 0, 0), at(1, 0, 0), at(1, 0, 2), at(5, 0, 2)] };
	const run = evaluateAll(
		generator([
			['draw-curve', 'straight', { path, type: 'straight' }],
			['draw-curve', 'smooth', { path, type: 'through', segments: 8 }],
			['draw-curve', 'loop', { path, type: 'through', closed: true }],
			[
				'draw-curve',
				'bow',
				{
					path: {
						path: [
							{ at: [0, 0, 0], out: [0, 1, 0] },
							{ at: [3, 0, 0], in: [0, 1, 0] }
						]
					},
					type: 'bezier',
					segments: 64
				}
			],
			['draw-curve', 'none', { path: { path: [] } }],
			['draw-curve', 'one', { path: { path: [at(1, 2, 3)] } }],
			['arc', 'arc', { radius: 2, sweep: 90, points: 400 }],
			['polygon', 'hexagon', { sides: 6, radius: 1 }],
			['helix', 'helix', { radius: 1, endRadius: 1, height: 2, turns: 2, points: 400 }],
			['reverse-curve', 'back', {}, { curve: 'straight.curve' }]
		])
	);
	within(lengthOf(run.geometry('straight')), 7, 1e-6);
	const smooth = run.geometry('smooth').curves!.points.columns.get('position')!.data;
	assert.deepEqual([...smooth.slice(3 * 8, 3 * 8 + 3)], [1, 0, 0]);
	assert.equal(run.geometry('loop').curves!.points.count, 48);
	// The middle of a cubic: an eighth, three eighths, three eighths, an eighth of its four points.
	const bow = run.geometry('bow').curves!.points.columns.get('position')!.data;
	assert.deepEqual([...bow.slice(3 * 32, 3 * 32 + 3)], [1.5, 0.75, 0]);
	assert.equal(run.geometry('none').curves!.points.count, 0);
	assert.match(run.warnings('one')[0], /One point makes no curve/);
	within(lengthOf(run.geometry('arc')), Math.PI, 1e-5);
	within(lengthOf(run.geometry('hexagon')), 6, 1e-6);
	within(lengthOf(run.geometry('helix')), Math.hypot(2, 4 * Math.PI), 1e-4);
	const back = run.geometry('back').curves!.points.columns.get('position')!.data;
	assert.deepEqual([...back.slice(0, 3)], [5, 0, 2]);
});

test('curves are trimmed to the millimetre, joined end to end, rounded and taken from edges', () => {
	const run = evaluateAll(
		generator([
			['line', 'a', { from: [0, 0, 0], to: [4, 0, 0], points: 5 }],
			['part-of-curve', 'part', { from: 0.125, to: 0.75 }, { curve: 'a.curve' }],
			['part-of-curve', 'short', { by: 'length', start: 0.5, end: 1 }, { curve: 'a.curve' }],
			['part-of-curve', 'none', { from: 0.5, to: 0.5 }, { curve: 'a.curve' }],
			['line', 'b', { from: [4, 0, 3], to: [4, 0, 0] }],
			['line', 'c', { from: [4, 0, 3], to: [0, 0, 0] }],
			['merge', 'three', {}, { geometry: ['a.curve', 'b.curve', 'c.curve'] }],
			['join-curves', 'loop', {}, { curve: 'three.geometry' }],
			['rectangle', 'frame', { width: 4, height: 2 }],
			['round-corners', 'round', { radius: 0.5, segments: 64 }, { curve: 'frame.curve' }],
			['round-corners', 'most', { radius: 9, segments: 64 }, { curve: 'frame.curve' }],
			['grid', 'g', { width: 3, depth: 2, columns: 3, rows: 2 }],
			['edges-to-curves', 'border', {}, { mesh: 'g.mesh' }],
			['box', 'box', { size: [1, 1, 1] }],
			['edges-to-curves', 'sharp', { which: 'angle' }, { mesh: 'box.mesh' }],
			['ribbon', 'tape', { width: 0.5 }, { curve: 'a.curve' }]
		])
	);
	within(lengthOf(run.geometry('part')), 2.5, 1e-6);
	const p = run.geometry('part').curves!.points.columns.get('position')!.data;
	assert.deepEqual([p[0], p[p.length - 3]], [0.5, 3]);
	within(lengthOf(run.geometry('short')), 2.5, 1e-6);
	assert.match(run.warnings('none')[0], /nothing left/);
	const loop = run.geometry('loop').curves!;
	assert.deepEqual(
		[loop.curves.count, loop.curves.columns.get('closed')!.data[0], loop.points.count],
		[1, 1, 6]
	);
	within(lengthOf(run.geometry('loop')), 12, 1e-6);
	within(lengthOf(run.geometry('round')), 12 - 8 * 0.5 + Math.PI, 1e-4);
	assert.match(run.warnings('most')[0], /4 corners the radius does not fit/);
	assert.equal(run.geometry('border').curves!.curves.count, 1);
	within(lengthOf(run.geometry('border')), 10, 1e-6);
	within(lengthOf(run.geometry('sharp')), 12, 1e-6);
	within(areaOf(run.geometry('tape')), 2, 1e-6);
	const normal = run.geometry('tape').mesh!;
	assert.ok(normal.faces.count === 4);
});

test('points are dropped onto a surface along a direction, and what misses it is said', () => {
	const run = evaluateAll(
		generator([
			['grid', 'flat', { width: 4, depth: 4, columns: 20, rows: 20 }],
			[
				'displace',
				'hill',
				{ amount: { formula: 'position.x * 0.5', streams: [] } },
				{ geometry: 'flat.mesh' }
			],
			['line', 'wire', { from: [-3, 5, 0], to: [1.5, 5, 0], points: 10 }],
			['project-on-surface', 'laid', { above: 0 }, { geometry: 'wire.curve', surface: 'hill.geometry' }]
		])
	);
	const p = run.geometry('laid').curves!.points.columns.get('position')!.data;
	assert.equal(p[1], 5, 'the first lies beyond the surface');
	for (let i = 9; i < p.length; i += 3)
		assert.ok(Math.abs(p[i + 1] - 0.5 * p[i]) < 1e-5, `${p[i + 1]} at ${p[i]}`);
	assert.match(run.warnings('laid')[0], /2 points meet no surface/);
});

test('outlines are offset and combined: areas by the formulas', () => {
	const fill = (
		name: string,
		wire: string
	): [string, string, Record<string, unknown>, Record<string, string>] => [
		'fill-outline',
		name,
		{},
		{ outline: wire }
	];
	const run = evaluateAll(
		generator([
			['rectangle', 'a', { width: 2, height: 2 }],
			['rectangle', 'b0', { width: 2, height: 2 }],
			['transform', 'b', { move: [1, 0, 0] }, { geometry: 'b0.curve' }],
			['combine-outlines', 'union', { operation: 'union' }, { first: 'a.curve', second: 'b.geometry' }],
			[
				'combine-outlines',
				'without',
				{ operation: 'difference' },
				{ first: 'a.curve', second: 'b.geometry' }
			],
			['combine-outlines', 'overlap', { operation: 'overlap' }, { first: 'a.curve', second: 'b.geometry' }],
			['offset-curve', 'round', { distance: 0.5, tolerance: 0.0001 }, { curve: 'a.curve' }],
			['offset-curve', 'inward', { distance: -0.5, join: 'mitre' }, { curve: 'a.curve' }],
			['offset-curve', 'gone', { distance: -3 }, { curve: 'a.curve' }],
			['offset-curve', 'band', { distance: 0.25, join: 'mitre', both: true }, { curve: 'a.curve' }],
			fill('u', 'union.curve'),
			fill('w', 'without.curve'),
			fill('o', 'overlap.curve'),
			fill('r', 'round.curve'),
			fill('i', 'inward.curve'),
			fill('d', 'band.curve')
		])
	);
	const area = (name: string) => areaOf(run.geometry(name));
	within(area('u'), 6, 1e-5, 'union');
	within(area('w'), 2, 1e-5, 'without');
	within(area('o'), 2, 1e-5, 'overlap');
	within(area('r'), 4 + 4 * 2 * 0.5 + Math.PI * 0.25, 1e-3, 'round');
	within(area('i'), 1, 1e-5, 'inward');
	within(area('d'), 2.5 * 2.5 - 1.5 * 1.5, 1e-5, 'band');
	assert.match(run.warnings('gone')[0], /nothing is left/);
});

test('subdividing keeps what is flat flat and closed closed; a smooth cube tends to its limit', () => {
	const run = evaluateAll(
		generator([
			['box', 'box', { size: [2, 2, 2], standing: false }],
			['subdivide', 'flat', { method: 'flat', levels: 2 }, { geometry: 'box.mesh' }],
			['subdivide', 'three', { levels: 3 }, { geometry: 'box.mesh' }],
			['subdivide', 'five', { levels: 5 }, { geometry: 'box.mesh' }],
			['grid', 'sheet', { width: 4, depth: 4, columns: 4, rows: 4 }],
			['subdivide', 'soft', { levels: 2 }, { geometry: 'sheet.mesh' }],
			['subdivide', 'far', { levels: 8 }, { geometry: 'five.geometry' }]
		])
	);
	const flat = run.geometry('flat');
	assert.deepEqual([flat.mesh!.faces.count, flat.mesh!.points.count], [96, 98]);
	within(areaOf(flat), 24, 1e-6);
	within(volumeOf(flat.mesh!), 8, 1e-6);
	assert.equal(openEdges(run.geometry('five')), 0);
	const [three, five] = ['three', 'five'].map((name) => volumeOf(run.geometry(name).mesh!));
	// Near the limit the volume hardly changes any more, and lies well within the cube.
	within(three, five, 0.02);
	assert.ok(five > 2.5 && five < 4.5, `${five}`);
	const soft = boundsOf(run.geometry('soft'))!;
	assert.ok(soft.low[1] === 0 && soft.high[1] === 0, 'a sheet stays flat');
	assert.match(run.error('far')!, /would make/);
});

/** Directed sides of triangles that have no partner: none where a mesh is closed, also after it is cut into triangles. */
function unpaired({ mesh }: Geometry): number {
	const { cornerPoints } = mesh!.topology;
	const sides = new Set<string>();
	const { corners } = trianglesOf(mesh!);
	for (let i = 0; i < corners.length; i += 3)
		for (let k = 0; k < 3; k++)
			sides.add(`${cornerPoints[corners[i + k]]} ${cornerPoints[corners[i + ((k + 1) % 3)]]}`);
	return [...sides].filter((side) => !sides.has(side.split(' ').reverse().join(' '))).length;
}

test('subdividing by a weight cuts only there, leaves the rest to the bit, and opens no crack', () => {
	const upper = ['weight-by-height', 'upper', { from: 0, to: 0.01 }] as const;
	const run = evaluateAll(
		generator([
			['sphere', 'ball', { radius: 1, segments: 24, rows: 12 }],
			['box', 'box', { size: [2, 2, 2], standing: false, cellsX: 4, cellsY: 4, cellsZ: 4 }],
			[...upper],
			['weight-by-height', 'rise', { from: -1, to: 1 }],
			...['ball', 'box'].flatMap((source) =>
				['flat', 'smooth'].map(
					(how) =>
						[
							'subdivide',
							`${source}-${how}`,
							{ method: how, levels: 3 },
							{ geometry: `${source}.mesh`, weight: 'upper.weight' }
						] as const
				)
			),
			['subdivide', 'graded', { method: 'flat', levels: 3 }, { geometry: 'box.mesh', weight: 'rise.weight' }],
			['subdivide', 'none', { levels: 3, weight: 0 }, { geometry: 'ball.mesh' }]
		])
	);
	for (const source of ['ball', 'box']) {
		const before = run.geometry(source);
		const old = before.mesh!.points.columns.get('position')!.data;
		for (const how of ['flat', 'smooth']) {
			const after = run.geometry(`${source}-${how}`);
			const p = after.mesh!.points.columns.get('position')!.data;
			assert.equal(unpaired(after), 0, `cracks in ${source}, ${how}`);
			assert.ok(after.mesh!.faces.count > 10 * before.mesh!.faces.count, 'cut in the upper half');
			// Old points come first. Below the middle none moves, and no new ones lie deeper than one row of faces.
			for (let i = 0; i < old.length; i += 3)
				if (old[i + 1] < -1e-6)
					for (let k = i; k < i + 3; k++) assert.equal(p[k], old[k], `point ${i / 3} of ${source}`);
			for (let i = old.length; i < p.length; i += 3) assert.ok(p[i + 1] > -0.51, `${p[i + 1]} is too deep`);
		}
	}
	const [box, flat] = [run.geometry('box'), run.geometry('box-flat')];
	within(areaOf(flat), areaOf(box), 1e-6);
	within(volumeOf(flat.mesh!), volumeOf(box.mesh!), 1e-6);
	assert.equal(unpaired(run.geometry('graded')), 0, 'cracks in the graded one');
	assert.equal(run.geometry('none'), run.geometry('ball'), 'without weight nothing is made anew');
});

test('a loft goes through its curves', () => {
	const run = evaluateAll(
		generator([
			['circle', 'low', { radius: 1, points: 200 }],
			['circle', 'small', { radius: 0.5, points: 64 }],
			['transform', 'high', { move: [0, 2, 0] }, { geometry: 'small.curve' }],
			['loft', 'cone', {}, { curves: ['low.curve', 'high.geometry'] }],
			['loft', 'alone', {}, { curves: ['low.curve'] }]
		])
	);
	// The mantle of a frustum.
	within(areaOf(run.geometry('cone')), Math.PI * 1.5 * Math.hypot(2, 0.5), 1e-3);
	assert.match(run.error('alone')!, /at least two/);
});

test('outlines that cross are filled by either rule: a star of one stroke, its middle open or filled', () => {
	// Every second corner of a pentagon: the middle is gone round twice.
	const corner = (i: number) => {
		const angle = (i * 4 * Math.PI) / 5;
		return { at: [Math.sin(angle), Math.cos(angle), 0] };
	};
	const run = evaluateAll(
		generator([
			[
				'draw-curve',
				'stroke',
				{ type: 'straight', closed: true, path: { path: [0, 1, 2, 3, 4].map(corner) } }
			],
			['fill-outline', 'open', { fill: 'even-odd' }, { outline: 'stroke.curve' }],
			['fill-outline', 'whole', { fill: 'nonzero' }, { outline: 'stroke.curve' }],
			['extrude', 'solid', { fill: 'nonzero', depth: 0.5 }, { outline: 'stroke.curve' }]
		])
	);
	// The pentagon in the middle has this circumradius; the five tips are the rest.
	const inner = Math.cos((2 * Math.PI) / 5) / Math.cos(Math.PI / 5);
	const middle = (5 / 2) * inner * inner * Math.sin((2 * Math.PI) / 5);
	const whole = 5 * inner * Math.sin(Math.PI / 5);
	within(areaOf(run.geometry('whole')), whole, 1e-4, 'nonzero');
	within(areaOf(run.geometry('open')), whole - middle, 1e-4, 'even-odd');
	within(volumeOf(run.geometry('solid').mesh!), whole / 2, 1e-4, 'extruded');
	assert.equal(openEdges(run.geometry('solid')), 0);
});
