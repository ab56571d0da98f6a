/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { numberNode } from './number.ts';
import { yesOrNo } from './yes-or-no.ts';
import { countUp } from './count-up.ts';
import { evenSteps } from './even-steps.ts';
import { formulaNode } from './formula-node.ts';
import { randomNumber } from './random-number.ts';
import { noiseValue } from './noise-value.ts';
import { rampNode } from './ramp.ts';
import { colourRamp } from './colour-ramp.ts';

export const values: readonly AnyNode[] = [
	numberNode,
	yesOrNo,
	countUp,
	evenSteps,
	formulaNode,
	randomNumber,
	noiseValue,
	rampNode,
	colourRamp
];
