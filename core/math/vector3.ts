/** Ways in space as three numbers each. */

export const dot = (a: readonly number[], b: readonly number[]): number =>
	a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const cross = (a: readonly number[], b: readonly number[]): number[] => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0]
];

/** The same way, of length 1; not numbers where it has no length. */
export function unit(a: readonly number[]): number[] {
	const size = Math.sqrt(dot(a, a));
	return a.map((x) => x / size);
}
