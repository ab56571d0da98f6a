/** An outline in a plane cut into triangles that keep all of its places, also those on straight sides. */
import earcut from 'earcut';

/**
 * @param flat two numbers a place, counter-clockwise.
 * @returns three places a triangle, counter-clockwise; two triangles fewer than there are places, and every side of the
 * outline is the side of exactly one.
 */
export function trianglesOfOutline(flat: ArrayLike<number>): number[] {
	const count = flat.length / 2;
	const cut = earcut(flat as number[]);
	// Ear clipping may turn all of them round: they follow the outline. Asked of all, as slivers have a sign by chance.
	let area = 0;
	for (let k = 0; k < cut.length; k += 3) area += areaOf(flat, cut[k], cut[k + 1], cut[k + 2]);
	if (area < 0) for (let k = 0; k < cut.length; k += 3) [cut[k + 1], cut[k + 2]] = [cut[k + 2], cut[k + 1]];
	const wanted = 3 * (count - 2);
	if (cut.length < wanted) putBack(cut, flat);
	return cut.length === wanted ? cut : fanFrom(count);
}

/**
 * Puts back what ear clipping leaves out: places on straight sides, and slivers between them. What is missing are sides of
 * the outline, and the other sides of triangles; they make rings without area. The triangle across the longest side of such
 * a ring is cut into triangles to all the others.
 */
function putBack(cut: number[], flat: ArrayLike<number>): void {
	const count = flat.length / 2;
	const key = (a: number, b: number) => a * count + b;
	const corners = new Map<number, number>();
	cut.forEach((place, c) => corners.set(key(place, cut[c % 3 === 2 ? c - 2 : c + 1]), c));
	const missing = new Map<number, number[]>();
	const miss = (a: number, b: number) => {
		const list = missing.get(a);
		if (list) list.push(b);
		else missing.set(a, [b]);
	};
	const sides = new Set<number>();
	for (let i = 0; i < count; i++) {
		const next = (i + 1) % count;
		sides.add(key(i, next));
		if (!corners.has(key(i, next))) miss(i, next);
	}
	for (const edge of corners.keys()) {
		const [a, b] = [Math.floor(edge / count), edge % count];
		if (!sides.has(edge) && !corners.has(key(b, a))) miss(b, a);
	}
	const length = (a: number, b: number) =>
		Math.abs(flat[2 * a] - flat[2 * b]) + Math.abs(flat[2 * a + 1] - flat[2 * b + 1]);
	for (const first of [...missing.keys()]) {
		const ring = ringFrom(first, missing);
		// Of its sides the longest that a triangle lies across.
		let best = -1;
		ring.forEach((a, i) => {
			const b = ring[(i + 1) % ring.length];
			if (!corners.has(key(b, a))) return;
			if (best < 0 || length(a, b) > length(ring[best], ring[(best + 1) % ring.length])) best = i;
		});
		if (best < 0) continue;
		const [to, from] = [ring[best], ring[(best + 1) % ring.length]];
		const c = corners.get(key(from, to))!;
		const tip = cut[c % 3 === 0 ? c + 2 : c - 1];
		const t = c - (c % 3);
		const path = Array.from({ length: ring.length }, (_, i) => ring[(best + 1 + i) % ring.length]);
		path.slice(1).forEach((place, i) => {
			const at = i === 0 ? t : cut.length;
			[path[i], place, tip].forEach((corner, k) => (cut[at + k] = corner));
			for (let k = 0; k < 3; k++) corners.set(key(cut[at + k], cut[at + ((k + 1) % 3)]), at + k);
		});
	}
}

/** Follows what is missing from a place until it comes back there, and takes it out. */
function ringFrom(first: number, missing: Map<number, number[]>): number[] {
	const ring: number[] = [];
	for (let at = first; ;) {
		const next = missing.get(at)?.pop();
		if (next === undefined) return ring;
		ring.push(at);
		at = next;
		if (at === first) return ring;
	}
}

/** What no ears can be cut of, because it crosses itself: triangles from its first place. */
const fanFrom = (count: number): number[] =>
	Array.from({ length: Math.max(0, count - 2) }, (_, i) => [0, i + 1, i + 2]).flat();

const areaOf = (p: ArrayLike<number>, a: number, b: number, c: number): number =>
	(p[2 * b] - p[2 * a]) * (p[2 * c + 1] - p[2 * a + 1]) -
	(p[2 * c] - p[2 * a]) * (p[2 * b + 1] - p[2 * a + 1]);
