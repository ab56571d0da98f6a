/** A ramp, drawn in the drawer or wired. */
import type { RampInput } from '../../nodes/index.ts';
import type { Setting } from '../document.ts';
import { isRamp, rampSetting } from '../document.ts';
import { isRampValue } from '../values.ts';
import type { InputKind } from './kind.ts';
import { CARRIED, FITS, refuse } from './kind.ts';

export const rampKind: InputKind<RampInput> = {
	schema: rampSetting,
	takes: 'a ramp',
	isNumeric: false,
	field: 'ramp',
	start: (input) => structuredClone(input.default) as Setting,
	fits: (from, { label }) =>
		from === 'ramp'
			? FITS
			: refuse(`“${label}” takes a ramp; this gives ${CARRIED[from].gives}. Make one with “Ramp”.`, 'ramp'),
	resolve(input, at) {
		const made = at.wired().at(-1);
		if (isRampValue(made)) return made;
		return isRamp(at.setting) ? at.setting : input.default;
	}
};
