/** How often a texture repeats on what is made along curves: a setting that nodes share. */
import type { Geometry } from '../../geometry/index.ts';
import type { Varying } from '../../varying/index.ts';
import type { Context } from '../define.ts';
import { number } from '../define.ts';

export const textureRepeat = number({
	label: 'Texture repeat',
	help: 'How often a texture repeats in a metre. It may differ from curve to curve: a formula in level gives branches a finer bark.',
	default: 1,
	slider: [0.1, 10],
	unit: 'per m',
	varies: 'curve'
});

/** One number for each curve; null where all have one repeat a metre. */
export const repeatsOf = (repeat: Varying, geometry: Geometry, context: Context): ArrayLike<number> | null =>
	repeat.op === 'constant' && repeat.value === 1
		? null
		: context.numbers(repeat, { geometry, part: 'curves', kind: 'curve' });
