/** Points that keep a least distance from one another. */
import { filled, scratch, firstOf, pollAt } from '../geometry/index.ts';

/**
 * Of points in order, those that keep a least distance from all kept before them: the first of a pair stays.
 * A grid of cells as wide as the distance, chained through flat arrays (cells are hashed, never listed).
 * @returns the rows that are kept.
 */
export function keepApart(positions: Float32Array, distance: number): Uint32Array {
	const n = positions.length / 3;
	const size = Math.max(16, 1 << (32 - Math.clz32(n)));
	const heads = filled('int', size, -1);
	const next = scratch('int', n);
	const kept = scratch('index', n);
	const square = distance * distance;
	const scale = 1 / distance;
	let count = 0;
	for (let i = 0; i < n; i++) {
		pollAt(i);
		const x = positions[3 * i],
			y = positions[3 * i + 1],
			z = positions[3 * i + 2];
		const cx = Math.floor(x * scale),
			cy = Math.floor(y * scale),
			cz = Math.floor(z * scale);
		let free = true;
		for (let dx = -1; dx <= 1 && free; dx++)
			for (let dy = -1; dy <= 1 && free; dy++)
				for (let dz = -1; dz <= 1 && free; dz++) {
					let j = heads[cellOf(cx + dx, cy + dy, cz + dz) & (size - 1)];
					while (j >= 0) {
						const ex = positions[3 * j] - x,
							ey = positions[3 * j + 1] - y,
							ez = positions[3 * j + 2] - z;
						if (ex * ex + ey * ey + ez * ez < square) {
							free = false;
							break;
						}
						j = next[j];
					}
				}
		if (!free) continue;
		const cell = cellOf(cx, cy, cz) & (size - 1);
		next[i] = heads[cell];
		heads[cell] = i;
		kept[count++] = i;
	}
	return firstOf(kept, count);
}

const cellOf = (x: number, y: number, z: number): number => {
	const h = Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35);
	return h ^ (h >>> 15);
};
