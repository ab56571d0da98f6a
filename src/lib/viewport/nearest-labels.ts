/** Which of many places get a label: those in the picture that lie nearest, and no more than can be read. */

/** A place in the picture, in pixels from its corner. */
export interface Labelled {
	index: number;
	x: number;
	y: number;
}

/**
 * @param places three numbers each. @param matrix takes them to the picture: 4 × 4 by columns, view and projection in one.
 * @returns at most `most`, the nearest first.
 */
export function nearestLabels(
	places: Float32Array,
	matrix: ArrayLike<number>,
	{ width, height, most }: { width: number; height: number; most: number }
): Labelled[] {
	const m = matrix;
	const found: { index: number; x: number; y: number; depth: number }[] = [];
	// What lies beyond the farthest of a full list is passed over; the list is cut now and then, not at each place.
	let limit = Infinity;
	const cut = () => {
		found.sort((a, b) => a.depth - b.depth || a.index - b.index);
		if (found.length > most) found.length = most;
		if (found.length === most) limit = found[most - 1].depth;
	};
	for (let i = 0, o = 0; o < places.length; i++, o += 3) {
		const x = places[o],
			y = places[o + 1],
			z = places[o + 2];
		const w = m[3] * x + m[7] * y + m[11] * z + m[15];
		if (!(w > 0)) continue;
		const depth = (m[2] * x + m[6] * y + m[10] * z + m[14]) / w;
		if (!(depth < limit) || depth < -1 || depth > 1) continue;
		const px = (m[0] * x + m[4] * y + m[8] * z + m[12]) / w,
			py = (m[1] * x + m[5] * y + m[9] * z + m[13]) / w;
		if (Math.abs(px) > 1 || Math.abs(py) > 1) continue;
		found.push({ index: i, x: ((px + 1) / 2) * width, y: ((1 - py) / 2) * height, depth });
		if (found.length >= 4 * most) cut();
	}
	cut();
	return found.map(({ index, x, y }) => ({ index, x, y }));
}
