/** Sections at the bends of a curve. */
/**
 * The direction across the bend at a point of a curve (three numbers), and how much wider a section must be there than it is,
 * so that its sides keep their distance.
 * @param mitre the most that it may be widened, in times.
 */
export function bendAt(
	p: Float32Array,
	i: number,
	first: number,
	last: number,
	closed: boolean,
	mitre: number
): readonly [number, number, number, number] {
	const a = i > first ? i - 1 : closed ? last : -1,
		b = i < last ? i + 1 : closed ? first : -1;
	if (a < 0 || b < 0) return STRAIGHT;
	let ux = p[3 * i] - p[3 * a],
		uy = p[3 * i + 1] - p[3 * a + 1],
		uz = p[3 * i + 2] - p[3 * a + 2];
	let vx = p[3 * b] - p[3 * i],
		vy = p[3 * b + 1] - p[3 * i + 1],
		vz = p[3 * b + 2] - p[3 * i + 2];
	const lu = Math.sqrt(ux * ux + uy * uy + uz * uz),
		lv = Math.sqrt(vx * vx + vy * vy + vz * vz);
	if (!(lu > 0 && lv > 0)) return STRAIGHT;
	ux /= lu;
	uy /= lu;
	uz /= lu;
	vx /= lv;
	vy /= lv;
	vz /= lv;
	const wx = vx - ux,
		wy = vy - uy,
		wz = vz - uz;
	const size = Math.sqrt(wx * wx + wy * wy + wz * wz);
	if (!(size > 1e-7)) return STRAIGHT;
	// The cosine of half the bend, from that of the whole.
	const half = Math.sqrt(Math.max(0, (1 + ux * vx + uy * vy + uz * vz) / 2));
	const widen = Math.min(half > 1e-6 ? 1 / half : mitre, mitre) - 1;
	return [wx / size, wy / size, wz / size, widen];
}

const STRAIGHT = [0, 0, 0, 0] as const;
