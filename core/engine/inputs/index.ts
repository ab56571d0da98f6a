/** The kinds of input, each one object. */
import type { InputDefinition } from '../../nodes/index.ts';
import type { PartSetting, Setting } from '../document.ts';
import { isKeys, scalarSetting } from '../document.ts';
import { keyedParts } from '../vector-parts.ts';
import { assetKind, choiceKind, pathKind, textKind } from './by-hand.ts';
import { geometryKind } from './geometry.ts';
import type { InputKind } from './kind.ts';
import { listKind } from './list.ts';
import { colourKind, formulaKind, numberKind, valueKind, vectorKind, yesNoKind } from './numeric.ts';
import { rampKind } from './ramp.ts';

export type { Arriving, Field, Fit, Warn } from './kind.ts';
export { MissingFile } from './by-hand.ts';
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

/** Whether an input takes a setting: of keys, each of them; of a vector each part, which may have keys of its own. */
export function takes(input: InputDefinition, setting: Setting): boolean {
	const { schema } = inputKind(input);
	const isTaken = (value: Setting): boolean => !!schema?.safeParse(value).success;
	if (input.kind === 'vector' && keyedParts(setting).length) {
		const isScalar = (value: Setting): boolean => scalarSetting.safeParse(value).success;
		return (setting as PartSetting[]).every((part) =>
			isKeys(part) ? part.keys.every(({ value }) => isScalar(value)) : isScalar(part)
		);
	}
	return isKeys(setting) ? setting.keys.every(({ value }) => isTaken(value)) : isTaken(setting);
}
