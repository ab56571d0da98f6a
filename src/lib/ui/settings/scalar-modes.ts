/** The ways in which one scalar may be set, and how it goes from one to another without losing what it says. */
import type { ScalarSetting } from '$core/engine/document';
import { endsOf, isFormula, isRange, newStream } from '$core/engine/document';
import { countRandoms, parseFormula } from '$core/varying/index';

export type Mode = 'plain' | 'ends' | 'around' | 'formula';

export function modeOf(setting: ScalarSetting): Mode {
	if (typeof setting === 'number') return 'plain';
	if (isFormula(setting)) return 'formula';
	return 'low' in setting ? 'ends' : 'around';
}

const tidy = (x: number) => Number(x.toFixed(6));

/** A formula, with as many streams as it draws random numbers; those of the formula before it go on. */
export function formulaFrom(text: string, before: ScalarSetting): ScalarSetting {
	const streams = isFormula(before) ? before.streams : [];
	let wanted: number;
	try {
		wanted = countRandoms(parseFormula(text));
	} catch {
		wanted = streams.length;
	}
	return { formula: text, streams: Array.from({ length: wanted }, (_, i) => streams[i] ?? newStream()) };
}

/** The setting in another mode: the nearest to what stands there. `otherwise` is the number where a formula tells none. */
export function inMode(mode: Mode, setting: ScalarSetting, whole: boolean, otherwise: number): ScalarSetting {
	const ends = isRange(setting) ? endsOf(setting) : null;
	const middle = typeof setting === 'number' ? setting : ends ? (ends[0] + ends[1]) / 2 : otherwise;
	const spread = whole
		? Math.max(1, Math.round(Math.abs(middle) / 4))
		: Number((Math.abs(middle) * 0.1 || 0.1).toFixed(4));
	const stream = isRange(setting) ? setting.stream : newStream();
	switch (mode) {
		case 'plain':
			return whole ? Math.round(middle) : tidy(middle);
		case 'ends': {
			const [low, high] = ends ?? [middle - spread, middle + spread];
			return { low: tidy(low), high: tidy(high), stream };
		}
		case 'around':
			return { base: tidy(middle), variation: tidy(ends ? (ends[1] - ends[0]) / 2 : spread), stream };
		case 'formula':
			if (isFormula(setting)) return setting;
			return formulaFrom(ends ? `random(${ends.join(', ')})` : String(middle), setting);
	}
}
