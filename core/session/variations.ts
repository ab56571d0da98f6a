/** Variations of a generator for its specimen sheet: other seeds, with dials within ranges, or one dial at listed values. */
import { NodeError, mix, mixText, toUnit } from '../math/index.ts';
import type { GeneratorDocument, Setting } from '../engine/index.ts';
import { dialOf, isRange, settled, withDialValues } from '../engine/index.ts';
import { dialValue } from './choices.ts';

export interface Variation {
	seed: number;
	values: Readonly<Record<string, Setting>>;
	/** What it is called on the sheet. */
	label: string;
}

/** What a sheet shall show. */
export interface SheetWanted {
	/** How many: 12 to 60. */
	count: number;
	/** The first seed; those of the others follow it. */
	from: number;
	/** Dials that vary too, each between two numbers. */
	dials?: readonly { key: string; low: number; high: number }[];
	/** One dial at these values, as they are typed, all with the first seed. */
	listed?: { key: string; values: readonly string[] };
}

export const SHEET_COUNTS = [12, 24, 36, 60] as const;
const MOST_SEED = 4294967295;

/** The variations of a sheet. Throws a NodeError where a listed value cannot be. */
export function variationsOf(
	document: GeneratorDocument,
	{ count, from, dials = [], listed }: SheetWanted
): Variation[] {
	if (listed) {
		const dial = dialOf(document, listed.key);
		if (!dial) throw new NodeError('There is no such dial any more.');
		return listed.values.slice(0, 60).map((text) => ({
			seed: from,
			values: { [dial.key]: dialValue(dial, text) },
			label: `${dial.name} ${text}`
		}));
	}
	return Array.from({ length: count }, (_, i) => {
		const seed = from + i <= MOST_SEED ? from + i : from + i - MOST_SEED - 1;
		const values = Object.fromEntries(
			dials.map(({ key, low, high }): [string, number] => {
				// Each dial draws by itself, from the variation's own seed.
				const share = toUnit(mix(mixText(seed | 0, `sheet ${key}`), 1));
				const value = low + (high - low) * share;
				return [
					key,
					dialOf(document, key)?.kind === 'whole' ? Math.round(value) : Number(value.toPrecision(4))
				];
			})
		);
		return { seed, values, label: `Seed ${seed}` };
	});
}

/** The generator as a variation has it. */
export const varied = (document: GeneratorDocument, { seed, values }: Variation): GeneratorDocument => {
	const ranged = Object.fromEntries(
		Object.entries(values).map(([key, value]) => {
			const now = dialOf(document, key)?.value;
			// A number for a dial that is a random range moves it, and leaves it as wide as it is.
			if (typeof value !== 'number' || !now || !isRange(now)) return [key, value];
			const half = 'low' in now ? (now.high - now.low) / 2 : now.variation;
			return [key, { low: value - half, high: value + half, stream: now.stream }];
		})
	);
	const seeded = document.seed === seed ? document : { ...document, seed };
	return settled(withDialValues(seeded, ranged), seeded);
};
