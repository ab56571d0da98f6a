/** The kinds of input, each one object. */
import type { InputDefinition } from '../../nodes/index.ts';
import type { Setting } from '../document.ts';
import { isKeys } from '../document.ts';
import { assetKind, choiceKind, pathKind, textKind } from './by-hand.ts';
import { geometryKind } from './geometry.ts';
import type { InputKind } from './kind.ts';
import { listKind } from './list.ts';
import { colourKind, formulaKind, numberKind, valueKind, vectorKind, yesNoKind } from './numeric.ts';
import { rampKind } from './ramp.ts';

export type { Arriving, Field, Fit, Warn } from './kind.ts';
export { CARRIED } from './kind.ts';
export { Incomplete, Waiting } from './waiting.ts';

const KINDS: { [K in InputDefinition['kind']]: InputKind<Extract<InputDefinition, { kind: K }>> } = {
	geometry: geometryKind,
	list: listKind,
	number: numberKind,
	vector: vectorKind,
	yesno: yesNoKind,
	colour: colourKind,
	value: valueKind,
	formula: formulaKind,
	choice: choiceKind,
	text: textKind,
	ramp: rampKind,
	path: pathKind,
	asset: assetKind
};

/** The kind of an input. */
export const inputKind = <I extends InputDefinition>(input: I): InputKind<I> =>
	KINDS[input.kind] as unknown as InputKind<I>;

/** Whether an input takes a setting: of keys, each of them. */
export function takes(input: InputDefinition, setting: Setting): boolean {
	const { schema } = inputKind(input);
	const isTaken = (value: Setting): boolean => !!schema?.safeParse(value).success;
	return isKeys(setting) ? setting.keys.every(({ value }) => isTaken(value)) : isTaken(setting);
}
