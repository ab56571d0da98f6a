/** What nodes that make flat curves, or follow curves, have in common. */
import { allocate, geometryOf, makeCurves } from '../geometry/index.ts';
import type { Curves, Geometry } from '../geometry/index.ts';
import { framesOf, uprightFrames } from '../kernels/frames.ts';
import type { Frames } from '../kernels/frames.ts';
import { choice } from './define.ts';

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
export function flatCurve(points: readonly (readonly number[])[], facing: string, closed: boolean): Geometry {
	const positions = allocate('float', points.length * 3);
	points.forEach(([a, b, off = 0], i) => positions.set(facingTo(facing, a, b, off), 3 * i));
	return geometryOf({
		curves: makeCurves(positions, Uint32Array.of(0, points.length), Uint8Array.of(closed ? 1 : 0))
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
