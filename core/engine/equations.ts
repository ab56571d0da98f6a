/** The equations of ties: formulas in `x`, worked out for a number, and turned round where that can be done. */
import { NodeError } from '../math/index.ts';
import type { Names, Tree } from '../varying/index.ts';
import {
	FormulaError,
	bindFormula,
	constant,
	constantNumber,
	namesOnly,
	parseFormula
} from '../varying/index.ts';

/** What an equation may speak of: `x`, the other end. */
const namesFor = (x: number): Names =>
	namesOnly(
		'An equation',
		() => ['x'],
		(name) => (name === 'x' ? { value: constant(x) } : null)
	);

/** The equation worked out. Throws a NodeError where it says no number. */
export function solved(equation: string, x: number): number {
	let value: number;
	let isBroken = false;
	try {
		value = constantNumber(bindFormula(parseFormula(equation), namesFor(x), equation), {
			broken: () => (isBroken = true)
		});
	} catch (error) {
		if (error instanceof FormulaError || error instanceof NodeError)
			throw new NodeError(`“${equation}”: ${error.message}`);
		throw error;
	}
	if (isBroken || !Number.isFinite(value))
		throw new NodeError(`“${equation}” says no number where x is ${x}.`);
	return value;
}

/** What is wrong with an equation, as a sentence; null where nothing is. */
export function whyNoEquation(equation: string): string | null {
	if (!equation.trim()) return 'Write an equation in x, such as 3 * x + 1.';
	try {
		parseFormula(equation);
		solved(equation, 1);
		return null;
	} catch (error) {
		// At one place it may have no answer, as 1 / (x − 1) has not.
		try {
			solved(equation, 0.37);
			return null;
		} catch {
			return (error as Error).message;
		}
	}
}

const countOfX = (tree: Tree): number => {
	switch (tree.kind) {
		case 'name':
			return tree.name === 'x' ? 1 : 0;
		case 'call':
		case 'operator':
			return tree.args.reduce((sum, one) => sum + countOfX(one), 0);
		case 'part':
			return countOfX(tree.of);
		default:
			return 0;
	}
};

/** The other way round of functions of one value. */
const TURNED: Readonly<Record<string, (y: string) => string>> = {
	sqrt: (y) => `${y} ^ 2`,
	exp: (y) => `log(${y})`,
	log: (y) => `exp(${y})`,
	radians: (y) => `degrees(${y})`,
	degrees: (y) => `radians(${y})`
};

/** The equation the other way round, where x stands in it once and every step can be undone; else null. */
export function inverseOf(equation: string): string | null {
	let tree: Tree;
	try {
		tree = parseFormula(equation);
	} catch {
		return null;
	}
	if (countOfX(tree) !== 1) return null;
	/** A part as it is written, in parentheses unless it stands alone by itself. */
	const text = ({ kind, from, to }: Tree): string => {
		const own = equation.slice(from, to);
		return kind === 'number' || kind === 'name' || kind === 'call' ? own : `(${own})`;
	};
	let y = 'x';
	for (let at = tree; at.kind !== 'name';) {
		// All that was made so far is one value of the next step.
		const whole = y === 'x' ? y : `(${y})`;
		if (at.kind === 'call') {
			if (at.args.length !== 1 || !Object.hasOwn(TURNED, at.name)) return null;
			y = TURNED[at.name](whole);
			[at] = at.args;
			continue;
		}
		if (at.kind !== 'operator') return null;
		if (at.args.length === 1) {
			if (at.op !== '-' && at.op !== 'negate') return null;
			y = `-${whole}`;
			[at] = at.args;
			continue;
		}
		const [left, right] = at.args;
		const isLeft = countOfX(left) > 0;
		const turned = undone(at.op, isLeft, whole, text(isLeft ? right : left));
		if (turned === null) return null;
		y = turned;
		at = isLeft ? left : right;
	}
	return y;
}

function undone(op: string, isLeft: boolean, y: string, other: string): string | null {
	switch (op) {
		case '+':
			return `${y} - ${other}`;
		case '-':
			return isLeft ? `${y} + ${other}` : `${other} - ${y}`;
		case '*':
			return `${y} / ${other}`;
		case '/':
			return isLeft ? `${y} * ${other}` : `${other} / ${y}`;
		case '^':
			return isLeft ? `${y} ^ (1 / ${other})` : null;
		default:
			return null;
	}
}

/** Whether two equations undo one another, to nine places; tried about a number and away from it. */
export function areInverse(there: string, back: string, about: number): boolean {
	return [about, about + 1, 2 * about + 0.5, 0.25 * about + 0.1].every((x) => {
		try {
			return Math.abs(solved(back, solved(there, x)) - x) <= 1e-9 * Math.max(1, Math.abs(x));
		} catch {
			// Where one has no answer, nothing can be said.
			return true;
		}
	});
}
