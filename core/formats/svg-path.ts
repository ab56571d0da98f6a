/** Path data of SVG as polylines: all commands, absolute and relative. */
import { pollAt } from '../geometry/index.ts';
import { PI, TAU, atan2, cos, sin } from '../math/index.ts';

export interface Outline {
	/** Two numbers a point, y down as in the file. */
	points: number[];
	closed: boolean;
}

const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/y;
const COUNTS: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 };

/** Most points that path data may give, whatever it says. */
const MOST_POINTS = 2_000_000;

/**
 * Reads path data. As the standard asks, what stands before the first mistake is kept.
 * @param steps pieces for each curved command.
 */
export function readPathData(data: string, steps: number): { outlines: Outline[]; complete: boolean } {
	const outlines: Outline[] = [];
	let current: Outline | null = null;
	let [x, y, startX, startY] = [0, 0, 0, 0];
	// The last control point, for the smooth commands; only after a curve of the same kind.
	let [handleX, handleY, after] = [0, 0, ''];
	let at = 0,
		count = 0;
	const skip = (): void => {
		while (at < data.length && /[\s,]/.test(data[at])) at++;
	};
	const number = (flag: boolean): number | null => {
		skip();
		if (flag) {
			const digit = data[at];
			if (digit !== '0' && digit !== '1') return null;
			at++;
			return Number(digit);
		}
		NUMBER.lastIndex = at;
		const found = NUMBER.exec(data);
		if (!found) return null;
		at = NUMBER.lastIndex;
		return Number(found[0]);
	};
	const add = (px: number, py: number): void => {
		if (++count > MOST_POINTS) return;
		if (!current) outlines.push((current = { points: [x, y], closed: false }));
		current.points.push(px, py);
	};
	const curve = (place: (t: number) => [number, number]): void => {
		for (let s = 1; s <= steps; s++) {
			pollAt(s);
			add(...place(s / steps));
		}
	};
	let command = '';
	for (skip(); at < data.length; skip()) {
		const letter = data[at];
		if (/[a-zA-Z]/.test(letter)) {
			command = letter;
			at++;
		} else if (!command || command.toUpperCase() === 'Z') return { outlines, complete: false };
		const kind = command.toUpperCase();
		const wanted = COUNTS[kind];
		if (wanted === undefined || (!outlines.length && !current && kind !== 'M' && after === ''))
			return { outlines, complete: false };
		const n: number[] = [];
		for (let k = 0; k < wanted; k++) {
			pollAt(k);
			const value = number(kind === 'A' && (k === 3 || k === 4));
			if (value === null) return { outlines, complete: false };
			n.push(value);
		}
		const [ox, oy] = command === kind ? [0, 0] : [x, y];
		const [fromX, fromY] = [x, y];
		switch (kind) {
			case 'M':
				current = null;
				[x, y] = [startX, startY] = [n[0] + ox, n[1] + oy];
				// Further pairs are lines.
				command = command === 'M' ? 'L' : 'l';
				break;
			case 'Z':
				if (current) (current as Outline).closed = true;
				current = null;
				[x, y] = [startX, startY];
				break;
			case 'L':
				add(n[0] + ox, n[1] + oy);
				[x, y] = [n[0] + ox, n[1] + oy];
				break;
			case 'H':
				add(n[0] + ox, y);
				x = n[0] + ox;
				break;
			case 'V':
				add(x, n[0] + oy);
				y = n[0] + oy;
				break;
			case 'C':
			case 'S': {
				const smooth = kind === 'S';
				const [ax, ay] = smooth
					? after === 'C'
						? [2 * x - handleX, 2 * y - handleY]
						: [x, y]
					: [n[0] + ox, n[1] + oy];
				const [bx, by, ex, ey] = smooth
					? [n[0] + ox, n[1] + oy, n[2] + ox, n[3] + oy]
					: [n[2] + ox, n[3] + oy, n[4] + ox, n[5] + oy];
				curve((t) => {
					const u = 1 - t;
					const [p, q, r, s] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
					return [p * fromX + q * ax + r * bx + s * ex, p * fromY + q * ay + r * by + s * ey];
				});
				[handleX, handleY, x, y] = [bx, by, ex, ey];
				break;
			}
			case 'Q':
			case 'T': {
				const [ax, ay] =
					kind === 'T'
						? after === 'Q'
							? [2 * x - handleX, 2 * y - handleY]
							: [x, y]
						: [n[0] + ox, n[1] + oy];
				const [ex, ey] = kind === 'T' ? [n[0] + ox, n[1] + oy] : [n[2] + ox, n[3] + oy];
				curve((t) => {
					const u = 1 - t;
					return [u * u * fromX + 2 * u * t * ax + t * t * ex, u * u * fromY + 2 * u * t * ay + t * t * ey];
				});
				[handleX, handleY, x, y] = [ax, ay, ex, ey];
				break;
			}
			case 'A': {
				const end: [number, number] = [n[5] + ox, n[6] + oy];
				const place = arcBetween([x, y], end, n[0], n[1], n[2], n[3] === 1, n[4] === 1);
				if (place) curve((t) => (t === 1 ? end : place(t)));
				else add(...end);
				[x, y] = end;
			}
		}
		after = kind === 'S' ? 'C' : kind === 'T' ? 'Q' : kind;
		if (count > MOST_POINTS) return { outlines, complete: false };
	}
	return { outlines: outlines.map(withoutDoubleEnd), complete: true };
}

