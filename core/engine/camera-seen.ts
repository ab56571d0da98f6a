/** What a *Camera* sees, from its result. */
import { constantParts } from '../varying/index.ts';
import type { NodeResult } from './result.ts';
import { isVarying } from './values.ts';

/** Where a camera stands and what it shows. */
export interface CameraSeen {
	position: readonly number[];
	target: readonly number[];
	/** Half of the height that it shows, in metres, where it has no perspective; null where it has a lens. */
	half: number | null;
	/** The angle of view of its lens, in degrees. */
	angle: number;
}

/** Null where there is no result, or one that sees nothing. */
export function cameraSeen(result: NodeResult | undefined): CameraSeen | null {
	const read = (name: string): readonly number[] | null => {
		const value = result?.outputs.get(name);
		return value && isVarying(value) && value.constant ? constantParts(value) : null;
	};
	const [position, target, angle, height] = ['place', 'target', 'angle', 'height'].map(read);
	if (!position || !target || !angle || !height) return null;
	if (position.every((x, k) => x === target[k])) return null;
	return { position, target, half: height[0] > 0 ? height[0] / 2 : null, angle: angle[0] || 40 };
}
