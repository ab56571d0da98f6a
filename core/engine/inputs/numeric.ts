/** What holds numbers and may vary: numbers, vectors, yes or no, colours, values and formulas. */
import { z } from 'zod';
import { NodeError } from '../../math/index.ts';
import type {
	ColourInput,
	FormulaInput,
	InputDefinition,
	NumberInput,
	ValueInput,
	VectorInput,
	WireKind,
	YesNoInput
} from '../../nodes/index.ts';
import {
	constantNumber,
	constantYesNo,
	inWholes,
	listValue,
	parseQuantity,
	vector
} from '../../varying/index.ts';
import type { Varying } from '../../varying/index.ts';
import { isList, isVarying } from '../values.ts';
import type { ScalarSetting, Setting } from '../document.ts';
import { isFormula, isRange, scalarSetting, textSetting } from '../document.ts';
import type { Arriving, Binding, Fit, InputKind } from './kind.ts';
import { CARRIED, FITS, refuse, takesNoWire } from './kind.ts';
import { singleNumber, singleVector } from './single.ts';

const threeScalars = z.tuple([scalarSetting, scalarSetting, scalarSetting]);

/** Whether what flows is one number or three, as an input that holds numbers takes it. */
function fitsNumbers(from: WireKind, input: InputDefinition, takesVectors: boolean): Fit {
	const { label } = input;
	if (from === 'ramp')
		return refuse(`“${label}” takes a value; a ramp shapes one. Put “Shape weight” between.`, 'shape-weight');
	if (from === 'geometry')
		return refuse(`“${label}” takes a value; geometry can be measured for one.`, 'measure');
	if (from === 'list' && !varies(input))
		return refuse(`“${label}” is one value for the whole node; a list holds many.`);
	if ((from === 'vector' || from === 'colour') && !takesVectors)
		return refuse(
			`“${label}” is a single number; this gives ${CARRIED[from].gives}. Take a part of it with “Formula”, such as v.x.`,
			'formula'
		);
	return FITS;
}

const varies = (input: InputDefinition): boolean => 'varies' in input && !!input.varies;

/** A scalar setting; anything else is told of. */
function scalarOf(setting: Setting, { label }: InputDefinition): ScalarSetting {
	if (typeof setting === 'number' || isRange(setting) || isFormula(setting)) return setting;
	throw new NodeError(
		`“${label}” takes a number${typeof setting === 'string' ? '; a text stands there' : ''}.`
	);
}

/** A setting of one number or of three. */
function bindNumbers(input: InputDefinition, setting: Setting, binding: Binding): Varying {
	if (typeof setting === 'boolean') return constantYesNo(setting);
	if (!Array.isArray(setting))
		return binding.scalar(scalarOf(setting, input), { whole: input.kind === 'number' && input.whole });
	// Each part draws its own numbers, also where no streams are stored with it.
	const [x, y, z] = setting.map((part, k) => binding.scalar(scalarOf(part, input), { part: 'xyz'[k] }));
	return vector(x, y, z);
}

function readNumber(text: string): number {
	let read: number;
	try {
		read = constantNumber(parseQuantity(text));
	} catch {
		throw new NodeError(`takes a number; “${text}” is not one.`);
	}
	if (Number.isFinite(read)) return read;
	throw new NodeError(`takes a number; “${text}” is larger than any.`);
}

/** Three numbers, or one for all. */
function readVector(_: InputDefinition, text: string): Setting {
	const parts = text.split(',').map(readNumber);
	if (parts.length === 1) return [parts[0], parts[0], parts[0]];
	if (parts.length === 3) return parts as [number, number, number];
	throw new NodeError('takes three numbers, such as 1,2,3.');
}

/** Three numbers for the node, or a value that varies. Plain ones need no detour over varying values. */
function resolveVector(input: VectorInput | ColourInput, at: Arriving): unknown {
	if (varies(input)) return at.value();
	const { setting } = at;
	if (!at.isWired && typeof setting === 'number') return [setting, setting, setting];
	if (!at.isWired && Array.isArray(setting) && setting.every((part) => typeof part === 'number'))
		return setting;
	return singleVector(at.value(), input, at);
}

const tidy = (x: number): string =>
	Number.isFinite(x) ? String(Math.round(x * 1000) / 1000) : x > 0 ? 'endlessly large' : 'endlessly small';

