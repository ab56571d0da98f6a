/** How far a place lies from an ellipsoid, or from an ellipse in a plane. */

const MOST_STEPS = 60;

/**
 * The nearest place on it lies where the way to it is square to the surface: at half axis² · coordinate / (t + half axis²) for
 * one number t, the root of a falling, convex function, which Newton’s steps reach from the left without passing it (after
 * David Eberly, “Distance from a Point to an Ellipse, an Ellipsoid, or a Hyperellipsoid”, 2013).
 * @param axes half axes in metres, each more than 0.
 * @returns metres, negative inside.
 */
export function distanceToEllipsoid(axes: readonly number[], place: readonly number[]): number {
	const y = place.map(Math.abs);
	const least = Math.min(...axes);
	let inside = -1,
		onLeast = 0;
	axes.forEach((e, k) => {
		inside += (y[k] / e) * (y[k] / e);
		if (e === least) onLeast += y[k] * y[k];
	});
	if (onLeast === 0) {
		const straight = overFlat(axes, y, least);
		if (straight !== null) return inside > 0 ? straight : -straight;
	}
	// Counted from the square of the least half axis, where t loses no digit beside it: left of the root, or on it.
	let s = least * Math.sqrt(onLeast);
	const beyond = axes.map((e) => e * e - least * least);
	const counts = axes.map((e, k) => y[k] > 0 && (e > least || onLeast > 0));
	for (let step = 0; step < MOST_STEPS; step++) {
		let g = -1,
			slope = 0;
		axes.forEach((e, k) => {
			if (!counts[k]) return;
			const r = (e * y[k]) / (s + beyond[k]);
			g += r * r;
			slope -= (2 * r * r) / (s + beyond[k]);
		});
		const next = s - g / slope;
		if (!(next > s)) break;
		s = next;
	}
	let square = 0;
	axes.forEach((_, k) => {
		if (!counts[k]) return;
		const way = (y[k] * (s - least * least)) / (s + beyond[k]);
		square += way * way;
	});
	const distance = Math.sqrt(square);
	return inside > 0 ? distance : -distance;
}

/**
 * A place in the plane across the shortest axis, near enough to the middle that the nearest place lies above it: how far that
 * is; null where it lies in the plane itself.
 */
function overFlat(axes: readonly number[], y: readonly number[], least: number): number | null {
	let rest = 1,
		square = 0;
	for (let k = 0; k < axes.length; k++) {
		const e = axes[k];
		if (e === least) continue;
		const x = (e * e * y[k]) / (e * e - least * least);
		rest -= (x / e) * (x / e);
		square += (x - y[k]) * (x - y[k]);
	}
	return rest < 0 ? null : Math.sqrt(square + least * least * rest);
}
