/**
 * Reading formulas: mathematical notation with GLSL's function names becomes a tree with the place of every part.
 * Nothing is ever run as code.
 */
import { PI } from '../math/index.ts';

/** What is wrong with a formula, where (columns from 0), and a text that would be right in its place. */
export class FormulaError extends Error {
	readonly from: number;
	readonly to: number;
	readonly mending?: { label: string; text: string };
	/** The name that is nothing here, where that is what is wrong. */
	readonly unknown?: string;
	constructor(
		message: string,
		from: number,
		to: number,
		more: { mending?: { label: string; text: string }; unknown?: string } = {}
	) {
		super(message);
		this.name = 'FormulaError';
		this.from = from;
		this.to = to;
		this.mending = more.mending;
		this.unknown = more.unknown;
	}
}

export type Tree = { from: number; to: number } & (
	| { kind: 'number'; value: number; unit?: string }
	| { kind: 'name'; name: string }
	| { kind: 'call'; name: string; args: Tree[] }
	| { kind: 'operator'; op: string; args: Tree[] }
	| { kind: 'part'; of: Tree; place: number }
);

interface Token {
	text: string;
	kind: 'number' | 'name' | 'sign' | 'end';
	from: number;
	to: number;
}

const TOKEN =
	/\s*(?:(\d+\.?\d*(?:[eE][+-]?\d+)?|\.\d+(?:[eE][+-]?\d+)?)|([\p{L}_][\p{L}\p{N}_]*)|(<=|>=|==|!=|≤|≥|≠|[-+*/^%()<>=,.×·÷−°]))/uy;
/** The longest formula that is read. */
const LONGEST = 4000;
/** The deepest nesting of parentheses and calls. */
const DEEPEST = 64;

function tokensOf(text: string): Token[] {
	if (text.length > LONGEST)
		throw new FormulaError(
			`A formula may have ${LONGEST} characters; this one has ${text.length}.`,
			LONGEST,
			text.length
		);
	const tokens: Token[] = [];
	let at = 0;
	for (;;) {
		TOKEN.lastIndex = at;
		const match = TOKEN.exec(text);
		if (!match) break;
		const whole = match[1] ?? match[2] ?? match[3];
		const from = TOKEN.lastIndex - whole.length;
		tokens.push({
			text: whole,
			kind: match[1] ? 'number' : match[2] ? 'name' : 'sign',
			from,
			to: TOKEN.lastIndex
		});
		at = TOKEN.lastIndex;
	}
	const rest = text.slice(at).trimStart();
	if (rest) {
		const from = text.length - rest.length;
		const [sign, word] = OTHER_SIGNS.find(([one]) => rest.startsWith(one)) ?? [[...rest][0], null];
		if (word === null)
			throw new FormulaError(`“${sign}” means nothing in a formula.`, from, from + sign.length);
		// A word stands by itself.
		const spaced = `${/\s$/.test(text.slice(0, from)) || !from ? '' : ' '}${word}${/^\s/.test(rest.slice(sign.length)) ? '' : ' '}`;
		throw new FormulaError(`“${sign}” is written “${word}” here.`, from, from + sign.length, {
			mending: { label: `Write “${word}”`, text: spaced }
		});
	}
	tokens.push({ text: '', kind: 'end', from: text.length, to: text.length });
	return tokens;
}

/** Signs that are words here. */
const OTHER_SIGNS: readonly (readonly [string, string])[] = [
	['||', 'or'],
	['&&', 'and'],
	['!', 'not']
];

/** Metres, or degrees, to one of each unit that may be written after a number. */
const UNITS: Readonly<Record<string, number>> = Object.assign(Object.create(null) as Record<string, number>, {
	mm: 0.001,
	cm: 0.01,
	dm: 0.1,
	m: 1,
	km: 1000,
	'°': 1,
	deg: 1,
	rad: 180 / PI
});

const LEVELS: { signs: Record<string, string>; right?: boolean }[] = [
	{ signs: { or: 'or' } },
	{ signs: { and: 'and' } },
	{
		signs: {
			'<': '<',
			'>': '>',
			'<=': '<=',
			'>=': '>=',
			'≤': '<=',
			'≥': '>=',
			'=': '==',
			'==': '==',
			'!=': '!=',
			'≠': '!='
		}
	},
	{ signs: { '+': '+', '-': '-', '−': '-' } },
	{ signs: { '*': '*', '×': '*', '·': '*', '/': '/', '÷': '/', '%': '%' } }
];