/** A closed outline that comes back to its first point does not repeat it. */
export function withoutDoubleEnd({ points, closed }: Outline): Outline {
	const n = points.length;
	const same =
		n > 4 && Math.abs(points[0] - points[n - 2]) < 1e-9 && Math.abs(points[1] - points[n - 1]) < 1e-9;
	return { points: closed && same ? points.slice(0, n - 2) : points, closed };
}

/** An elliptic arc by its ends, as the SVG standard’s notes on arcs do; null where it is a line. */
function arcBetween(
	from: readonly [number, number],
	to: readonly [number, number],
	radiusX: number,
	radiusY: number,
	turn: number,
	large: boolean,
	sweep: boolean
): ((t: number) => [number, number]) | null {
	let rx = Math.abs(radiusX),
		ry = Math.abs(radiusY);
	if (!(rx > 0 && ry > 0) || (from[0] === to[0] && from[1] === to[1])) return null;
	const phi = (turn * PI) / 180;
	const c = cos(phi),
		s = sin(phi);
	const dx = (from[0] - to[0]) / 2,
		dy = (from[1] - to[1]) / 2;
	const px = c * dx + s * dy,
		py = -s * dx + c * dy;
	const wide = (px * px) / (rx * rx) + (py * py) / (ry * ry);
	if (wide > 1) {
		rx *= Math.sqrt(wide);
		ry *= Math.sqrt(wide);
	}
	const below = rx * rx * py * py + ry * ry * px * px;
	const root = Math.sqrt(Math.max(0, (rx * rx * ry * ry - below) / below)) * (large === sweep ? -1 : 1);
	const qx = (root * rx * py) / ry,
		qy = (-root * ry * px) / rx;
	const cx = c * qx - s * qy + (from[0] + to[0]) / 2,
		cy = s * qx + c * qy + (from[1] + to[1]) / 2;
	const start = atan2((py - qy) / ry, (px - qx) / rx);
	let span = atan2((-py - qy) / ry, (-px - qx) / rx) - start;
	if (sweep && span < 0) span += TAU;
	if (!sweep && span > 0) span -= TAU;
	return (t) => {
		const angle = start + span * t;
		const ex = rx * cos(angle),
			ey = ry * sin(angle);
		return [cx + c * ex - s * ey, cy + s * ex + c * ey];
	};
}
