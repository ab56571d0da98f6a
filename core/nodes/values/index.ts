/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { numberNode } from './number.ts';
import { yesOrNo } from './yes-or-no.ts';
import { countUp } from './count-up.ts';
import { evenSteps } from './even-steps.ts';
import { listFromText } from './list-from-text.ts';
import { reorderList } from './reorder-list.ts';
import { combineLists } from './combine-lists.ts';
import { partOfList } from './part-of-list.ts';
import { repeatList } from './repeat-list.ts';
import { uniqueValues } from './unique-values.ts';
import { statistics } from './statistics.ts';
import { keepInRhythm } from './keep-in-rhythm.ts';
import { keepWhere } from './keep-where.ts';
import { sortIntoTwo } from './sort-into-two.ts';
import { remap } from './remap.ts';
import { compare } from './compare.ts';
import { chooseInput } from './choose-input.ts';
import { mix } from './mix.ts';
import { formulaNode } from './formula-node.ts';
import { randomNumber } from './random-number.ts';
import { noiseValue } from './noise-value.ts';
import { levelOfDetail } from './level-of-detail.ts';
import { readOut } from './read-out.ts';
import { rampNode } from './ramp.ts';
import { colourFromRamp } from './colour-from-ramp.ts';

export const values: readonly AnyNode[] = [
	numberNode,
	yesOrNo,
	countUp,
	evenSteps,
	listFromText,
	reorderList,
	combineLists,
	partOfList,
	repeatList,
	uniqueValues,
	statistics,
	keepInRhythm,
	keepWhere,
	sortIntoTwo,
	chooseInput,
	mix,
	formulaNode,
	randomNumber,
	noiseValue,
	remap,
	compare,
	levelOfDetail,
	readOut,
	rampNode,
	colourFromRamp
];
