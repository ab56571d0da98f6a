/** A picture as a number for every place of its plane. */
import { pollAt } from '../geometry/index.ts';
import type { Field } from '../varying/index.ts';
import { defineField } from '../varying/index.ts';

/** A number for each pixel, rows from the top. */
export type Picture = {
	readonly width: number;
	readonly height: number;
	readonly data: Float32Array;
};

/**
 * Reads a picture at x, y of the place; it fills 0 … 1 each way, y up. Between the middles of pixels it is blended
 * straight.
 * @param repeats whether it goes on beyond its edges; otherwise 0 stands there.
 * @param key names the picture.
 */
export const pictureField = (picture: Picture, repeats: boolean, key: string): Field =>
	makeField(`${key} ${repeats}`, { ...picture, repeats });

const makeField = defineField(
	'picture',
	({ width, height, data, repeats }: Picture & { repeats: boolean }) => {
		const wrap = (i: number, size: number) => i - size * Math.floor(i / size);
		const clamp = (i: number, size: number) => (i < 0 ? 0 : i >= size ? size - 1 : i);
		const bring = repeats ? wrap : clamp;
		return (n, out, x, y) => {
			for (let i = 0; i < n; i++) {
				pollAt(i);
				if (!repeats && !(x[i] >= 0 && x[i] <= 1 && y[i] >= 0 && y[i] <= 1)) {
					out[i] = 0;
					continue;
				}
				const u = (repeats ? x[i] - Math.floor(x[i]) : x[i]) * width - 0.5,
					v = (1 - (repeats ? y[i] - Math.floor(y[i]) : y[i])) * height - 0.5;
				const column = Math.floor(u),
					row = Math.floor(v);
				const s = u - column,
					t = v - row;
				const left = bring(column, width),
					right = bring(column + 1, width);
				const upper = bring(row, height) * width,
					lower = bring(row + 1, height) * width;
				const above = data[upper + left] + (data[upper + right] - data[upper + left]) * s,
					below = data[lower + left] + (data[lower + right] - data[lower + left]) * s;
				// A place that is not a number has no pixel.
				out[i] = above === above && below === below ? above + (below - above) * t : 0;
			}
		};
	}
);
