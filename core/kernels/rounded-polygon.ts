/** Corners of a closed flat outline rounded. */
import { PI, acos, atan2, cos, sin, tan } from '../math/index.ts';

/**
 * @param polygon two numbers a corner. @param radius metres; where a side is too short for both of its corners each gets half of it.
 * @param segments pieces of a whole circle; a corner gets its share, at least one.
 */
export function roundedPolygon(polygon: Float64Array, radius: number, segments: number): Float64Array {
	if (!(radius > 0) || polygon.length < 6) return polygon;
	const n = polygon.length;
	const out: number[] = [];
	for (let i = 0; i < n; i += 2) {
		const [x, y] = [polygon[i], polygon[i + 1]];
		const before = sideFrom(x, y, polygon[(i + n - 2) % n], polygon[(i + n - 1) % n]),
			after = sideFrom(x, y, polygon[(i + 2) % n], polygon[(i + 3) % n]);
		const turn = PI - acos(Math.max(-1, Math.min(1, before.x * after.x + before.y * after.y)));
		if (!(turn > 1e-6) || !(before.length > 0) || !(after.length > 0)) {
			out.push(x, y);
			continue;
		}
		const slope = tan(turn / 2);
		const along = Math.min(radius * slope, before.length / 2, after.length / 2);
		const own = along / slope;
		const startX = x + before.x * along,
			startY = y + before.y * along;
		// The middle lies across the incoming side, where the outline turns to.
		const left = before.x * after.y - before.y * after.x < 0 ? 1 : -1;
		const middleX = startX + left * before.y * own,
			middleY = startY - left * before.x * own;
		const start = atan2(startY - middleY, startX - middleX);
		const pieces = Math.max(1, Math.ceil((turn / (2 * PI)) * segments - 1e-9));
		for (let k = 0; k <= pieces; k++) {
			const angle = start + (left * turn * k) / pieces;
			out.push(middleX + own * cos(angle), middleY + own * sin(angle));
		}
	}
	return Float64Array.from(out);
}

function sideFrom(x: number, y: number, toX: number, toY: number): { x: number; y: number; length: number } {
	const dx = toX - x,
		dy = toY - y;
	const length = Math.sqrt(dx * dx + dy * dy);
	return length > 0 ? { x: dx / length, y: dy / length, length } : { x: 0, y: 0, length };
}
