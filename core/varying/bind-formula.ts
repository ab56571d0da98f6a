/** Binding formulas: the names and functions of a formula's tree become varying values. */
import { GOLDEN, GOLDEN_ANGLE, NodeError, PI, TAU, mix } from '../math/index.ts';
import { nearestName } from './elements.ts';
import { FormulaError, parseFormula } from './parse-formula.ts';
import type { Tree } from './parse-formula.ts';
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

/** What a name stands for: a value, and whether it is an angle in degrees. */
export interface Meaning {
	value: Varying;
	unit?: string;
}

/** What a formula may speak of. */
export interface Names {
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
/** Names that formulas keep for what is still to come: time, repeats, branching, buildings. */
export const KEPT_NAMES = [
	'time',
	'frame',
	'frames',
	'pass',
	'passes',
	'progress',
	'level',
	'levels',
	'parent',
	'bay',
	'bays',
	'side',
	'storey'
] as const;
/** Names that are kept before a dot. */
const KEPT_BEFORE_DOT = ['dial', 'outer', 'attribute', 'parent'] as const;
/** Names that no node may have: formulas would mean something else by them. */
export const KEPT_SHORTS: ReadonlySet<string> = new Set([...KEPT_NAMES, ...KEPT_BEFORE_DOT]);
/** Names that mean something before the settings of the node and the attributes do. */
export const RESERVED: readonly string[] = [...ELEMENT_NAMES, ...KEPT_NAMES];

const KEPT: ReadonlySet<string> = new Set(KEPT_NAMES);
const KEPT_DOTS: ReadonlySet<string> = new Set(KEPT_BEFORE_DOT);

const keptName = (name: string): NodeError =>
	new NodeError(
		`“${name}” is a name that formulas keep for themselves; it means nothing yet. For an attribute of that name write attribute.${name.split('.').at(-1)}.`
	);

/** Gives the names of a formula their meaning. Throws FormulaError. */
export function bindFormula(tree: Tree, scope: Names, text: string): Varying {
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
		const near = nearestName(name, [...scope.names(), ...ELEMENT_NAMES, ...CONSTANTS.keys()]);
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
		const [beginning] = name.split('.');
		const isKept = name === beginning ? KEPT.has(name) : KEPT_DOTS.has(beginning);
		if (isKept) throw keptName(name);
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
		if (name === 'noise') return bindNoise(t, values);
		return { value: operate(name, values, name === 'fractal' ? scope.noiseSeed : null), unit };
	}
	/** `noise(p)` is one function, the same everywhere; `noise(p, 2)` is another, and independent of it. */
	function bindNoise(t: Tree & { kind: 'call' }, [place, which, ...more]: Varying[]): Meaning {
		if (which && (which.op !== 'constant' || which.value !== Math.floor(which.value as number)))
			throw new FormulaError(
				'The second value of “noise” says which noise it is: a whole number, such as noise(position, 2).',
				t.args[1].from,
				t.args[1].to
			);
		const number = which ? (which.value as number) : 1;
		const seed = number === 1 ? scope.noiseSeed : mix(mix(0x6e6f69, scope.noiseSeed), number);
		return { value: operate('noise', [place, ...more], seed) };
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

/**
 * Reads a quantity as typed into a number field: a number, a sum, a length or angle with its unit.
 * @returns the number in metres or degrees. Throws FormulaError where it is not one number.
 */
export function parseQuantity(text: string): Varying {
	const tidy = /^\s*-?\d+,\d+\s*[a-z°]*\s*$/i.test(text) ? text.replace(',', '.') : text;
	const nothing: Names = {
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
