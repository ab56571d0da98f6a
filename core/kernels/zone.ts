/** A shape in space with an inner and an outer bound, as a weight for every place. */
import { pollAt } from '../geometry/index.ts';
import { pow, quaternion } from '../math/index.ts';
import type { Field } from '../varying/index.ts';
import { defineField } from '../varying/index.ts';
import { distanceToEllipsoid } from './ellipsoid.ts';

export interface Zone {
	shape: 'sphere' | 'box' | 'cylinder' | 'half-space';
	centre: readonly [number, number, number];
	/** Degrees about the fixed axes x, y, z. */
	rotate: readonly [number, number, number];
	/** The whole extent along the zone's own axes, in metres. */
	size: readonly [number, number, number];
	/** Metres outside the shape (negative: inside) up to which the weight is 1, and from which it is 0. */
	inner: number;
	outer: number;
	/** 1 falls evenly; more makes it more local. */
	power: number;
}

/** Reads the signed distance to a zone's shape, in metres, at a place in its own space. */
export function distanceIn({ shape, size }: Zone): (x: number, y: number, z: number) => number {
	const [a, b, c] = size.map((s) => Math.max(Math.abs(s) / 2, 1e-9));
	switch (shape) {
		case 'half-space':
			return (_x, y) => y;
		case 'sphere':
			return a === b && b === c
				? (x, y, z) => Math.sqrt(x * x + y * y + z * z) - a
				: (x, y, z) => distanceToEllipsoid([a, b, c], [x, y, z]);
		case 'cylinder':
			return (x, y, z) => {
				const across = a === c ? Math.sqrt(x * x + z * z) - a : distanceToEllipsoid([a, c], [x, z]);
				const along = Math.abs(y) - b;
				const [px, py] = [Math.max(across, 0), Math.max(along, 0)];
				return Math.sqrt(px * px + py * py) + Math.min(Math.max(across, along), 0);
			};
		case 'box':
			return (x, y, z) => {
				const dx = Math.abs(x) - a;
				const dy = Math.abs(y) - b;
				const dz = Math.abs(z) - c;
				const px = Math.max(dx, 0);
				const py = Math.max(dy, 0);
				const pz = Math.max(dz, 0);
				return Math.sqrt(px * px + py * py + pz * pz) + Math.min(Math.max(dx, dy, dz), 0);
			};
	}
}

/** The zone's weight for every place. */
export const zoneField = (zone: Zone): Field => makeField(JSON.stringify(zone), { zone });

/** Writes where a place lies in a zone's own space. */
export function ownPlace({ rotate, centre }: Zone): (out: number[], x: number, y: number, z: number) => void {
	const [cx, cy, cz] = centre;
	if (rotate.every((angle) => angle === 0))
		return (out, x, y, z) => {
			out[0] = x - cx;
			out[1] = y - cy;
			out[2] = z - cz;
		};
	const turn = [0, 0, 0, 1];
	quaternion.fromAngles(turn, 0, rotate[0], rotate[1], rotate[2]);
	const [a, b, c, w] = [-turn[0], -turn[1], -turn[2], turn[3]];
	return (out, x, y, z) => quaternion.rotate(out, 0, a, b, c, w, x - cx, y - cy, z - cz);
}

/** What a zone weighs so far from its shape. */
export function weightOfZone({ inner, outer, power }: Zone, d: number): number {
	const t = outer > inner ? (outer - d) / (outer - inner) : d <= inner ? 1 : 0;
	const w = t <= 0 ? 0 : t >= 1 ? 1 : t;
	return power === 1 || w === 0 ? w : pow(w, power);
}

const makeField = defineField('zone', ({ zone }: { zone: Zone }) => {
	const place = ownPlace(zone);
	const distance = distanceIn(zone);
	const own = [0, 0, 0];
	return (n, out, x, y, z) => {
		for (let i = 0; i < n; i++) {
			pollAt(i);
			place(own, x[i], y[i], z[i]);
			out[i] = weightOfZone(zone, distance(own[0], own[1], own[2]));
		}
	};
});
