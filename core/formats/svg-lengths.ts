/** Lengths of SVG and CSS: with units, or as shares of the drawing's window, in units of the drawing. */
import { PI } from '../math/index.ts';

/** Units of the drawing (a 96th of an inch) in one of a CSS unit. */
const PER: Readonly<Record<string, number>> = {
	'': 1,
	px: 1,
	in: 96,
	cm: 96 / 2.54,
	mm: 96 / 25.4,
	q: 96 / 101.6,
	pt: 96 / 72,
	pc: 16
};
/** Degrees in one of a CSS unit of angle. */
const DEGREES: Readonly<Record<string, number>> = { '': 1, deg: 1, grad: 0.9, rad: 180 / PI, turn: 360 };

/** Metres of a unit of the drawing. */
export const METRES = 0.0254 / 96;

/** What shares are shares of: the window's width and height in units of the drawing, where they are known. */
export interface Window {
	width: number | null;
	height: number | null;
}
/** Whether a share is one of the width, of the height, or of what lies between (the standard's “other” lengths). */
export type Along = 'x' | 'y' | 'other';

/** No length is written with more characters. */
const LONGEST = 64;
const NUMBER_WITH_UNIT = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)([a-z]*|%)$/i;

/** A number and its unit in small letters; null where the text is none. */
function split(text: string): { value: number; unit: string } | null {
	if (text.length > LONGEST) return null;
	const found = NUMBER_WITH_UNIT.exec(text.trim());
	return found && { value: Number(found[1]), unit: found[2].toLowerCase() };
}

/** A length in units of the drawing; null where it is none, or where its unit or what it is a share of is not known. */
export function readLength(text: string, along: Along, { width, height }: Window): number | null {
	const found = split(text);
	if (!found) return null;
	const { value, unit } = found;
	if (unit !== '%') {
		const per = Object.hasOwn(PER, unit) ? PER[unit] : null;
		return per === null || !Number.isFinite(value) ? null : value * per;
	}
	const whole =
		along === 'x'
			? width
			: along === 'y'
				? height
				: width === null || height === null
					? null
					: Math.sqrt((width * width + height * height) / 2);
	return whole === null ? null : (value / 100) * whole;
}

/** An angle in degrees; null where the text is none. */
export function readAngle(text: string): number | null {
	const found = split(text);
	if (!found || !Object.hasOwn(DEGREES, found.unit)) return null;
	return Number.isFinite(found.value) ? found.value * DEGREES[found.unit] : null;
}

/** A bare number, or a share as a part of 1; null where the text is neither. */
export function readFactor(text: string): number | null {
	const found = split(text);
	if (!found || (found.unit !== '' && found.unit !== '%') || !Number.isFinite(found.value)) return null;
	return found.unit === '%' ? found.value / 100 : found.value;
}
