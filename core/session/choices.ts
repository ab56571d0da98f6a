/** What a user chooses of a generator: a preset, a kept variation, dials, what is in slots. */
import { NodeError } from '../math/index.ts';
import { Ledger } from '../geometry/index.ts';
import { hashBytes } from '../formats/index.ts';
import { constantNumber, nearestName, parseQuantity } from '../varying/index.ts';
import type { Dial, GeneratorDocument, Kept, Preset, Setting } from '../engine/index.ts';
import {
	isMaterial,
	isRange,
	settled,
	withDialValues,
	withKeptTaken,
	withPresetTaken,
	withSlotFilled
} from '../engine/index.ts';
import { readingOf } from './imports.ts';
import type { OpenedFile } from './job.ts';

export interface Choices {
	/** By its name or its id. */
	preset?: string;
	kept?: string;
	/** Values as they are typed, by the keys or names of dials. */
	dials?: readonly (readonly [string, string])[];
	/** Files, by the keys or names of slots. */
	slots?: readonly (readonly [string, { name: string; bytes: Uint8Array }])[];
}

/** One of several things by its id, key or name. Throws a NodeError that names the nearest. */
function found<Thing extends { name: string }>(
	all: readonly Thing[],
	wanted: string,
	what: string,
	idOf: (thing: Thing) => string
): Thing {
	const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
	const one = all.find((thing) => idOf(thing) === wanted) ?? all.find(({ name }) => same(name, wanted));
	if (one) return one;
	const near = nearestName(
		wanted,
		all.flatMap((thing) => [thing.name, idOf(thing)])
	);
	throw new NodeError(
		`There is no ${what} “${wanted}”.${near ? ` Did you mean “${near}”?` : all.length ? ` There ${all.length === 1 ? 'is' : 'are'}: ${all.map(({ name }) => name).join(', ')}.` : ''}`
	);
}

const presetNamed = ({ presets }: GeneratorDocument, wanted: string): Preset =>
	found(presets, wanted, 'preset', ({ id }) => id);
const keptNamed = ({ kept }: GeneratorDocument, wanted: string): Kept =>
	found(kept, wanted, 'kept variation', ({ id }) => id);
const dialNamed = ({ dials }: GeneratorDocument, wanted: string): Dial =>
	found(dials, wanted, 'dial', ({ key }) => key);

/** A file's generator as it was chosen. Throws NodeErrors; what could not be taken of a preset is told of. */
export function chosen(file: OpenedFile, choices: Choices, say: (sentence: string) => void): OpenedFile {
	let { document } = file;
	const assets = new Map(file.assets);
	if (choices.preset !== undefined)
		document = withPresetTaken(document, presetNamed(document, choices.preset).id, say);
	if (choices.kept !== undefined)
		document = withKeptTaken(document, keptNamed(document, choices.kept).id, say);
	for (const [wanted, given] of choices.slots ?? []) {
		const { key } = found(document.slots, wanted, 'slot', ({ key }) => key);
		const { node, settings } = new Ledger().work(() => readingOf(given, null));
		const hash = hashBytes(given.bytes);
		const filled = withSlotFilled(document, key, { kind: node, settings: { ...settings, file: hash } });
		if (typeof filled === 'string') throw new NodeError(filled);
		assets.set(hash, given.bytes);
		const known = { ...filled.assets, [hash]: { name: given.name, bytes: given.bytes.length } };
		document = { ...filled, assets: known };
	}
	if (choices.dials?.length) {
		const values = Object.fromEntries(
			choices.dials.map(([wanted, text]) => {
				const dial = dialNamed(document, wanted);
				return [dial.key, dialValue(dial, text)];
			})
		);
		document = settled(withDialValues(document, values, say), document);
	}
	return { ...file, document, assets };
}

/** A material with another colour, and roughness and metallic where those are given too. */
function materialFrom({ name, value }: Dial, parts: readonly number[]): Setting {
	const [red, green, blue, ...rest] = parts;
	const isSound = parts.length >= 3 && parts.length <= 5 && rest.every((part) => part >= 0 && part <= 1);
	if (!isSound || !isMaterial(value))
		throw new NodeError(
			`“${name}” takes a colour as three numbers, such as 0.4,0.3,0.2, then, if wanted, roughness and metallic from 0 to 1.`
		);
	const [roughness = value.material.roughness, metallic = value.material.metallic] = rest;
	return { material: { ...value.material, colour: [red, green, blue], roughness, metallic } };
}

/** What a dial is set to by words typed by hand. Throws a NodeError that says what it takes. */
export function dialValue(dial: Dial, text: string): Setting {
	const number = (typed: string): number => {
		try {
			return constantNumber(parseQuantity(typed));
		} catch {
			throw new NodeError(`“${dial.name}” takes a number; “${typed.slice(0, 60)}” is not one.`);
		}
	};
	switch (dial.kind) {
		case 'number':
		case 'whole': {
			const [low, high] = text.split('..');
			if (high === undefined) return number(text);
			const stream = isRange(dial.value) ? dial.value.stream : `dial ${dial.key}`;
			return { low: number(low), high: number(high), stream };
		}
		case 'yesno':
			if (/^(yes|true|1)$/i.test(text)) return true;
			if (/^(no|false|0)$/i.test(text)) return false;
			throw new NodeError(`“${dial.name}” takes yes or no.`);
		case 'choice': {
			const options = (dial.options ?? []).map(({ id, label }) => ({ id, name: label }));
			return found(options, text, `choice of “${dial.name}”`, ({ id }) => id).id;
		}
		case 'colour':
		case 'vector': {
			const parts = text.split(',').map(number);
			if (parts.length !== 3) throw new NodeError(`“${dial.name}” takes three numbers, such as 1,2,3.`);
			return parts as [number, number, number];
		}
		case 'text':
			return text;
		case 'ramp':
			throw new NodeError(`“${dial.name}” is a ramp: it cannot be set by words.`);
		case 'material':
			return materialFrom(dial, text.split(',').map(number));
	}
}
