import assert from 'node:assert/strict';
import { readFileSync, readdirSync } from 'node:fs';
import { test } from 'node:test';
import { lengthsAlong } from './geometry/index.ts';
import type { Curves } from './geometry/index.ts';
import { unpackGenerator } from './formats/index.ts';
import { openDocument, withSetting } from './engine/index.ts';
import { BoxTree } from './kernels/box-tree.ts';
import { evaluateAll, generator } from './testing.ts';

/** A sample with a finder of its assets. */
function open(name: string) {
	const { text, assets } = unpackGenerator(new Uint8Array(readFileSync(`samples/${name}`)), name);
	const asset = (hash: string) => {
		const bytes = assets.get(hash);
		return bytes ? { hash, bytes, name: hash } : null;
	};
	return { ...openDocument(text), asset };
}
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
	for (const file of readdirSync('samples').filter((name) => name.includes('.embrell.'))) {
		const { document, leftOut, asset } = open(file);
		assert.deepEqual(leftOut, [], file);
		const { evaluation } = evaluateAll(document, { asset });
		for (const node of document.graphs.main.nodes) {
			const result = evaluation.results.get(node.id)!;
			assert.equal(result.state, 'fresh', `${file}, ${node.short}: ${result.error?.message}`);
			assert.deepEqual([...result.warnings], [], `${file}, ${node.short}`);
		}
	}
});

test('strands of the net are never nearer than their thickness, cross front and back, and close at the corner', () => {
	const { document } = open('drying-net.embrell.json');
	const run = evaluateAll(document);
	const flat = run.geometry('net').curves!;
	const thick = 0.016;
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
	// Along the path, with its right angle: one curve from end to end for each strand, no step longer than a mesh's share.
	const laid = run.geometry('laid').curves!;
	const q = positions(laid);
	for (let c = 0; c < count; c++) {
		for (let i = laid.starts[c]; i + 1 < laid.starts[c + 1]; i++) {
			const step = Math.hypot(
				q[3 * i + 3] - q[3 * i],
				q[3 * i + 4] - q[3 * i + 1],
				q[3 * i + 5] - q[3 * i + 2]
			);
			assert.ok(step < 0.28 / 4, `a step of ${step} m`);
		}
		const end = 3 * (laid.starts[c + 1] - 1);
		assert.ok(Math.hypot(q[end] - 1.4, q[end + 2] + 2) < 0.01, 'at the end of the path');
	}
});

test('a taller net gains rows', () => {
	const { document } = open('drying-net.embrell.json');
	const tall = document.graphs.main.nodes.find((node) => node.short === 'tall')!;
	const main = withSetting(document.graphs.main, tall.id, 'value', 2.3);
	assert.equal(evaluateAll({ ...document, graphs: { main } }).geometry('net').curves!.curves.count, 16);
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
