/** Flat outlines as faces, holes respected, and the same with thickness. */
import { pollAt, scratch, trianglesOfOutline } from '../geometry/index.ts';
import earcut from 'earcut';
import type { Section } from './section.ts';
import { areaOfSection, turnedRound } from './section.ts';
import { loopsOf, triangulate } from './triangulate.ts';

/** An outline with the holes that lie directly in it. Outlines are counter-clockwise, holes clockwise. */
export interface Region {
	outline: Float64Array;
	holes: Float64Array[];
}

/** Sorts closed sections into outlines and holes by how many others each lies in: even is filled, odd is a hole. */
export function regionsOf(sections: readonly Section[]): Region[] {
	const loops = sections
		.filter(({ closed }) => closed)
		.map(({ points }) => withoutRepeats(points))
		.filter((points) => points.length >= 6 && areaOfSection(points) !== 0);
	const around = loopsAround(loops);
	const regions = new Map<number, Region>();
	loops.forEach((loop, i) => {
		if (around[i].length % 2 === 0)
			regions.set(i, { outline: areaOfSection(loop) < 0 ? turnedRound(loop) : loop, holes: [] });
	});
	loops.forEach((loop, i) => {
		if (around[i].length % 2 === 0) return;
		// Of the outlines around a hole the innermost owns it.
		const owner = around[i]
			.filter((j) => regions.has(j))
			.reduce((best, j) => (best < 0 || around[j].length > around[best].length ? j : best), -1);
		if (owner >= 0) regions.get(owner)!.holes.push(areaOfSection(loop) > 0 ? turnedRound(loop) : loop);
	});
	return [...regions.values()];
}

/** An outline in which no place follows itself: sides without length would be walls without size. */
function withoutRepeats(points: Float64Array): Float64Array {
	const isRepeated = (i: number) => {
		const before = (i + points.length - 2) % points.length;
		return points[i] === points[before] && points[i + 1] === points[before + 1];
	};
	let repeats = 0;
	for (let i = 0; i < points.length; i += 2) {
		pollAt(i);
		if (isRepeated(i)) repeats++;
	}
	if (!repeats) return points;
	const out = scratch('double', points.length - 2 * repeats);
	for (let i = 0, o = 0; i < points.length; i += 2) {
		pollAt(i);
		if (isRepeated(i)) continue;
		out[o++] = points[i];
		out[o++] = points[i + 1];
	}
	return out;
}

interface Box {
	lowX: number;
	highX: number;
	lowY: number;
	highY: number;
}

function boxOf(loop: Float64Array): Box {
	const box = { lowX: Infinity, highX: -Infinity, lowY: Infinity, highY: -Infinity };
	for (let i = 0; i < loop.length; i += 2) {
		pollAt(i);
		box.lowX = Math.min(box.lowX, loop[i]);
		box.highX = Math.max(box.highX, loop[i]);
		box.lowY = Math.min(box.lowY, loop[i + 1]);
		box.highY = Math.max(box.highY, loop[i + 1]);
	}
	return box;
}

/**
 * For each loop the others in which it lies. Swept from left to right: only loops whose boxes hold its own are asked, so
 * that many small ones beside one another cost little.
 */
function loopsAround(loops: readonly Float64Array[]): number[][] {
	const boxes = loops.map(boxOf);
	const areas = loops.map((loop) => Math.abs(areaOfSection(loop)));
	const order = loops.map((_, i) => i).sort((a, b) => boxes[a].lowX - boxes[b].lowX || areas[b] - areas[a]);
	const around: number[][] = loops.map(() => []);
	let open: number[] = [];
	for (const [at, i] of order.entries()) {
		pollAt(at);
		open = open.filter((j) => boxes[j].highX >= boxes[i].lowX);
		for (const j of open)
			if (holds(boxes[j], boxes[i]) && areas[j] > areas[i] && contains(loops[j], loops[i])) around[i].push(j);
		open.push(i);
		around[i].sort((a, b) => a - b);
	}
	return around;
}

const holds = (outer: Box, inner: Box): boolean =>
	outer.lowX <= inner.lowX &&
	outer.highX >= inner.highX &&
	outer.lowY <= inner.lowY &&
	outer.highY >= inner.highY;

/** Whether a loop lies in another: by a place in the middle of its first edge, so that shared points do not confuse. */
function contains(outer: Float64Array, inner: Float64Array): boolean {
	const x = (inner[0] + inner[2]) / 2,
		y = (inner[1] + inner[3]) / 2;
	let inside = false;
	for (let i = 0, j = outer.length - 2; i < outer.length; j = i, i += 2) {
		pollAt(i);
		const ax = outer[i],
			ay = outer[i + 1],
			bx = outer[j],
			by = outer[j + 1];
		if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
	}
	return inside;
}

/**
 * A region as triangles over its points, outline first, then holes: three numbers each. Every point is a corner of one, also
 * those on straight sides; only where outlines cross are some left out.
 */
export function trianglesOfRegion({ outline, holes }: Region): ArrayLike<number> {
	const { places, starts } = loopsOf([outline, ...holes]);
	const cut = triangulate({ places, starts });
	if (cut) return cut;
	return holes.length ? earcut(places, [...starts.subarray(1, -1)], 2) : trianglesOfOutline(places);
}
