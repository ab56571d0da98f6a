/** The fields that edit settings, by the name that each kind of input gives. */
import type { Component } from 'svelte';
import type { Field } from '$core/engine/index';
import Colour from './Colour.svelte';
import File from './File.svelte';
import Formula from './Formula.svelte';
import OneOfSome from './OneOfSome.svelte';
import Path from './Path.svelte';
import Ramp from './Ramp.svelte';
import Scalar from './Scalar.svelte';
import Text from './Text.svelte';
import Vector from './Vector.svelte';
import YesNo from './YesNo.svelte';
import type { FieldProps } from './props';

/** What comes only by wires has no field. */
export const FIELDS: Record<Exclude<Field, 'wires'>, Component<FieldProps>> = {
	scalar: Scalar,
	vector: Vector,
	'yes or no': YesNo,
	colour: Colour,
	choice: OneOfSome,
	text: Text,
	formula: Formula,
	ramp: Ramp,
	path: Path,
	file: File
};
