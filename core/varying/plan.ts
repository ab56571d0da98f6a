/** How a varying value is worked out on the columns at hand: lowered to a flat program, made shorter, and made loops. */
import type { Elements } from './elements.ts';
import { emit } from './emit.ts';
import type { Emitted } from './emit.ts';
import { fuse } from './fuse.ts';
import type { Program } from './instructions.ts';
import type { Report } from './lower.ts';
import { lower } from './lower.ts';
import type { ValueType, Varying } from './varying.ts';

export interface Plan extends Emitted {
	type: ValueType;
	/** Whether steps read what does not belong to the elements: fields, long lists. */
	holdsOthers: boolean;
}

/** Lists of more numbers are not kept with the plans that read them. */
const LONG_LIST = 1000;

/** Plans a value for elements. Throws NodeError where a name is missing or types do not fit. */
export function planFor(value: Varying, elements: Elements, warn: Report): Plan {
	const program = lower(value, elements, warn);
	return { ...emit(fuse(program)), type: program.type, holdsOthers: holdsOthers(program) };
}

const holdsOthers = ({ instructions }: Program): boolean =>
	instructions.some((one) => one.op === 'field' || (one.op === 'list' && one.list.length > LONG_LIST));
