/** A varying value written out flat: what its plan is made of before it becomes loops. */
import type { Column } from '../geometry/index.ts';
import type { Field, ValueType } from './varying.ts';

/** Loops that read noise; those with a 4 take a fourth number and its period after the place. */
export type NoiseLoop = 'noise' | 'cells' | 'fractal' | 'ridged' | 'fractal4' | 'ridged4' | 'cells4';

/** What one loop over the elements does. `ins` and `outs` are places: each is written once, so that any may be moved. */
export type Instruction = {
	readonly outs: readonly number[];
	readonly ins: readonly number[];
} & (
	| { readonly op: 'loop'; readonly loop: string }
	| { readonly op: 'normalize' | 'colour' | 'index' }
	| { readonly op: 'noise'; readonly of: NoiseLoop; readonly seed: number }
	| { readonly op: 'ids'; readonly ids: Uint32Array | null }
	| { readonly op: 'column'; readonly column: Column }
	| { readonly op: 'list'; readonly list: Float64Array }
	| {
			readonly op: 'random';
			readonly stream: readonly [number, number];
			readonly whole: boolean;
			readonly ids: Uint32Array | null;
	  }
	| { readonly op: 'field'; readonly field: Field }
	| { readonly op: 'ramp'; readonly table: Float64Array }
);

export interface Program {
	instructions: readonly Instruction[];
	/** Places that hold one number throughout, with it. */
	constants: ReadonlyMap<number, number>;
	/** The place of the result, or the three. */
	result: readonly number[];
	type: ValueType;
}
