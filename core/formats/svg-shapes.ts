/** The basic shapes of SVG as path data. */
import type { Along } from './svg-lengths.ts';

/** Reads a length of the shape at hand, in units of the drawing; `null` where it is not given. */
export type LengthOf = (name: string, along: Along) => number | null;

/** Path data of a shape; null for elements that are none. `text` gives an attribute as it stands. */
export function pathOf(name: string, text: (name: string) => string, length: LengthOf): string | null {
	const x = (key: string) => length(key, 'x') ?? 0,
		y = (key: string) => length(key, 'y') ?? 0;
	switch (name) {
		case 'path':
			return text('d');
		case 'line':
			return `M${x('x1')} ${y('y1')}L${x('x2')} ${y('y2')}`;
		case 'polyline':
		case 'polygon':
			return `M${text('points')}${name === 'polygon' ? 'Z' : ''}`;
		case 'circle': {
			const r = length('r', 'other') ?? 0;
			return ellipse(x('cx'), y('cy'), r, r);
		}
		case 'ellipse': {
			const rx = length('rx', 'x'),
				ry = length('ry', 'y');
			return ellipse(x('cx'), y('cy'), rx ?? ry ?? 0, ry ?? rx ?? 0);
		}
		case 'rect': {
			const rx = length('rx', 'x'),
				ry = length('ry', 'y');
			return rectangle(x('x'), y('y'), x('width'), y('height'), rx ?? ry ?? 0, ry ?? rx ?? 0);
		}
		default:
			return null;
	}
}

function ellipse(x: number, y: number, rx: number, ry: number): string {
	if (!(rx > 0 && ry > 0)) return '';
	const a = `A${rx} ${ry} 0 0 1 `;
	return `M${x + rx} ${y}${a}${x} ${y + ry}${a}${x - rx} ${y}${a}${x} ${y - ry}${a}${x + rx} ${y}Z`;
}

function rectangle(x: number, y: number, w: number, h: number, roundX: number, roundY: number): string {
	if (!(w > 0 && h > 0)) return '';
	const rx = Math.min(roundX, w / 2),
		ry = Math.min(roundY, h / 2);
	if (!(rx > 0 && ry > 0)) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
	const a = `A${rx} ${ry} 0 0 1 `;
	return `M${x + rx} ${y}H${x + w - rx}${a}${x + w} ${y + ry}V${y + h - ry}${a}${x + w - rx} ${y + h}H${x + rx}${a}${x} ${y + h - ry}V${y + ry}${a}${x + rx} ${y}Z`;
}
