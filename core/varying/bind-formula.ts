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

/** The names of a small language: a few that mean something, no attributes, nothing random. @param what such as “A condition”. */
export const namesOnly = (
	what: string,
	known: () => Iterable<string>,
	lookUp: (name: string) => Meaning | null
): Names => ({
	lookUp,
	names: known,
	attributes: false,
	stream: () => {
		throw new NodeError(`${what} takes no random(): it would say something else each time.`);
	},
	noiseSeed: 0
});

const CONSTANTS = new Map([
	['pi', PI],
	['tau', TAU],
	['golden', GOLDEN],
	['goldenAngle', GOLDEN_ANGLE]
]);
/** Units of angles as they are typed; all become degrees. */
const ANGLES: ReadonlySet<string> = new Set(['°', 'deg', 'rad']);
/** What each sign does: an operation, perhaps with its values turned round, or the opposite of its answer. */
const SIGNS: Readonly<Record<string, { op: string; isTurned?: boolean; isNot?: boolean }>> = {
	'+': { op: 'add' },
	'-': { op: 'subtract' },
	'*': { op: 'multiply' },
	'/': { op: 'divide' },
	'%': { op: 'mod' },
	'^': { op: 'pow' },
	'<': { op: 'less' },
	'>': { op: 'less', isTurned: true },
	'<=': { op: 'atMost' },
	'>=': { op: 'atMost', isTurned: true },
	'==': { op: 'equal' },
	'!=': { op: 'equal', isNot: true },
	negate: { op: 'negate' },
	not: { op: 'not' },
	and: { op: 'and' },
	or: { op: 'or' }
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
	'fractal4',
	'ridged4',
	'cells4',
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

/** What growing things tell of an element: an attribute like any other, where they are. */
const GROWN: ReadonlySet<string> = new Set(['level', 'levels', 'progress', 'parent']);
const PASSES: ReadonlySet<string> = new Set(['pass', 'passes', 'outer']);

const keptName = (name: string): NodeError =>
	PASSES.has(name.split('.')[0])
		? new NodeError(
				`“${name}” is known only in the body of a repeat${name.includes('.') ? ', so many repeats deep' : ''}. For an attribute of that name write attribute.${name.split('.').at(-1)}.`
			)
		: new NodeError(
				`“${name}” is a name that formulas keep for themselves; it means nothing yet. For an attribute of that name write attribute.${name.split('.').at(-1)}.`
			);

/** Gives the names of a formula their meaning. Throws FormulaError. */
export const bindFormula = (tree: Tree, names: Names, text: string): Varying =>
	new Binder(names, text).bind(tree).value;

/** Binds one formula: each part of its tree to what it means. */
class Binder {
	readonly #names: Names;
	readonly #text: string;
	/** Random numbers met so far: each draws from a stream of its own. */
	#randoms = 0;

	constructor(names: Names, text: string) {
		this.#names = names;
		this.#text = text;
	}

	/** The value, and whether it is in degrees. What is wrong is told with the place where it stands. */
	bind(t: Tree): Meaning {
		try {
			switch (t.kind) {
				case 'number':
					return { value: constant(t.value), unit: t.unit && ANGLES.has(t.unit) ? '°' : undefined };
				case 'part':
					return { value: part(this.bind(t.of).value, t.place) };
				case 'name':
					return this.#name(t);
				case 'operator':
					return this.#operator(
						t.op,
						t.args.map((arg) => this.bind(arg))
					);
				case 'call':
					return this.#call(t);
			}
		} catch (error) {
			if (error instanceof NodeError) throw new FormulaError(error.message, t.from, t.to);
			throw error;
		}
	}

	#spell({ from, to }: Tree): string {
		return this.#text.slice(from, to);
	}

	/** A name; a part may come after it, and the longest beginning that means something wins. */
	#name({ name, from, to }: Tree & { kind: 'name' }): Meaning {
		const found = this.#meaning(name) ?? this.#partOfName(name);
		if (found) return found;
		if (this.#names.attributes && !name.includes('.')) return { value: attribute(name) };
		const near = nearestName(name, [...this.#names.names(), ...ELEMENT_NAMES, ...CONSTANTS.keys()]);
		throw new FormulaError(
			`“${name}” is not known here.${near ? ` Did you mean “${near}”?` : ''}`,
			from,
			to,
			{ unknown: name, mending: near ? { label: `Write ${near}`, text: near } : undefined }
		);
	}

	/** `wind.x`, where wind is known, or may be an attribute. */
	#partOfName(name: string): Meaning | null {
		const cut = name.lastIndexOf('.');
		const place = ['x', 'y', 'z'].indexOf(name.slice(cut + 1));
		if (cut <= 0 || place < 0) return null;
		const before = name.slice(0, cut);
		const mayBeAttribute = this.#names.attributes && !before.includes('.');
		const of = this.#meaning(before) ?? (mayBeAttribute ? { value: attribute(before) } : null);
		return of && { value: part(of.value, place), unit: of.unit };
	}

	#meaning(name: string): Meaning | null {
		if (name.startsWith('attribute.')) {
			const [, own, ...rest] = name.split('.');
			return rest.length ? null : { value: attribute(own) };
		}
		const own = this.#names.lookUp(name);
		if (own) return own;
		const [beginning] = name.split('.');
		const isKept = name === beginning ? KEPT.has(name) : KEPT_DOTS.has(beginning);
		if (isKept && GROWN.has(beginning)) return { value: attribute(name) };
		// A dial that is not there is a name that is not known, and the nearest is proposed.
		if (isKept && beginning !== 'dial') throw keptName(name);
		if ((ELEMENT_NAMES as readonly string[]).includes(name))
			return { value: element(name as (typeof ELEMENT_NAMES)[number]) };
		if (CONSTANTS.has(name)) return { value: constant(CONSTANTS.get(name)!) };
		if (name === 'true' || name === 'yes') return { value: constantYesNo(true) };
		if (name === 'false' || name === 'no') return { value: constantYesNo(false) };
		return null;
	}

	#operator(sign: string, args: readonly Meaning[]): Meaning {
		const { op, isTurned = false, isNot = false } = SIGNS[sign];
		const values = args.map((arg) => arg.value);
		const value = operate(op, isTurned ? values.reverse() : values);
		return { value: isNot ? operate('not', [value]) : value, unit: unitOf(op, args) };
	}

	#call(t: Tree & { kind: 'call' }): Meaning {
		const { name } = t;
		if (name === 'random') return this.#random(t);
		const args = t.args.map((arg) => this.bind(arg));
		const values = args.map((arg) => arg.value);
		if (name === 'vec') {
			if (values.length !== 3) throw new NodeError(`“vec” takes three numbers; ${values.length} came.`);
			return { value: vector(values[0], values[1], values[2]) };
		}
		if (!OPERATIONS[name] || INNER.has(name)) throw unknownFunction(t);
		if (OPERATIONS[name].takes === 'radians' && args[0]?.unit === '°') {
			const mended = `radians(${this.#spell(t.args[0])})`;
			throw new FormulaError(
				`${this.#spell(t.args[0])} is in degrees: write ${name}(${mended})`,
				t.args[0].from,
				t.args[0].to,
				{ mending: { label: `Write ${mended}`, text: mended } }
			);
		}
		if (name === 'noise') return this.#noise(t, values);
		const seed = name === 'fractal' || name === 'noise4' ? this.#names.noiseSeed : null;
		return { value: operate(name, values, seed), unit: unitOf(name, args) };
	}

	/** `noise(p)` is one function, the same everywhere; `noise(p, 2)` is another, and independent of it. */
	#noise(t: Tree & { kind: 'call' }, [place, which, ...more]: readonly Varying[]): Meaning {
		if (which && (which.op !== 'constant' || which.value !== Math.floor(which.value as number)))
			throw new FormulaError(
				'The second value of “noise” says which noise it is: a whole number, such as noise(position, 2).',
				t.args[1].from,
				t.args[1].to
			);
		const number = which ? (which.value as number) : 1;
		const { noiseSeed } = this.#names;
		const seed = number === 1 ? noiseSeed : mix(mix(0x6e6f69, noiseSeed), number);
		return { value: operate('noise', [place, ...more], seed) };
	}

	#random(t: Tree & { kind: 'call' }): Meaning {
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
		const [low, high] = t.args.slice(0, 2).map((arg) => this.bind(arg));
		const stream = this.#names.stream(this.#randoms++, shared ? shared.name : null);
		return { value: random(low.value, high.value, stream), unit: low.unit ?? high.unit };
	}
}

/** The unit of a result: degrees, or none that matters. */
function unitOf(op: string, args: readonly Meaning[]): '°' | undefined {
	const isAngle = args.map(({ unit }) => unit === '°');
	switch (OPERATIONS[op].unit) {
		case 'degrees':
			return '°';
		case 'none':
			return undefined;
		case 'quotient':
			return isAngle[0] && !isAngle[1] ? '°' : undefined;
		case 'kept':
			return isAngle.includes(true) ? '°' : undefined;
	}
}

function unknownFunction({ name, from }: Tree & { kind: 'call' }): FormulaError {
	const near = nearestName(name, FUNCTIONS);
	return new FormulaError(
		`There is no function “${name}”.${near ? ` Did you mean “${near}”?` : ''}`,
		from,
		from + name.length,
		near ? { mending: { label: `Write ${near}`, text: near } } : {}
	);
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
