/** Copies placed on points: where each stands, how it is turned, and which source it shows. */
import { mix, quaternion, toUnit } from '../math/index.ts';
import type { ColumnData, Table } from '../geometry/index.ts';
import { allocate, bitsOf, filled, idsOf, pollAt, scratch } from '../geometry/index.ts';

export interface Placing {
	/** The points’ rotations, which copies follow; null where all stand straight. */
	turns: ColumnData | null;
	/** Degrees about each copy’s own axes x, y, z. */
	angles: Float32Array;
	/** Metres along each copy’s own axes. */
	offsets: Float32Array;
	/** The rotation that brings the source’s own up and forward to y and z. */
	basis: readonly number[];
}

/** Positions and orientations of copies at points, 3 and 4 numbers each. */
export function placesOf(
	points: ColumnData,
	{ turns, angles, offsets, basis }: Placing
): { position: Float32Array; orientation: Float32Array } {
	const count = points.length / 3;
	const position = allocate('float', 3 * count),
		orientation = allocate('float', 4 * count);
	const q = [0, 0, 0, 1],
		own = [0, 0, 0, 1],
		step = [0, 0, 0];
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const o = 4 * i,
			k = 3 * i;
		quaternion.fromAngles(own, 0, angles[k], angles[k + 1], angles[k + 2]);
		if (turns)
			quaternion.multiply(
				q,
				0,
				turns[o],
				turns[o + 1],
				turns[o + 2],
				turns[o + 3],
				own[0],
				own[1],
				own[2],
				own[3]
			);
		else for (let m = 0; m < 4; m++) q[m] = own[m];
		quaternion.rotate(step, 0, q[0], q[1], q[2], q[3], offsets[k], offsets[k + 1], offsets[k + 2]);
		for (let m = 0; m < 3; m++) position[k + m] = points[k + m] + step[m];
		quaternion.multiply(orientation, o, q[0], q[1], q[2], q[3], basis[0], basis[1], basis[2], basis[3]);
	}
	return { position, orientation };
}

/** Writes which source each copy shows, by the way they are picked: in turn, by a number of their own, or by share. */
export function chooseSources(
	which: Int32Array,
	pick: string,
	table: Table,
	numbers: () => Float32Array,
	shares: number[],
	[first, second]: readonly [number, number]
): void {
	const count = shares.length;
	if (pick === 'turn')
		for (let i = 0; i < which.length; i++) {
			pollAt(i);
			which[i] = i % count;
		}
	else if (pick === 'number') {
		const wanted = numbers();
		for (let i = 0; i < which.length; i++) {
			pollAt(i);
			const whole = Math.floor(wanted[i] + 0.5);
			which[i] = whole - count * Math.floor(whole / count);
		}
	} else if (count > 1) {
		const total = shares.reduce((sum, x) => sum + x, 0);
		const ids = idsOf(table);
		for (let i = 0; i < which.length; i++) {
			pollAt(i);
			let at = toUnit(mix(mix(mix(first, ids[2 * i]), ids[2 * i + 1]), second)) * total;
			let k = 0;
			while (k < count - 1 && (at -= shares[k]) >= 0) k++;
			while (shares[k] === 0 && k > 0) k--;
			which[i] = k;
		}
	}
}

/** Above so many copies doubles are not looked for: it would take longer than placing them. */
const MOST_LOOKED_AT = 500_000;

/** How many places are exactly those of an earlier one. */
export function countDoubles(position: Float32Array): number {
	const count = position.length / 3;
	if (count < 2 || count > MOST_LOOKED_AT) return 0;
	const size = 1 << (33 - Math.clz32(count));
	const heads = filled('int', size, -1);
	const next = scratch('int', count);
	const words = bitsOf(position);
	let doubles = 0;
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const cell = mix(mix(words[3 * i], words[3 * i + 1]), words[3 * i + 2]) & (size - 1);
		let j = heads[cell];
		while (
			j >= 0 &&
			!(
				position[3 * j] === position[3 * i] &&
				position[3 * j + 1] === position[3 * i + 1] &&
				position[3 * j + 2] === position[3 * i + 2]
			)
		)
			j = next[j];
		if (j >= 0) doubles++;
		else {
			next[i] = heads[cell];
			heads[cell] = i;
		}
	}
	return doubles;
}
