/** Placements: a generator set up by a user. It says only what differs, and so follows the generator as that is improved. */
import { z } from 'zod';
import type { GeneratorDocument, Setting } from './document.ts';
import {
	dialKey,
	framesSchema,
	keptSchema,
	nameSchema,
	presetSchema,
	settingSchema,
	slotContentSchema,
	viewSchema
} from './document.ts';
import { isSame, withDialValues } from './dials.ts';
import { settled } from './settle.ts';
import { isFilled, slotContents, withSlotFilled } from './slots.ts';

export const placementSchema = z.object({
	/** The generator of which it is. */
	generator: z.string().min(1).max(80),
	name: nameSchema,
	seed: z.number().int().min(0).max(4294967295),
	/** Dials that stand otherwise than in the generator. */
	values: z.record(dialKey, settingSchema),
	/** What is in slots. */
	slots: z.record(dialKey, slotContentSchema),
	/** The files that those read. */
	assets: z.record(z.string(), z.object({ name: nameSchema, bytes: z.number().int().min(0) })).default({}),
	preset: z.string().max(40).optional(),
	/** Presets and kept variations of the user's own, and those of the generator that the user has changed. */
	presets: z.array(presetSchema).max(500).default([]),
	kept: z.array(keptSchema).max(2000).default([]),
	/** The ids of those that the user has deleted. */
	gone: z.array(z.string().max(40)).max(2500).default([]),
	/** Where they are others than the generator's. */
	frames: framesSchema.refine(({ first, last }) => first <= last).optional(),
	view: viewSchema.optional()
});
export type Placement = z.infer<typeof placementSchema>;

/** A generator as a placement has it. What cannot be any more is told of, and the rest is done. */
export function placed(
	generator: GeneratorDocument,
	placement: Placement,
	say: (sentence: string) => void = () => {}
): GeneratorDocument {
	const known = <Row extends { id: string }>(own: readonly Row[], changed: readonly Row[]): Row[] => {
		const byId = new Map(changed.map((one) => [one.id, one]));
		const kept = own.filter(({ id }) => !placement.gone.includes(id)).map((one) => byId.get(one.id) ?? one);
		return [...kept, ...changed.filter(({ id }) => !own.some((one) => one.id === id))];
	};
	let made: GeneratorDocument = {
		...generator,
		seed: placement.seed,
		presets: known(generator.presets, placement.presets),
		kept: known(generator.kept, placement.kept),
		assets: { ...generator.assets, ...placement.assets },
		view: placement.view ?? generator.view
	};
	if (placement.frames) made = { ...made, frames: placement.frames };
	if (placement.preset !== undefined) made = { ...made, preset: placement.preset };
	for (const [key, content] of Object.entries(placement.slots)) {
		const filled = withSlotFilled(made, key, content);
		if (typeof filled === 'string') say(filled);
		else made = filled;
	}
	return settled(withDialValues(made, placement.values, say), made);
}

const isSameFrames = (a: GeneratorDocument, b: GeneratorDocument): boolean =>
	JSON.stringify(a.frames) === JSON.stringify(b.frames);

/** What of a document differs from its generator, as a placement. */
export function placementOf(
	document: GeneratorDocument,
	base: GeneratorDocument,
	{ generator, name }: Pick<Placement, 'generator' | 'name'>
): Placement {
	const values: Record<string, Setting> = {};
	for (const { key, value } of document.dials) {
		const was = base.dials.find((one) => one.key === key);
		if (!was || !isSame(was.value, value)) values[key] = value;
	}
	const contents = slotContents(document);
	const slots: Placement['slots'] = {};
	for (const { key } of document.slots) {
		if (contents[key] && isFilled(document, base, key)) slots[key] = contents[key];
	}
	const changed = <Row extends { id: string }>(rows: readonly Row[], own: readonly Row[]): Row[] =>
		rows.filter((row) => !own.some((one) => JSON.stringify(one) === JSON.stringify(row)));
	const gone = [...base.presets, ...base.kept].filter(
		({ id }) => ![...document.presets, ...document.kept].some((one) => one.id === id)
	);
	return {
		generator,
		name,
		seed: document.seed,
		values,
		slots,
		assets: Object.fromEntries(
			Object.entries(document.assets).filter(([hash]) => !Object.hasOwn(base.assets, hash))
		),
		...(document.preset !== undefined && { preset: document.preset }),
		presets: changed(document.presets, base.presets),
		kept: changed(document.kept, base.kept),
		gone: gone.map(({ id }) => id),
		...(document.frames && !isSameFrames(document, base) && { frames: document.frames }),
		view: document.view
	};
}

/** A document with a slot as its generator has it; all else that a user has done stays. */
export function withSlotEmptied(
	document: GeneratorDocument,
	base: GeneratorDocument,
	key: string
): GeneratorDocument {
	const placement = placementOf(document, base, { generator: '', name: '' });
	const { [key]: _content, ...slots } = placement.slots;
	void _content;
	return placed(base, { ...placement, slots });
}
