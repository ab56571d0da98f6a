/** The colours of x, y and z, the same wherever an axis is drawn: coral, teal and ink. */
const COLOURS = {
	paper: { x: 0xd2482f, y: 0x1f7a70, z: 0x1e2b2e },
	dusk: { x: 0xf0765c, y: 0x58b8aa, z: 0xe9e4d8 }
} as const;

export type Axis = keyof (typeof COLOURS)['paper'];

export const axisColours = (dark: boolean): Readonly<Record<Axis, number>> =>
	dark ? COLOURS.dusk : COLOURS.paper;

/** The axis along which a way goes most; the first of several that are equal. */
export function axisOf(way: readonly number[]): Axis {
	const most = Math.max(...way.map(Math.abs));
	return (['x', 'y', 'z'] as const)[way.findIndex((part) => Math.abs(part) === most)];
}
