/** Presets and kept variations: dials as they were set once. */
import type { Dial, GeneratorDocument, Kept, Preset, Setting, Slot } from './document.ts';
import { newStream } from './document.ts';
import { isSame, withDialValues, withoutStream } from './dials.ts';
import { settled } from './settle.ts';
import { holds, slotContents, withSlotFilled } from './slots.ts';

const newId = (): string => `p${newStream().slice(0, 10)}`;

/** The dials that presets hold, as they are. */
export const valuesOf = ({ dials }: GeneratorDocument): Record<string, Setting> =>
	Object.fromEntries(dials.filter(({ leftOut }) => !leftOut).map(({ key, value }) => [key, value]));

export const presetOf = ({ presets, preset }: GeneratorDocument): Preset | null =>
	presets.find(({ id }) => id === preset) ?? null;

/** The dials and slots that stand otherwise than in the preset that was taken last. */
export function changedSince(document: GeneratorDocument): (Dial | Slot)[] {
	const preset = presetOf(document);
	if (!preset) return [];
	const dials = document.dials.filter(
		({ key, value, leftOut }) =>
			!leftOut &&
			Object.hasOwn(preset.values, key) &&
			!isSame(withoutStream(preset.values[key]), withoutStream(value))
	);
	const slots = document.slots.filter(({ key }) => {
		const held = preset.slots?.[key];
		return held && !holds(document, key, held);
	});
	return [...dials, ...slots];
}

/** The dials as they are, as a preset more; it is the one taken last. */
export function withPreset(
	document: GeneratorDocument,
	name: string,
	more: Pick<Preset, 'says' | 'picture'> = {}
): GeneratorDocument {
	const preset: Preset = { id: newId(), name: name.trim() || 'Preset', ...more, values: valuesOf(document) };
	return { ...document, presets: [...document.presets, preset], preset: preset.id };
}

/** Rows of which one is changed; the same where it is not there. */
const changedRow = <Row extends { id: string }>(
	rows: Row[],
	id: string,
	change: Partial<NoInfer<Row>>
): Row[] =>
	rows.some((one) => one.id === id) ? rows.map((one) => (one.id === id ? { ...one, ...change } : one)) : rows;

/** A preset with the dials as they are, and with what is in slots where it holds that. */
export function withPresetUpdated(document: GeneratorDocument, id: string): GeneratorDocument {
	const preset = document.presets.find((one) => one.id === id);
	const values = valuesOf(document);
	return withPresetChanged(document, id, {
		values,
		...(preset?.slots && { slots: slotContents(document) })
	});
}

/** A preset that holds what is in slots, or does so no more. */
export const withPresetHolding = (
	document: GeneratorDocument,
	id: string,
	isHolding: boolean
): GeneratorDocument =>
	withPresetChanged(document, id, { slots: isHolding ? slotContents(document) : undefined });

/** A preset with other dials, words or another picture. */
export function withPresetChanged(
	document: GeneratorDocument,
	id: string,
	change: Partial<Omit<Preset, 'id'>>
): GeneratorDocument {
	const presets = changedRow(document.presets, id, change);
	return presets === document.presets ? document : { ...document, presets };
}

export function withoutPreset(document: GeneratorDocument, id: string): GeneratorDocument {
	const { preset, ...rest } = document;
	return {
		...rest,
		...(preset !== undefined && preset !== id && { preset }),
		presets: document.presets.filter((one) => one.id !== id)
	};
}

/** The generator as a preset has it; what the preset says of dials that are gone, or cannot be, is told of. */
export function withPresetTaken(
	document: GeneratorDocument,
	id: string,
	say: (sentence: string) => void = () => {}
): GeneratorDocument {
	const preset = document.presets.find((one) => one.id === id);
	if (!preset) return document;
	let made = document;
	for (const [key, content] of Object.entries(preset.slots ?? {})) {
		if (holds(made, key, content)) continue;
		const filled = withSlotFilled(made, key, content);
		if (typeof filled === 'string') say(filled);
		else made = filled;
	}
	const turned = withDialValues(made, preset.values, say);
	return settled(turned.preset === id ? turned : { ...turned, preset: id }, made);
}

/** The dials and the seed as they are, kept. */
export function withKept(
	document: GeneratorDocument,
	name: string,
	{ seed = document.seed, values = valuesOf(document), ...more }: Partial<Omit<Kept, 'id' | 'name'>> = {}
): GeneratorDocument {
	const { preset } = document;
	const kept: Kept = {
		id: newId(),
		name: name.trim() || `Seed ${seed}`,
		seed,
		values,
		...(preset !== undefined && { preset }),
		...more
	};
	return { ...document, kept: [...document.kept, kept] };
}

export function withKeptChanged(
	document: GeneratorDocument,
	id: string,
	change: Partial<Pick<Kept, 'name' | 'picture'>>
): GeneratorDocument {
	const kept = changedRow(document.kept, id, change);
	return kept === document.kept ? document : { ...document, kept };
}

export const withoutKept = (document: GeneratorDocument, id: string): GeneratorDocument => ({
	...document,
	kept: document.kept.filter((one) => one.id !== id)
});

/** The generator as a kept variation has it. */
export function withKeptTaken(
	document: GeneratorDocument,
	id: string,
	say: (sentence: string) => void = () => {}
): GeneratorDocument {
	const kept = document.kept.find((one) => one.id === id);
	if (!kept) return document;
	const turned = withDialValues(document, kept.values, say);
	return settled(
		{ ...turned, seed: kept.seed, ...(kept.preset !== undefined && { preset: kept.preset }) },
		document
	);
}

/** Whether the generator stands as a kept variation has it: its seed, and every dial that it holds. */
export const standsAs = ({ seed, dials }: GeneratorDocument, kept: Kept): boolean =>
	seed === kept.seed &&
	Object.entries(kept.values).every(([key, value]) => {
		const dial = dials.find((one) => one.key === key);
		return !!dial && isSame(withoutStream(dial.value), withoutStream(value));
	});
