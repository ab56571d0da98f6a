import assert from 'node:assert/strict';
import { test } from 'node:test';
import fc from 'fast-check';
import '../testing/index.ts';
import { trianglesOfOutline } from './outline-triangles.ts';

type Place = readonly [number, number];
const cross = (a: Place, b: Place, c: Place) => (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
const areaOf = (outline: readonly Place[]) =>
	outline.reduce((sum, [x, y], i) => {
		const [u, v] = outline[(i + 1) % outline.length];
		return sum + x * v - u * y;
	}, 0) / 2;

/** Outlines with dents, each side with places on it: seen from the middle, at growing angles. */
const outlines = fc
	.record({
		radii: fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 3, maxLength: 14 }),
		between: fc.array(fc.nat(3), { minLength: 14, maxLength: 14 }),
		size: fc.constantFrom(1e-3, 1, 1e4)
	})
	.map(({ radii, between, size }): Place[] => {
		const corners = radii.map((r, i): Place => {
			const angle = (2 * Math.PI * i) / radii.length;
			// Whole multiples of a power of two, so that places on sides lie on them exactly.
			const at = (x: number) => (Math.round(x * 64) / 64) * 12;
			return [at(r * Math.cos(angle)), at(r * Math.sin(angle))];
		});
		return corners.flatMap(([x, y], i) => {
			const [u, v] = corners[(i + 1) % corners.length];
			const n = between[i] + 1;
			return Array.from({ length: n }, (_, k): Place => [
				(x + ((u - x) * k) / n) * size,
				(y + ((v - y) * k) / n) * size
			]);
		});
	})
	.filter((outline) => areaOf(outline) > 0);

test('triangles tile their outline, keep every place, and meet its sides once each', () => {
	fc.assert(
		fc.property(outlines, (outline) => {
			const cut = trianglesOfOutline(outline.flat());
			const n = outline.length;
			assert.equal(cut.length, 3 * (n - 2));
			let area = 0;
			const sides = new Map<string, number>();
			for (let k = 0; k < cut.length; k += 3) {
				const [a, b, c] = [cut[k], cut[k + 1], cut[k + 2]];
				const own = cross(outline[a], outline[b], outline[c]) / 2;
				assert.ok(own >= -1e-9 * areaOf(outline), 'none is turned round');
				area += own;
				for (const [x, y] of [
					[a, b],
					[b, c],
					[c, a]
				])
					sides.set(`${x} ${y}`, (sides.get(`${x} ${y}`) ?? 0) + 1);
			}
			assert.ok(Math.abs(area / areaOf(outline) - 1) < 1e-9, `${area} of ${areaOf(outline)}`);
			for (let i = 0; i < n; i++) assert.equal(sides.get(`${i} ${(i + 1) % n}`), 1, `side ${i}`);
			// Inside, each side has one on its other side.
			for (const [side, times] of sides) {
				assert.equal(times, 1);
				const [x, y] = side.split(' ').map(Number);
				if (y !== (x + 1) % n) assert.equal(sides.get(`${y} ${x}`), 1);
			}
		}),
		{ numRuns: 600 }
	);
});
