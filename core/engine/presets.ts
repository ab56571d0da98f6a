/** Presets and kept variations: dials as they were set once. */
import type { Dial, GeneratorDocument, Kept, Preset, Setting } from './document.ts';
import { newStream } from './document.ts';
import { isSame, withDialValues, withoutStream } from './dials.ts';
import { settled } from './settle.ts';

const newId = (): string => `p${newStream().slice(0, 10)}`;

/** The dials that presets hold, as they are. */
export const valuesOf = ({ dials }: GeneratorDocument): Record<string, Setting> =>
	Object.fromEntries(dials.filter(({ leftOut }) => !leftOut).map(({ key, value }) => [key, value]));

export const presetOf = ({ presets, preset }: GeneratorDocument): Preset | null =>
	presets.find(({ id }) => id === preset) ?? null;

/** The dials that stand otherwise than in the preset that was taken last. */
export function changedSince(document: GeneratorDocument): Dial[] {
	const preset = presetOf(document);
	if (!preset) return [];
	return document.dials.filter(
		({ key, value, leftOut }) =>
			!leftOut &&
			Object.hasOwn(preset.values, key) &&
			!isSame(withoutStream(preset.values[key]), withoutStream(value))
	);
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

/** A preset with the dials as they are, or with other words or another picture. */
export function withPresetChanged(
	document: GeneratorDocument,
	id: string,
	change: Partial<Pick<Preset, 'name' | 'says' | 'picture' | 'values'>>
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
	const turned = withDialValues(document, preset.values, say);
	return settled(turned.preset === id ? turned : { ...turned, preset: id }, document);
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
