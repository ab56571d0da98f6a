/** Outlines cut into triangles: their areas add up to what lies inside, and every point of every outline is used. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { cos, sin, TAU } from '../math/index.ts';
import { loopsOf, triangulate } from './triangulate.ts';
import { regionsOf, trianglesOfRegion } from './fill.ts';

const areaOf = (places: ArrayLike<number>, triangles: ArrayLike<number>): number => {
	let sum = 0;
	for (let t = 0; t < triangles.length; t += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => 2 * triangles[t + k]);
		sum += Math.abs(
			(places[b] - places[a]) * (places[c + 1] - places[a + 1]) -
				(places[c] - places[a]) * (places[b + 1] - places[a + 1])
		);
	}
	return sum / 2;
};
const shoelace = (loop: ArrayLike<number>): number => {
	let sum = 0;
	for (let i = 0; i < loop.length; i += 2) {
		const j = (i + 2) % loop.length;
		sum += loop[i] * loop[j + 1] - loop[j] * loop[i + 1];
	}
	return Math.abs(sum) / 2;
};

/** A star-shaped loop with points on its straight sides. */
const loop = (radii: readonly number[], onSides: number, scale: number, x = 0, y = 0): Float64Array => {
	const corners = radii.map((r, i) => [
		x + scale * r * cos((i * TAU) / radii.length),
		y + scale * r * sin((i * TAU) / radii.length)
	]);
	return Float64Array.from(
		corners.flatMap(([ax, ay], i) => {
			const [bx, by] = corners[(i + 1) % corners.length];
			return Array.from({ length: onSides + 1 }, (_, k) => [
				ax + ((bx - ax) * k) / (onSides + 1),
				ay + ((by - ay) * k) / (onSides + 1)
			]).flat();
		})
	);
};
const radii = fc.array(
	fc.integer({ min: 10, max: 100 }).map((r) => r / 100),
	{ minLength: 3, maxLength: 24 }
);
const scale = fc.constantFrom(1e-3, 0.37, 1, 1e4);

test('from a millimetre to 10 km: triangles tile what is inside, every point a corner and every side that of one', () => {
	const inner = fc.record({ radii, onSides: fc.nat(4) });
	fc.assert(
		fc.property(inner, fc.array(inner, { maxLength: 4 }), scale, (outer, inners, size) => {
			const outline = loop(
				outer.radii.map((r) => 0.5 + r),
				outer.onSides,
				size
			);
			const holes = inners.map(({ radii: own, onSides }, i) =>
				loop(
					own.map((r) => 0.06 * r),
					onSides,
					size,
					0.15 * size * cos((i * TAU) / 4),
					0.15 * size * sin((i * TAU) / 4)
				)
			);
			const loops = loopsOf([outline, ...holes]);
			const cut = triangulate(loops)!;
			assert.ok(cut, 'no sides cross');
			const wanted = shoelace(outline) - holes.reduce((sum, hole) => sum + shoelace(hole), 0);
			assert.ok(Math.abs(areaOf(loops.places, cut) - wanted) <= 1e-9 * shoelace(outline));
			// As many triangles as points, holes and the border allow: two fewer than points, two more for each hole.
			assert.equal(cut.length / 3, loops.places.length / 2 - 2 + 2 * holes.length);
			const uses = new Map<string, number>();
			for (let k = 0; k < cut.length; k++) {
				const ends = [cut[k], cut[k % 3 === 2 ? k - 2 : k + 1]].sort((a, b) => a - b).join(' ');
				uses.set(ends, (uses.get(ends) ?? 0) + 1);
			}
			const once = [...uses.values()].filter((times) => times === 1).length;
			assert.equal(once, loops.places.length / 2, 'sides of one triangle are those of the loops');
		}),
		{ numRuns: 1000 }
	);
});

test('a square with ten points on each side is tiled with all of them', () => {
	const square = loop([1, 1, 1, 1], 9, 1);
	const cut = trianglesOfRegion({ outline: square, holes: [] });
	assert.equal(new Set(Array.from(cut)).size, 40);
	assert.ok(Math.abs(areaOf(square, cut) - 2) < 1e-12);
});

test('loops that lie in loops are outlines and holes in turn, however they are ordered', () => {
	fc.assert(
		fc.property(fc.shuffledSubarray([0, 1, 2, 3, 4, 5], { minLength: 6, maxLength: 6 }), (order) => {
			const all = [1, 0.8, 0.6].flatMap((size, i) => [
				{ closed: true, points: loop([1, 1, 1, 1, 1], 1, size) },
				{ closed: true, points: loop([1, 1, 1], 0, 0.05, 5 + i) }
			]);
			const regions = regionsOf(order.map((i) => all[i]));
			const wanted = shoelace(all[0].points) - shoelace(all[2].points) + shoelace(all[4].points);
			const area = regions.reduce((sum, region) => {
				const places = loopsOf([region.outline, ...region.holes]).places;
				return sum + areaOf(places, trianglesOfRegion(region));
			}, 0);
			const beside = 3 * shoelace(all[1].points);
			assert.equal(regions.length, 5);
			assert.ok(Math.abs(area - wanted - beside) < 1e-9);
		})
	);
});

test('10,000 loops beside one another, and one of 200,000 points, are no trouble', () => {
	const many = Array.from({ length: 10_000 }, (_, i) => ({
		closed: true,
		points: loop([1, 1, 1], 0, 0.4, i % 100, Math.floor(i / 100))
	}));
	assert.equal(regionsOf(many).length, 10_000);
	const large = loop(
		Array.from({ length: 200_000 }, (_, i) => 1 + 0.1 * sin(i / 50)),
		0,
		10
	);
	const cut = trianglesOfRegion({ outline: large, holes: [] });
	assert.equal(cut.length / 3, 200_000 - 2);
	assert.ok(Math.abs(areaOf(large, cut) - shoelace(large)) < 1e-6 * shoelace(large));
});