/** Reads a formula. Throws FormulaError. */
export function parseFormula(text: string): Tree {
	const tokens = tokensOf(text);
	let at = 0;
	let depth = 0;
	const peek = () => tokens[at];
	const fail = (message: string, token = peek(), mending?: { label: string; text: string }): never => {
		throw new FormulaError(message, token.from, Math.max(token.to, token.from + 1), { mending });
	};
	const take = (sign: string): boolean =>
		peek().text === sign && peek().kind !== 'end' ? (at++, true) : false;

	function binary(level: number): Tree {
		if (level === LEVELS.length) return prefix();
		let left = binary(level + 1);
		for (;;) {
			const token = peek();
			const op =
				token.kind === 'number' || token.kind === 'end' || !Object.hasOwn(LEVELS[level].signs, token.text)
					? undefined
					: LEVELS[level].signs[token.text];
			if (!op) return left;
			at++;
			const right = binary(level + 1);
			left = { kind: 'operator', op, args: [left, right], from: left.from, to: right.to };
		}
	}
	function prefix(): Tree {
		const token = peek();
		if (++depth > DEEPEST) fail(`This is nested more than ${DEEPEST} deep.`);
		try {
			if (take('-') || take('−')) {
				const of = prefix();
				return { kind: 'operator', op: 'negate', args: [of], from: token.from, to: of.to };
			}
			if (take('+')) return prefix();
			if (token.kind === 'name' && token.text === 'not') {
				at++;
				const of = binary(2);
				return { kind: 'operator', op: 'not', args: [of], from: token.from, to: of.to };
			}
			return power();
		} finally {
			depth--;
		}
	}
	function power(): Tree {
		const base = postfix();
		if (!take('^')) return base;
		// To the right: 2^3^2 is 2^9, and 2^-1 is a half.
		const exponent = prefix();
		return { kind: 'operator', op: '^', args: [base, exponent], from: base.from, to: exponent.to };
	}
	function postfix(): Tree {
		let tree = primary();
		while (peek().text === '.' && tree.kind !== 'name') {
			at++;
			const name = peek();
			const place = 'xyz'.indexOf(name.text);
			if (name.kind !== 'name' || name.text.length !== 1 || place < 0)
				fail('After the dot comes x, y or z.', name);
			at++;
			tree = { kind: 'part', of: tree, place, from: tree.from, to: name.to };
		}
		return tree;
	}
	function primary(): Tree {
		const token = peek();
		if (token.kind === 'number') {
			at++;
			const value = Number(token.text);
			const checked = (x: number): number =>
				Number.isFinite(x) ? x : fail(`“${token.text.slice(0, 20)}” is larger than any number.`, token);
			const unit = peek();
			if ((unit.kind === 'name' || unit.text === '°') && UNITS[unit.text] !== undefined) {
				at++;
				return {
					kind: 'number',
					value: checked(value * UNITS[unit.text]),
					unit: unit.text,
					from: token.from,
					to: unit.to
				};
			}
			if (unit.kind === 'name' && !['and', 'or', 'not'].includes(unit.text))
				fail(`Between ${token.text} and ${unit.text} a sign is missing.`, unit, {
					label: `Write ${token.text} * ${unit.text}`,
					text: `* ${unit.text}`
				});
			return { kind: 'number', value: checked(value), from: token.from, to: token.to };
		}
		if (take('(')) {
			const inner = binary(0);
			if (!take(')'))
				fail('A closing parenthesis is missing here.', peek(), { label: 'Close it', text: ')' });
			return { ...inner, from: token.from, to: tokens[at - 1].to };
		}
		if (token.kind === 'name') {
			at++;
			if (take('(')) {
				const args: Tree[] = [];
				if (!take(')')) {
					do args.push(binary(0));
					while (take(','));
					if (!take(')'))
						fail(`A closing parenthesis is missing after the values of “${token.text}”.`, peek(), {
							label: 'Close it',
							text: ')'
						});
				}
				return { kind: 'call', name: token.text, args, from: token.from, to: tokens[at - 1].to };
			}
			let name = token.text;
			let to = token.to;
			while (peek().text === '.' && tokens[at + 1].kind === 'name') {
				name += '.' + tokens[at + 1].text;
				to = tokens[at + 1].to;
				at += 2;
			}
			return { kind: 'name', name, from: token.from, to };
		}
		return fail(
			token.kind === 'end'
				? text.trim()
					? 'The formula ends too early: a value is missing here.'
					: 'The formula is empty.'
				: `A value is missing before “${token.text}”.`
		);
	}
	const tree = binary(0);
	if (peek().kind !== 'end')
		fail(
			peek().text === ')'
				? 'This parenthesis was never opened.'
				: `Between this and what stands before it a sign is missing.`
		);
	return tree;
}
