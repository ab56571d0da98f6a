/** What nodes that make flat curves, or follow curves, have in common. */
import { allocate, geometryOf, makeCurves, pollAt } from '../../geometry/index.ts';
import type { Curves, Geometry } from '../../geometry/index.ts';
import { framesOf, uprightFrames } from '../../kernels/frames.ts';
import type { Frames } from '../../kernels/frames.ts';
import { choice } from '../define.ts';

export const facingInput = choice({
	label: 'Facing',
	help: 'The direction its plane looks.',
	default: 'up',
	options: [
		{ id: 'up', label: 'Up' },
		{ id: 'front', label: 'Front' },
		{ id: 'side', label: 'Side' }
	]
});

/** A place in a plane, counter-clockwise as seen from where it faces, with a height off the plane. */
export function facingTo(facing: string, a: number, b: number, off = 0): [number, number, number] {
	return facing === 'up' ? [a, off, -b] : facing === 'front' ? [a, b, off] : [off, b, -a];
}

/** One curve through points of a plane, two or three numbers each. */
export const flatCurve = (
	points: readonly (readonly number[])[],
	facing: string,
	closed: boolean
): Geometry => flatCurveAlong(points.length, facing, closed, (i) => points[i]);

/** The same through so many points, each asked for when it is its turn. */
export function flatCurveAlong(
	count: number,
	facing: string,
	closed: boolean,
	pointAt: (i: number) => readonly number[]
): Geometry {
	const positions = allocate('float', 3 * count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const [a, b, off = 0] = pointAt(i);
		positions.set(facingTo(facing, a, b, off), 3 * i);
	}
	return geometryOf({
		curves: makeCurves(positions, Uint32Array.of(0, count), Uint8Array.of(closed ? 1 : 0))
	});
}

export const range = (n: number): number[] => Array.from({ length: n }, (_, i) => i);

/** Which way is up along a curve. */
export const upInput = choice({
	label: 'Up',
	help: 'World keeps y upright; curve follows it round without spinning.',
	default: 'world',
	options: [
		{ id: 'world', label: 'World' },
		{ id: 'curve', label: 'Curve' }
	]
});

/** The frames that `upInput` asks for. */
export const framesBy = (curves: Curves, up: string): Frames =>
	up === 'world' ? uprightFrames(curves) : framesOf(curves);
