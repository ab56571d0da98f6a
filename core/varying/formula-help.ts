/** What formulas can say, told to people: every function with how it is called, every name with what it means. */
import type { ELEMENT_NAMES } from './varying.ts';

export interface FormulaHelp {
	/** How it is written. */
	call: string;
	says: string;
}

const help = (rows: Readonly<Record<string, readonly [string, string]>>): ReadonlyMap<string, FormulaHelp> =>
	new Map(Object.entries(rows).map(([name, [call, says]]) => [name, { call, says }]));

/** The functions, by name. */
export const FUNCTION_HELP = help({
	abs: ['abs(x)', 'x without its sign.'],
	acos: ['acos(x)', 'The angle in radians whose cosine is x.'],
	asin: ['asin(x)', 'The angle in radians whose sine is x.'],
	atan: ['atan(y, x)', 'The angle in radians of the direction (x, y); atan(t) is that of a tangent.'],
	ceil: ['ceil(x)', 'The next whole number from x upwards.'],
	choose: ['choose(condition, a, b)', 'a where the condition holds, otherwise b.'],
	clamp: ['clamp(x, low, high)', 'x, but at least low and at most high.'],
	cos: ['cos(a)', 'The cosine of an angle in radians.'],
	cross: ['cross(a, b)', 'The vector at right angles to two others.'],
	degrees: ['degrees(a)', 'An angle in degrees, from radians.'],
	distance: ['distance(a, b)', 'How far one place is from another.'],
	dot: ['dot(a, b)', 'The dot product of two vectors: 0 where they are at right angles.'],
	exp: ['exp(x)', 'e to the power of x.'],
	floor: ['floor(x)', 'The next whole number from x downwards.'],
	fract: ['fract(x)', 'What is left of x above the next whole number below it.'],
	fractal: [
		'fractal(p, octaves)',
		'Noise at a place with finer noise upon it, about −1 to 1. Two more values, lacunarity and gain, say how much finer and how much fainter each octave is.'
	],
	hsl: ['hsl(h, s, l)', 'A colour from hue (once round from 0 to 1), saturation and lightness.'],
	len: ['len(v)', 'The length of a vector.'],
	log: ['log(x)', 'The natural logarithm of x.'],
	max: ['max(a, b)', 'The greater of two.'],
	min: ['min(a, b)', 'The lesser of two.'],
	mix: ['mix(a, b, t)', 'From a, where t is 0, to b, where t is 1.'],
	mod: ['mod(x, y)', 'What is left of x after whole times y; never negative for a positive y. Also x % y.'],
	noise: ['noise(p)', 'Smooth noise at a place, about −1 to 1. noise(p, 2) is another, independent of it.'],
	noise4: [
		'noise4(p, w)',
		'Smooth noise at a place that changes in place with a fourth number, such as time; at 0 it is noise(p). A third value is the whole number after which it comes back: noise4(p, time, 2).'
	],
	normalize: ['normalize(v)', 'A vector of the same direction and of length 1.'],
	pow: ['pow(x, y)', 'x to the power of y. Also x ^ y.'],
	radians: ['radians(a)', 'An angle in radians, from degrees.'],
	random: [
		'random(low, high)',
		'A random number for each element, in a stream of its own; a name as third value shares one.'
	],
	remap: ['remap(x, a, b, c, d)', 'x from the range a … b to the range c … d.'],
	round: ['round(x)', 'The nearest whole number.'],
	sign: ['sign(x)', '−1, 0 or 1, as x is negative, zero or positive.'],
	sin: ['sin(a)', 'The sine of an angle in radians.'],
	smoothstep: ['smoothstep(a, b, x)', 'Smoothly from 0, where x is a, to 1, where x is b.'],
	sqrt: ['sqrt(x)', 'The square root of x.'],
	step: ['step(edge, x)', '0 below the edge, 1 from it on.'],
	tan: ['tan(a)', 'The tangent of an angle in radians.'],
	vec: ['vec(x, y, z)', 'A vector of three numbers.']
});

/** Names that the element answers. */
export const ELEMENT_HELP: Readonly<Record<(typeof ELEMENT_NAMES)[number], string>> = {
	index: 'The number of the element, from 0.',
	count: 'How many elements there are.',
	id: 'A number that stays with the element when others come or go.',
	position: 'Where the element is, in metres; .x, .y and .z are its parts.',
	normal: 'The direction that a surface faces there.',
	u: 'How far along its curve the element is, from 0 to 1 by length.',
	length: 'The length of the curve on which it lies, in metres.'
};

/** Constants. */
export const CONSTANT_HELP: ReadonlyMap<string, string> = new Map([
	['pi', '3.14159…, half a turn in radians.'],
	['tau', '6.28318…, a whole turn in radians.'],
	['golden', '1.61803…, the golden ratio.'],
	['goldenAngle', '2.39996…, the golden angle in radians.'],
	['seed', 'The seed of the generator.'],
	['yes', '1.'],
	['no', '0.']
]);

/** Words between values. */
export const WORD_HELP: ReadonlyMap<string, string> = new Map([
	['and', 'Both hold.'],
	['or', 'At least one holds.'],
	['not', 'It does not hold.']
]);
