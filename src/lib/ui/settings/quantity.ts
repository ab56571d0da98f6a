/** Numbers as they are shown and typed. */
import { constantNumber, parseQuantity } from '$core/varying/index';

/** A number with as many digits as help: 1.25, 0.005, 12. */
export function showNumber(x: number): string {
	if (!Number.isFinite(x)) return '0';
	const size = Math.abs(x);
	const digits = size >= 1000 ? 1 : size >= 1 || size === 0 ? 3 : size >= 0.01 ? 4 : 6;
	return String(Number(x.toFixed(digits))).replace('-', '−');
}

/** A number with all its digits, as it is typed. */
export const writeNumber = (x: number): string => String(x).replaceAll('-', '−');

/** Reads what was typed: a number, a sum, or a quantity with its unit. Throws an error with a sentence. */
export const readQuantity = (text: string): number =>
	constantNumber(parseQuantity(text.replaceAll('−', '-').replace(/[×]|per m²|m²/g, '')));

/** The step of dragging where a setting names none. */
export function stepFor(value: number, whole: boolean, step?: number): number {
	if (step) return step;
	if (whole) return 1;
	const size = Math.abs(value);
	return size >= 20 ? 0.5 : size >= 2 ? 0.05 : size >= 0.2 ? 0.01 : 0.001;
}
