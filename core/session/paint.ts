/** Colours that elements have of their own, as the View draws them: three bytes each, for the screen. */
import type { Column, Geometry, Kind, Part } from '../geometry/index.ts';
import { allocate, convertColumn, findAttribute, pollAt } from '../geometry/index.ts';
import { pow } from '../math/index.ts';

/** The colours of a part's points or copies, linear; null where they have none. */
export function colourColumn(geometry: Geometry, part: Part, kind: Kind): Column | null {
	const found = findAttribute(geometry, part, kind, 'colour');
	if (!found || found.kind === 'whole' || found.column.role !== 'colour' || found.column.type !== 'vec3')
		return null;
	return convertColumn(geometry, part, found.column, found.kind, kind);
}

/** Bytes for rows of a column, or for all of it. */
export function paintOf({ data }: Column, rows: ArrayLike<number> | null, count: number): Uint8Array {
	const out = allocate('byte', 3 * count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const o = 3 * (rows ? rows[i] : i);
		for (let k = 0; k < 3; k++) out[3 * i + k] = forScreen(data[o + k]);
	}
	return out;
}

/** A linear share of light as a byte of sRGB (IEC 61966-2-1). */
function forScreen(x: number): number {
	const within = x > 0 ? (x < 1 ? x : 1) : 0;
	return Math.floor(
		255 * (within <= 0.0031308 ? 12.92 * within : 1.055 * pow(within, 1 / 2.4) - 0.055) + 0.5
	);
}
