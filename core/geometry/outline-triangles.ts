/** An outline in a plane cut into triangles that keep all of its places, also those on straight sides. */
import earcut from 'earcut';
import { pollAt } from './allocate.ts';

/**
 * @param flat two numbers a place, counter-clockwise.
 * @returns three places a triangle, counter-clockwise; two triangles fewer than there are places, and every side of the
 * outline is the side of exactly one.
 */
export function trianglesOfOutline(flat: readonly number[]): number[] {
	const count = flat.length / 2;
	const cut = earcut(flat as number[]);
	const isUsed = new Uint8Array(count);
	for (const place of cut) isUsed[place] = 1;
	const out: number[] = [];
	const stack: number[] = [];
	for (let k = 0; k < cut.length; k += 3) {
		pollAt(k);
		// Ear clipping may turn triangles round; they follow the outline.
		const [a, b, c] = [cut[k], cut[k + 1], cut[k + 2]];
		if (areaOf(flat, a, b, c) < 0) stack.push(a, c, b);
		else stack.push(a, b, c);
		while (stack.length) {
			const [x, y, z] = stack.splice(-3);
			const fan =
				fanOver(isUsed, x, y, z, stack) || fanOver(isUsed, y, z, x, stack) || fanOver(isUsed, z, x, y, stack);
			if (!fan) out.push(x, y, z);
		}
	}
	return out.length === 3 * (count - 2) ? out : fanFrom(count);
}

/**
 * Ear clipping leaves out what lies on straight sides. Where a triangle's side passes such places, triangles to each of them
 * stand in its place.
 */
function fanOver(isUsed: Uint8Array, from: number, to: number, tip: number, stack: number[]): boolean {
	const count = isUsed.length;
	const first = (from + 1) % count;
	if (first === to || isUsed[first]) return false;
	let last = first;
	while (last !== to && !isUsed[last]) last = (last + 1) % count;
	if (last !== to) return false;
	for (let place = from; place !== to; place = (place + 1) % count) {
		const next = (place + 1) % count;
		isUsed[next] = 1;
		stack.push(place, next, tip);
	}
	return true;
}

/** What no ears can be cut of, because it crosses itself: triangles from its first place. */
const fanFrom = (count: number): number[] =>
	Array.from({ length: Math.max(0, count - 2) }, (_, i) => [0, i + 1, i + 2]).flat();

const areaOf = (p: readonly number[], a: number, b: number, c: number): number =>
	(p[2 * b] - p[2 * a]) * (p[2 * c + 1] - p[2 * a + 1]) -
	(p[2 * c] - p[2 * a]) * (p[2 * b + 1] - p[2 * a + 1]);
