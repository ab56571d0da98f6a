/** What flows on wires: every value says what it is. */
import type { Geometry } from '../geometry/index.ts';
import type { List } from '../nodes/index.ts';
import type { Varying, WiredRamp } from '../varying/index.ts';

export type Value = Geometry | Varying | List | WiredRamp;

const kindOf = (value: unknown): unknown =>
	typeof value === 'object' && value !== null ? (value as { kind?: unknown }).kind : undefined;

export const isGeometry = (value: unknown): value is Geometry => kindOf(value) === 'geometry';
export const isVarying = (value: unknown): value is Varying => kindOf(value) === 'varying';
export const isList = (value: unknown): value is List => kindOf(value) === 'list';
export const isRampValue = (value: unknown): value is WiredRamp => kindOf(value) === 'ramp';
