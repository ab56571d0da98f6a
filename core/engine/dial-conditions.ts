/** What dials mean in formulas, and which of them are shown. */
import type { Meaning, Names } from '../varying/index.ts';
import {
	bindFormula,
	constant,
	constantNumber,
	constantYesNo,
	namesOnly,
	parseFormula,
	vector
} from '../varying/index.ts';
import type { Dial, GeneratorDocument } from './document.ts';
import { endsOf, isRange, withoutItsKeys } from './document.ts';

/** A dial as formulas hear it: yes is 1 and no 0, a choice is its place among its options. Null where it holds no plain number. */
export function numbersOfDial({ value: given, unit, options }: Dial): Meaning | null {
	const value = withoutItsKeys(given);
	if (typeof value === 'number') return { value: constant(value), unit };
	if (typeof value === 'boolean') return { value: constantYesNo(value) };
	if (typeof value === 'string' && options)
		return { value: constant(options.map(({ id }) => id).indexOf(value)) };
	if (!Array.isArray(value)) return null;
	const [x, y, z] = value;
	return typeof x === 'number' && typeof y === 'number' && typeof z === 'number'
		? { value: vector(x, y, z), unit }
		: null;
}

/** Of a random range a condition hears the middle. */
function heard(dial: Dial): Meaning | null {
	const value = withoutItsKeys(dial.value);
	if (!isRange(value)) return numbersOfDial(dial);
	const [low, high] = endsOf(value);
	return { value: constant((low + high) / 2) };
}

/** Conditions speak of dials by their keys, with `dial.` before them or without. */
const namesOf = ({ dials }: GeneratorDocument): Names =>
	namesOnly(
		'A condition',
		() => dials.map(({ key }) => key),
		(name) => {
			const key = name.startsWith('dial.') ? name.slice('dial.'.length) : name;
			const dial = dials.find((one) => one.key === key);
			return dial ? heard(dial) : null;
		}
	);

/** What is wrong with a condition, as a sentence; null where nothing is. */
export function whyNoCondition(document: GeneratorDocument, condition: string): string | null {
	try {
		constantNumber(bindFormula(parseFormula(condition), namesOf(document), condition));
		return null;
	} catch (error) {
		return (error as Error).message;
	}
}

/** Whether a dial is shown; one whose condition cannot be read is. */
export function isDialShown(document: GeneratorDocument, { shownIf }: Dial): boolean {
	if (!shownIf?.trim()) return true;
	try {
		return constantNumber(bindFormula(parseFormula(shownIf), namesOf(document), shownIf)) !== 0;
	} catch {
		return true;
	}
}
