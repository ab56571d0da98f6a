/**
 * The formula language: mathematical notation with GLSL's function names. A formula is read into a tree with the place
 * of every part, and then bound: names become varying values. Nothing is ever run as code.
 */
import { GOLDEN, GOLDEN_ANGLE, NodeError, PI, TAU } from '../math/index.ts';
import type { Varying } from './varying.ts';
import {
	ELEMENT_NAMES,
	OPERATIONS,
	attribute,
	constant,
	constantYesNo,
	element,
	operate,
	part,
	random,
	vector
} from './varying.ts';
import { nearestName } from './elements.ts';

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
		throw new FormulaError(`“${[...rest][0]}” means nothing in a formula.`, from, from + [...rest][0].length);
	}
	tokens.push({ text: '', kind: 'end', from: text.length, to: text.length });
	return tokens;
}

/** Metres, or degrees, to one of each unit that may be written after a number. */
export const UNITS: Readonly<Record<string, number>> = Object.assign(
	Object.create(null) as Record<string, number>,
	{
		mm: 0.001,
		cm: 0.01,
		dm: 0.1,
		m: 1,
		km: 1000,
		'°': 1,
		deg: 1,
		rad: 180 / PI
	}
);

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
			const unit = peek();
			if ((unit.kind === 'name' || unit.text === '°') && UNITS[unit.text] !== undefined) {
				at++;
				return {
					kind: 'number',
					value: value * UNITS[unit.text],
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
			return { kind: 'number', value, from: token.from, to: token.to };
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

/** What a name stands for: a value, and whether it is an angle in degrees. */
export interface Meaning {
	value: Varying;
	unit?: string;
}

/** What a formula may speak of. */
export interface Scope {
	/** The meaning of a name, dotted or not; null when it has none here. `attribute.name` never arrives here. */
	lookUp(name: string): Meaning | null;
	/** Every name with a meaning, for proposals. */
	names(): Iterable<string>;
	/** True where a name without another meaning is an attribute; false where it is then an error. */
	readonly attributes: boolean;
	/** The words of a random stream: of the call's own (by its place in the formula), or of a shared one. */
	stream(place: number, shared: string | null): readonly [number, number];
	/** The seed of `noise` and `fractal`. */
	readonly noiseSeed: number;
}

const CONSTANTS = new Map([
	['pi', PI],
	['tau', TAU],
	['golden', GOLDEN],
	['goldenAngle', GOLDEN_ANGLE]
]);
const SIGNS: Record<string, string> = {
	'+': 'add',
	'-': 'subtract',
	'*': 'multiply',
	'/': 'divide',
	'%': 'mod',
	'^': 'pow',
	negate: 'negate',
	not: 'not',
	and: 'and',
	or: 'or'
};
const INNER = new Set([
	'add',
	'subtract',
	'multiply',
	'divide',
	'negate',
	'less',
	'atMost',
	'equal',
	'ridged',
	'cells',
	'and',
	'or',
	'not'
]);
/** The functions of the language. */
export const FUNCTIONS: readonly string[] = [
	...Object.keys(OPERATIONS).filter((name) => !INNER.has(name)),
	'random',
	'vec'
].sort();
/** Names that are read from the element, and what they are. */
export const RESERVED: readonly string[] = [...ELEMENT_NAMES];

/** Gives the names of a formula their meaning. Throws FormulaError. */
export function bindFormula(tree: Tree, scope: Scope, text: string): Varying {
	let randoms = 0;
	const spell = (t: Tree) => text.slice(t.from, t.to);
	/** Finds the value, and whether it is in degrees. */
	function bind(t: Tree): Meaning {
		try {
			return bindHere(t);
		} catch (error) {
			if (error instanceof NodeError) throw new FormulaError(error.message, t.from, t.to);
			throw error;
		}
	}
	function bindHere(t: Tree): Meaning {
		switch (t.kind) {
			case 'number':
				return {
					value: constant(t.value),
					unit: t.unit === '°' || t.unit === 'deg' || t.unit === 'rad' ? '°' : undefined
				};
			case 'part':
				return { value: part(bind(t.of).value, t.place) };
			case 'name':
				return bindName(t);
			case 'operator':
				return bindOperator(t.op, t.args.map(bind));
			case 'call':
				return bindCall(t);
		}
	}
	function bindName(t: Tree & { kind: 'name' }): Meaning {
		const { name } = t;
		// A part after the name: the longest beginning that means something wins.
		const found = meaningOf(name);
		if (found) return found;
		const cut = name.lastIndexOf('.');
		if (cut > 0) {
			const place = ['x', 'y', 'z'].indexOf(name.slice(cut + 1));
			const of =
				place >= 0
					? (meaningOf(name.slice(0, cut)) ??
						(scope.attributes && cut === name.indexOf('.') ? { value: attribute(name.slice(0, cut)) } : null))
					: null;
			if (of) return { value: part(of.value, place), unit: of.unit };
		} else if (scope.attributes) return { value: attribute(name) };
		const near = nearestName(name, [...scope.names(), ...RESERVED, ...CONSTANTS.keys()]);
		throw new FormulaError(
			`“${name}” is not known here.${near ? ` Did you mean “${near}”?` : ''}`,
			t.from,
			t.to,
			{ unknown: name, mending: near ? { label: `Write ${near}`, text: near } : undefined }
		);
	}
	function meaningOf(name: string): Meaning | null {
		if (name.startsWith('attribute.')) {
			const [, own, ...rest] = name.split('.');
			return rest.length ? null : { value: attribute(own) };
		}
		const own = scope.lookUp(name);
		if (own) return own;
		if ((ELEMENT_NAMES as readonly string[]).includes(name))
			return { value: element(name as (typeof ELEMENT_NAMES)[number]) };
		if (CONSTANTS.has(name)) return { value: constant(CONSTANTS.get(name)!) };
		if (name === 'true' || name === 'yes') return { value: constantYesNo(true) };
		if (name === 'false' || name === 'no') return { value: constantYesNo(false) };
		return null;
	}
	function bindOperator(op: string, args: Meaning[]): Meaning {
		const values = args.map((arg) => arg.value);
		const unit = args.some((arg) => arg.unit === '°') ? '°' : undefined;
		switch (op) {
			case '<':
				return { value: operate('less', values) };
			case '>':
				return { value: operate('less', [values[1], values[0]]) };
			case '<=':
				return { value: operate('atMost', values) };
			case '>=':
				return { value: operate('atMost', [values[1], values[0]]) };
			case '==':
				return { value: operate('equal', values) };
			case '!=':
				return { value: operate('not', [operate('equal', values)]) };
			default:
				// An angle over an angle is a bare number.
				return {
					value: operate(SIGNS[op], values),
					unit: op === '/' && args[1].unit === '°' ? undefined : unit
				};
		}
	}
	function bindCall(t: Tree & { kind: 'call' }): Meaning {
		const { name } = t;
		if (name === 'random') return bindRandom(t);
		const args = t.args.map(bind);
		const values = args.map((arg) => arg.value);
		if (name === 'vec') {
			if (values.length !== 3) throw new NodeError(`“vec” takes three numbers; ${values.length} came.`);
			return { value: vector(values[0], values[1], values[2]) };
		}
		if (!OPERATIONS[name] || INNER.has(name)) {
			const near = nearestName(name, FUNCTIONS);
			throw new FormulaError(
				`There is no function “${name}”.${near ? ` Did you mean “${near}”?` : ''}`,
				t.from,
				t.from + name.length,
				near ? { mending: { label: `Write ${near}`, text: near } } : {}
			);
		}
		if (name === 'sin' || name === 'cos' || name === 'tan') {
			if (args[0]?.unit === '°') {
				const inner = t.args[0];
				throw new FormulaError(
					`${spell(inner)} is in degrees: write ${name}(radians(${spell(inner)}))`,
					inner.from,
					inner.to,
					{ mending: { label: `Write radians(${spell(inner)})`, text: `radians(${spell(inner)})` } }
				);
			}
		}
		const unit =
			name === 'degrees' ||
			(!['radians', 'sign', 'step', 'smoothstep', 'noise', 'fractal'].includes(name) &&
				args.some((arg) => arg.unit === '°'))
				? '°'
				: undefined;
		const isNoise = name === 'noise' || name === 'fractal';
		return { value: operate(name, values, isNoise ? scope.noiseSeed : null), unit };
	}
	function bindRandom(t: Tree & { kind: 'call' }): Meaning {
		if (t.args.length < 2 || t.args.length > 3)
			throw new FormulaError(
				'“random” takes a low and a high, and a shared stream’s name if you like: random(0, 1).',
				t.from,
				t.to
			);
		const shared = t.args[2];
		if (shared && shared.kind !== 'name')
			throw new FormulaError(
				'The third value of “random” is the name of a shared stream, such as wind.',
				shared.from,
				shared.to
			);
		const [low, high] = t.args.slice(0, 2).map(bind);
		const stream = scope.stream(randoms++, shared ? (shared as { name: string }).name : null);
		return { value: random(low.value, high.value, stream), unit: low.unit ?? high.unit };
	}
	return bind(tree).value;
}

/** How many calls of `random` a formula has that have a stream of their own. */
export function countRandoms(tree: Tree): number {
	const below =
		tree.kind === 'call' || tree.kind === 'operator'
			? tree.args.reduce((sum, arg) => sum + countRandoms(arg), 0)
			: tree.kind === 'part'
				? countRandoms(tree.of)
				: 0;
	return below + (tree.kind === 'call' && tree.name === 'random' ? 1 : 0);
}

/** All names in a formula, with their places. */
export function namesIn(tree: Tree): { name: string; from: number; to: number }[] {
	if (tree.kind === 'name') return [{ name: tree.name, from: tree.from, to: tree.to }];
	if (tree.kind === 'part') return namesIn(tree.of);
	if (tree.kind === 'number') return [];
	const args = tree.kind === 'call' && tree.name === 'random' ? tree.args.slice(0, 2) : tree.args;
	return args.flatMap(namesIn);
}

/** A formula with a short name replaced wherever it begins a dotted name (`wall.height` → `front.height`). */
export function renameInFormula(text: string, from: string, to: string): string {
	return replaceNames(text, from, to, (name) => name.startsWith(from + '.'));
}

/** A formula with a name replaced wherever it stands by itself, or as a vector of which a part is taken. */
export const renameName = (text: string, from: string, to: string): string =>
	replaceNames(
		text,
		from,
		to,
		(name) => name === from || (/^\.[xyz]$/.test(name.slice(from.length)) && name.startsWith(from))
	);

function replaceNames(text: string, from: string, to: string, isMeant: (name: string) => boolean): string {
	let tree: Tree;
	try {
		tree = parseFormula(text);
	} catch {
		return text;
	}
	const places = namesIn(tree)
		.filter(({ name }) => isMeant(name))
		.sort((a, b) => b.from - a.from);
	for (const place of places) text = text.slice(0, place.from) + to + text.slice(place.from + from.length);
	return text;
}

/**
 * Reads a quantity as typed into a number field: a number, a sum, a length or angle with its unit.
 * @returns the number in metres or degrees. Throws FormulaError where it is not one number.
 */
export function parseQuantity(text: string): Varying {
	const tidy = /^\s*-?\d+,\d+\s*[a-z°]*\s*$/i.test(text) ? text.replace(',', '.') : text;
	const nothing: Scope = {
		lookUp: () => null,
		names: () => [],
		attributes: false,
		stream: () => {
			throw new NodeError('A number field takes no random(): choose “Random range” in its menu.');
		},
		noiseSeed: 0
	};
	return bindFormula(parseFormula(tidy), nothing, tidy);
}
