/** Flat outlines as faces, holes respected, and the same with thickness. */
import { pollAt } from '../geometry/index.ts';
import earcut from 'earcut';
import type { Section } from './section.ts';
import { areaOfSection, turnedRound } from './section.ts';

/** An outline with the holes that lie directly in it. Outlines are counter-clockwise, holes clockwise. */
export interface Region {
	outline: Float64Array;
	holes: Float64Array[];
}

/** Sorts closed sections into outlines and holes by how many others each lies in: even is filled, odd is a hole. */
export function regionsOf(sections: readonly Section[]): Region[] {
	const loops = sections
		.filter((one) => one.closed && one.points.length >= 6 && areaOfSection(one.points) !== 0)
		.map(({ points }) => points);
	const depth = loops.map((loop, i) => loops.filter((other, j) => j !== i && contains(other, loop)).length);
	const regions = new Map<number, Region>();
	loops.forEach((loop, i) => {
		if (depth[i] % 2 === 0)
			regions.set(i, { outline: areaOfSection(loop) < 0 ? turnedRound(loop) : loop, holes: [] });
	});
	loops.forEach((loop, i) => {
		if (depth[i] % 2 === 0) return;
		// Of the outlines around a hole the innermost owns it.
		let owner = -1;
		for (const [j] of regions)
			if (contains(loops[j], loop) && (owner < 0 || depth[j] > depth[owner])) owner = j;
		if (owner >= 0) regions.get(owner)!.holes.push(areaOfSection(loop) > 0 ? turnedRound(loop) : loop);
	});
	return [...regions.values()];
}

/** Whether a loop lies in another: by a place just inside the loop's first edge, so that shared points do not confuse. */
function contains(outer: Float64Array, inner: Float64Array): boolean {
	const x = (inner[0] + inner[2]) / 2,
		y = (inner[1] + inner[3]) / 2;
	let inside = false;
	for (let i = 0, j = outer.length - 2; i < outer.length; j = i, i += 2) {
		pollAt(i);
		const [ax, ay, bx, by] = [outer[i], outer[i + 1], outer[j], outer[j + 1]];
		if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
	}
	return inside && Math.abs(areaOfSection(outer)) > Math.abs(areaOfSection(inner));
}

/** A region as triangles over its points, outline first, then holes: three numbers each. */
export function trianglesOfRegion({ outline, holes }: Region): number[] {
	const flat = [...outline];
	const starts: number[] = [];
	for (const hole of holes) {
		starts.push(flat.length / 2);
		flat.push(...hole);
	}
	return earcut(flat, starts, 2);
}
