/** Flat sections: area and length are the curve’s, whatever plane it lies in and however it is counted. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { evaluateAll, generator } from '../testing/index.ts';
import type { Curves } from '../geometry/index.ts';
import {
	areaOfSection,
	heightOf,
	lengthsOfSection,
	planeOf,
	resampledSection,
	sectionsOf,
	turnedRound
} from './section.ts';

const curvesOf = (
	kind: string,
	settings: Record<string, unknown>,
	rotate = [0, 0, 0],
	move = [0, 0, 0]
): Curves =>
	evaluateAll(
		generator([
			[kind, 'drawn', settings],
			['transform', 'laid', { rotation: rotate, move }, { geometry: 'drawn.curve' }]
		])
	).geometry('laid').curves!;
const near = (a: number, b: number, within: number) =>
	assert.ok(Math.abs(a - b) <= within, `${a} against ${b}`);

test('a rectangle has its area and its length round in any of the three planes, counter-clockwise', () => {
	for (const rotate of [
		[0, 0, 0],
		[90, 0, 0],
		[0, 0, 90],
		[180, 0, 0]
	]) {
		const curves = curvesOf('rectangle', { width: 3, height: 2 }, rotate);
		const [section] = sectionsOf(curves);
		assert.ok(section.closed);
		const area = areaOfSection(section.points);
		near(area, 6, 1e-4);
		near(lengthsOfSection(section).whole, 10, 1e-4);
		near(Math.abs(areaOfSection(sectionsOf(curves, { asDrawn: true })[0].points)), area, 1e-6);
	}
});

test('turned round, a section keeps its first point and its length, and its area changes sign', () => {
	const [section] = sectionsOf(curvesOf('star', { tips: 5 }));
	const back = turnedRound(section.points);
	assert.deepEqual([...back.subarray(0, 2)], [...section.points.subarray(0, 2)]);
	near(areaOfSection(back), -areaOfSection(section.points), 1e-9);
	near(lengthsOfSection({ points: back, closed: true }).whole, lengthsOfSection(section).whole, 1e-9);
	assert.deepEqual(turnedRound(back), section.points);
});

test('counted anew, points lie evenly on the section; enough of them keep its length and area', () => {
	const [circle] = sectionsOf(curvesOf('circle', { radius: 2 }));
	const fine = resampledSection(circle, 720);
	assert.equal(fine.points.length, 1440);
	near(areaOfSection(fine.points), areaOfSection(circle.points), 0.01);
	const { along, whole } = lengthsOfSection(fine);
	for (let i = 1; i < along.length; i++) near(along[i] - along[i - 1], whole / 720, whole / 720 / 20);
	const [line] = sectionsOf(curvesOf('line', { from: [0, 0, 0], to: [4, 0, 0] }));
	const parts = resampledSection({ ...line, closed: false }, 5);
	const starts = [0, 1, 2, 3, 4].map((i) => Math.abs(parts.points[2 * i] - parts.points[0]));
	for (const [i, x] of starts.entries()) near(x, i, 1e-6);
	assert.equal(
		resampledSection(circle, circle.points.length / 2).points,
		circle.points,
		'the same count is the same'
	);
});

test('the plane is the one across the thinnest side, and its height is where the curve lies', () => {
	assert.deepEqual(planeOf(curvesOf('circle', { radius: 1 })), [0, 1, 2, -1]);
	near(heightOf(curvesOf('circle', { radius: 1 }, [0, 0, 0], [0, 7, 0])), 7, 1e-6);
	near(heightOf(curvesOf('circle', { radius: 1 }, [90, 0, 0], [0, 0, -3])), -3, 1e-5);
	near(heightOf(curvesOf('circle', { radius: 1 }, [0, 0, 90], [5, 0, 0])), 5, 1e-5);
});
