/** Formulas about the elements of a table, as they are typed into a filter. */
import { NodeError } from '../math/index.ts';
import { bindFormula } from './bind-formula.ts';
import type { Names } from './bind-formula.ts';
import { parseFormula } from './parse-formula.ts';
import type { Varying } from './varying.ts';
import { ELEMENT_NAMES, element } from './varying.ts';

/** Reads a condition such as `index % 5 < 2 and height > 0.1`. Throws FormulaError. @param known names of attributes, for proposals. */
export function parseCondition(text: string, known: Iterable<string>): Varying {
	const names: Names = {
		lookUp: (name) => {
			const own = ELEMENT_NAMES.find((one) => one === name);
			return own ? { value: element(own) } : null;
		},
		names: () => [...ELEMENT_NAMES, ...known],
		attributes: true,
		stream: () => {
			throw new NodeError('A filter takes no random(): it would show others each time.');
		},
		noiseSeed: 0
	};
	return bindFormula(parseFormula(text), names, text);
}
