/** A profile turned about the y axis: cylinders, spheres, discs and tori are all made so. */
import { pollAt } from '../geometry/index.ts';
import { TAU, cos, sin } from '../math/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { MeshBuilder } from './mesh-builder.ts';

export interface Profile {
	/** Distance from the axis and height of each point, in metres, in the order that keeps the outside to the right. */
	points: readonly (readonly [number, number])[];
	/** Whether the last point joins the first. */
	closed: boolean;
}

/** Radii below this are on the axis, where the points of a ring are one. */
const ON_AXIS = 1e-9;

/**
 * Turns a profile once round.
 * @param sides faces around, at least 3.
 * @param caps makes one face of many sides where an open profile ends off the axis.
 */
export function revolve(profile: Profile, sides: number, caps = false): Mesh {
	const { points, closed } = profile;
	const builder = new MeshBuilder();
	const rings = points.map(([radius, y]) => {
		if (radius < ON_AXIS) return new Array<number>(sides).fill(builder.point(0, y, 0));
		return Array.from({ length: sides }, (_, s) => {
			pollAt(s);
			const angle = (TAU * s) / sides;
			return builder.point(radius * cos(angle), y, -radius * sin(angle));
		});
	});
	const rows = closed ? points.length : points.length - 1;
	for (let r = 0; r < rows; r++) {
		const low = rings[r],
			high = rings[(r + 1) % points.length];
		for (let s = 0; s < sides; s++) {
			pollAt(s);
			const t = (s + 1) % sides;
			const [u, v, w, x] = [s / sides, (s + 1) / sides, r / rows, (r + 1) / rows];
			builder.face(
				[low[s], low[t], high[t], high[s]],
				[
					[u, w],
					[v, w],
					[v, x],
					[u, x]
				]
			);
		}
	}
	if (caps && !closed) {
		const round = (s: number): [number, number] => [
			0.5 + 0.5 * cos((TAU * s) / sides),
			0.5 + 0.5 * sin((TAU * s) / sides)
		];
		const uvs = Array.from({ length: sides }, (_, s) => round(s));
		if (points[0][0] >= ON_AXIS) builder.face([...rings[0]].reverse(), [...uvs].reverse());
		if (points[points.length - 1][0] >= ON_AXIS) builder.face(rings[points.length - 1], uvs);
	}
	return builder.mesh();
}