/** A number for the node, within its bounds. */
function withinBounds(
	given: number,
	{ label, whole, min, max }: NumberInput,
	{ name, warn }: Arriving
): number {
	const x = whole ? Math.floor(given + 0.5) : given;
	if (min !== undefined && x < min) {
		warn(`“${label}” is ${tidy(x)}; ${tidy(min)} is the least, and is used.`, name);
		return min;
	}
	if (max !== undefined && x > max) {
		warn(`“${label}” is ${tidy(x)}; ${tidy(max)} is the most, and is used.`, name);
		return max;
	}
	return x;
}

export const numberKind: InputKind<NumberInput> = {
	schema: z.union([scalarSetting, threeScalars]),
	takes: 'a number',
	isNumeric: true,
	field: 'scalar',
	start: (input) => input.default,
	fits: (from, input) => fitsNumbers(from, input, false),
	resolve(input, at) {
		if (varies(input)) return at.value();
		const plain = !at.isWired && typeof at.setting === 'number';
		if (plain) return withinBounds(at.setting as number, input, at);
		const value = input.whole ? inWholes(at.value()) : at.value();
		return withinBounds(singleNumber(value, input, at), input, at);
	},
	bind: bindNumbers,
	read: (_, text) => readNumber(text)
};

export const vectorKind: InputKind<VectorInput> = {
	schema: z.union([scalarSetting, threeScalars]),
	takes: 'three numbers',
	isNumeric: true,
	field: 'vector',
	start: (input) => [...input.default],
	fits: (from, input) => fitsNumbers(from, input, true),
	resolve: resolveVector,
	bind(input, setting, binding) {
		const value = bindNumbers(input, setting, binding);
		return value.type === 'number' ? vector(value, value, value) : value;
	},
	read: readVector
};

export const colourKind: InputKind<ColourInput> = {
	schema: z.union([scalarSetting, threeScalars]),
	takes: 'a colour',
	isNumeric: true,
	field: 'colour',
	start: (input) => [...input.default],
	fits: (from, input) => fitsNumbers(from, input, true),
	resolve: resolveVector,
	bind: bindNumbers,
	read: readVector
};

export const yesNoKind: InputKind<YesNoInput> = {
	schema: z.union([z.boolean(), scalarSetting]),
	takes: 'yes or no',
	isNumeric: true,
	field: 'yes or no',
	start: (input) => input.default,
	fits: (from, input) => fitsNumbers(from, input, false),
	resolve(input, at) {
		if (varies(input)) return at.value();
		if (!at.isWired && typeof at.setting === 'boolean') return at.setting;
		return singleNumber(at.value(), input, at) !== 0;
	},
	bind: bindNumbers,
	read(_, text) {
		if (/^(yes|true)$/i.test(text)) return true;
		if (/^(no|false)$/i.test(text)) return false;
		throw new NodeError('takes yes or no.');
	}
};

/** A value that may always vary, of any type. */
export const valueKind: InputKind<ValueInput> = {
	schema: z.union([z.boolean(), scalarSetting, threeScalars]),
	takes: 'a value',
	isNumeric: true,
	field: 'scalar',
	start: (input) => input.default,
	fits: (from, input) => fitsNumbers(from, input, true),
	resolve(input, at) {
		const [only] = input.words && at.isWired ? at.wired() : [];
		if (isList(only) && only.type === 'text') return only;
		if (!input.many) return at.value();
		return at.wired().map((made) => {
			if (isVarying(made)) return made;
			if (isList(made) && made.type !== 'text') return listValue(made.data, made.width);
			throw new NodeError(`“${input.label}” takes values; something else came.`, { input: at.name });
		});
	},
	bind: bindNumbers,
	read: (_, text) => readNumber(text)
};

/** The text of a formula over the node's own inputs. */
export const formulaKind: InputKind<FormulaInput> = {
	schema: textSetting,
	takes: 'a formula',
	isNumeric: false,
	field: 'formula',
	start: (input) => input.default,
	fits: takesNoWire,
	resolve: (_, at) => at.value(),
	bind: (input, setting, binding) =>
		binding.scalar(
			typeof setting === 'string' ? { formula: setting, streams: [] } : scalarOf(setting, input)
		),
	read: (_, text) => text
};
