import assert from 'node:assert/strict';
import { test } from 'node:test';
import { svgPathProperties } from 'svg-path-properties';
import { areaOf } from '../geometry/index.ts';
import { evaluateAll, generator } from '../testing/index.ts';
import { readPathData } from './svg-path.ts';
import { readSvg } from './svg.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const lengthOf = (points: number[]) => {
	let sum = 0;
	for (let i = 2; i < points.length; i += 2)
		sum += Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1]);
	return sum;
};

test('lengths of paths are those of an independent library, over every command', () => {
	for (const data of [
		'M0 0 L10 5 h3 v-2 H1 V9',
		'M10 80 C 40 10, 65 10, 95 80 S 150 150, 180 80',
		'm10 80q52.5-70 95 0t95 0',
		'M80 80 A 45 45, 0, 0, 0, 125 125',
		'M10 315 L 110 215 A 36 60 0 0 1 150.71 170.29 L 172.55 152.45 A 30 50 -45 0 1 215.1 109.9',
		'M0 0a5 3 30 1 0 7 2a4 4 0 1 1 15 5'
	]) {
		const { outlines, complete } = readPathData(data, 400);
		assert.equal(complete, true, data);
		const own = outlines.reduce((sum, { points }) => sum + lengthOf(points), 0);
		const theirs = new svgPathProperties(data).getTotalLength();
		assert.ok(Math.abs(own - theirs) < 1e-4 * theirs, `${data}: ${own} against ${theirs}`);
	}
	// Flags and numbers that stand close together, which the library does not read.
	assert.deepEqual(
		readPathData('M0 0a4,4,0,1115,5L.5.5-1e1-2.5', 3),
		readPathData('M0 0a4 4 0 1 1 15 5 L 0.5 0.5 L -10 -2.5', 3)
	);
	const broken = readPathData('M0 0 L5 0 L oops', 4);
	assert.deepEqual([broken.complete, broken.outlines[0].points], [false, [0, 0, 5, 0]]);
	assert.equal(readPathData('nonsense', 4).outlines.length, 0);
});

test('drawings: viewBox and units, shapes, nested transforms; scripts, references and entities are left out and listed', () => {
	const read = readSvg(
		bytes(`<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>
		<svg xmlns="http://www.w3.org/2000/svg" width="20cm" height="10cm" viewBox="0 0 200 100">
		<script>alert(1)</script><image href="http://example.invalid/x.png"/><text>&b;</text><style>a{}</style>
		<g transform="translate(100 50)"><g transform="rotate(90) scale(2)"><rect x="-10" y="-5" width="20" height="10"/></g>
		<circle r="30"/></g><path d="M0 0H200" display="none"/></svg>`),
		'sign.svg',
		64
	);
	assert.ok(Math.abs(read.width - 0.2) < 1e-12 && Math.abs(read.height - 0.1) < 1e-12);
	assert.equal(read.outlines.length, 2);
	const xs = read.outlines[0].points.filter((_, i) => i % 2 === 0),
		ys = read.outlines[0].points.filter((_, i) => i % 2);
	assert.ok(
		Math.abs(Math.max(...xs) - 0.01) < 1e-9 && Math.abs(Math.max(...ys) - 0.02) < 1e-9,
		'turned and doubled'
	);
	assert.ok(Math.abs(lengthOf(read.outlines[1].points) - 2 * Math.PI * 0.03) < 1e-3);
	for (const what of ['entities', '<script>', '<image>', '<text>'])
		assert.ok(read.ignored.includes(what), `${what} in ${read.ignored.join()}`);
	assert.throws(() => readSvg(bytes('{"a": 1}'), 'x.svg', 4), /x\.svg is not an? (sound )?SVG/);
	assert.throws(() => readSvg(new Uint8Array(0), 'x.svg', 4), /empty/);
	const nested = (n: number) =>
		readSvg(bytes(`<svg>${'<g>'.repeat(n)}<path d="M0 0L1 1"/>${'</g>'.repeat(n)}</svg>`), 'x.svg', 4);
	assert.equal(nested(60).outlines.length, 1);
	assert.throws(() => nested(5000), /not a sound SVG/);
	assert.equal(readSvg(bytes('<svg/>'), 'x.svg', 4).outlines.length, 0);
	assert.equal(
		readSvg(bytes('<svg><circle r="NaN"/><rect width="-3" height="2"/><path d="M NaN 3"/></svg>'), 'x.svg', 4)
			.outlines.length,
		0
	);
});

test('the outline of “8” has two holes, and what the font lacks is said', () => {
	const run = evaluateAll(
		generator([
			['text-outline', 'eight', { text: '8', segments: 12 }],
			['fill-outline', 'filled', {}, { outline: 'eight.curve' }],
			['text-outline', 'odd', { text: 'a☃b' }]
		])
	);
	const curves = run.geometry('eight').curves!;
	assert.equal(curves.curves.count, 3);
	const p = curves.points.columns.get('position')!.data;
	const areas = [0, 1, 2].map((c) => {
		let sum = 0;
		const [first, end] = [curves.starts[c], curves.starts[c + 1]];
		for (let i = first; i < end; i++) {
			const j = i + 1 < end ? i + 1 : first;
			sum += (p[3 * i] * p[3 * j + 1] - p[3 * j] * p[3 * i + 1]) / 2;
		}
		return Math.abs(sum);
	});
	const [outer, ...holes] = areas.sort((a, b) => b - a);
	assert.ok(Math.abs(areaOf(run.geometry('filled')) - (outer - holes[0] - holes[1])) < 1e-4 * outer);
	assert.match(run.warnings('odd')[0], /no “☃”/);
});
