/** Every so-manieth of so many, from the first. */
export const everyNth = (count: number, step: number): number[] =>
	Array.from({ length: Math.ceil(count / step) }, (_, i) => i * step);

/** The ways along the axes and across the corners of a cube. */
const WAYS = [-1, 0, 1]
	.flatMap((x) => [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((z) => [x, y, z] as const)))
	.filter((way) => [1, 3].includes(way.filter(Boolean).length));

/**
 * The rows whose places lie outermost, each in one of fourteen ways.
 * @param rows numbers, `width` a row, of which three from `offset` on are a place.
 */
export function outermost(rows: Float32Array, width: number, offset: number): number[] {
	const best = WAYS.map(() => ({ row: -1, far: -Infinity }));
	for (let row = 0, at = offset; at + 2 < rows.length; row++, at += width)
		for (let k = 0; k < WAYS.length; k++) {
			const [x, y, z] = WAYS[k];
			const far = x * rows[at] + y * rows[at + 1] + z * rows[at + 2];
			if (far > best[k].far) best[k] = { row, far };
		}
	return [...new Set(best.map(({ row }) => row))].filter((row) => row >= 0);
}
