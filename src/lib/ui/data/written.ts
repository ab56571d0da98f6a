/** How numbers are written in cells. */
import type { ColumnType } from '$core/geometry/index';

/** A number in a cell: whole ones as they are, others in six digits. */
export function written(x: number, type: ColumnType = 'float'): string {
	if (x !== x) return '–';
	if (type === 'bool') return x ? 'yes' : 'no';
	if (Number.isInteger(x) && Math.abs(x) < 1e9) return String(x);
	const text = Number(x.toPrecision(6));
	return Math.abs(text) < 1e-4 || Math.abs(text) >= 1e9 ? text.toExponential(3) : String(text);
}
