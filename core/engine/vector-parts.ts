/**
 * One part of a vector by itself. `size.y` names it wherever a setting is named: at the end of a wire, in the hand of a dial,
 * in a row of the timeline. Within its setting it is one of three: a value, a random range, a formula, or keys.
 */
import type { NumberInput, VectorInput } from '../nodes/index.ts';
import type { GraphNode, KeysSetting, PartSetting, Setting, TieEnd, Wire } from './document.ts';
import { isFormula, isKeys, isRange, withKeyValues } from './document.ts';

export type VectorPart = 0 | 1 | 2;
export const PARTS: readonly VectorPart[] = [0, 1, 2];
const LETTERS = ['x', 'y', 'z'] as const;

/** The name of a part: `size.y`. */
export const partName = (whole: string, part: VectorPart): string => `${whole}.${LETTERS[part]}`;

/** The vector of which a name names a part, and which; null where it names a whole setting. */
export function cutPart(name: string): { whole: string; part: VectorPart } | null {
	if (name.at(-2) !== '.') return null;
	const part = LETTERS.indexOf(name.at(-1) as 'x');
	return part < 0 ? null : { whole: name.slice(0, -2), part: part as VectorPart };
}

/** The setting of which a name names a part, or the one that it names. */
export const wholeOf = (name: string): string => cutPart(name)?.whole ?? name;
/** Whether a name names a setting, or a part of it. */
export const isOf = (name: string, whole: string): boolean =>
	name === whole || cutPart(name)?.whole === whole;
/** A name of a setting that is called otherwise now, or of a part of it; as it is where it is another's. */
export function renamedPart(name: string, from: string, to: string): string {
	if (name === from) return to;
	const cut = cutPart(name);
	return cut?.whole === from ? partName(to, cut.part) : name;
}

const inputs = new WeakMap<VectorInput, readonly NumberInput[]>();

/** A part of a vector as an input: a number like any other. Made once for each vector. */
export function partInput(whole: VectorInput, part: VectorPart): NumberInput {
	let all = inputs.get(whole);
	if (!all) {
		const { label, help, unit, min, varies, step, when, row } = whole;
		all = PARTS.map((k): NumberInput => ({
			kind: 'number',
			label: `${label} ${LETTERS[k]}`,
			help,
			default: whole.default[k],
			...(unit && { unit }),
			...(min !== undefined && { min }),
			...(varies && { varies }),
			...(step !== undefined && { step }),
			...(when && { when }),
			...(row !== undefined && { row })
		}));
		inputs.set(whole, all);
	}
	return all[part];
}

/** One part of what stands in a vector: of one value for all parts, that one; of keys of the whole, its keys. */
export function partOfSetting(setting: Setting, part: VectorPart): PartSetting {
	if (isKeys(setting)) return withKeyValues(setting, (value) => partOfSetting(value, part));
	if (Array.isArray(setting)) return setting[part];
	return typeof setting === 'number' || isRange(setting) || isFormula(setting) ? setting : 0;
}

/** A vector with another value in one part. */
export const withPart = (setting: Setting, part: VectorPart, value: PartSetting): Setting =>
	PARTS.map((k) => (k === part ? value : partOfSetting(setting, k))) as [
		PartSetting,
		PartSetting,
		PartSetting
	];

/** The settings of a node with one more, or another value in a part of one. `original` is where the vector begins. */
export function settingsWith(
	settings: GraphNode['settings'],
	name: string,
	value: Setting,
	original: Setting = 0
): GraphNode['settings'] {
	const cut = cutPart(name);
	if (!cut) return { ...settings, [name]: value };
	const before = Object.hasOwn(settings, cut.whole) ? settings[cut.whole] : original;
	return { ...settings, [cut.whole]: withPart(before, cut.part, value as PartSetting) };
}

/** The parts of a setting that have keys of their own. */
export const keyedParts = (setting: Setting): readonly VectorPart[] =>
	Array.isArray(setting) && setting.some(isKeys) ? PARTS.filter((k) => isKeys(setting[k])) : NO_PARTS;
const NO_PARTS: readonly VectorPart[] = [];

/** The part of a setting that has keys, changed by each. */
export const withPartKeys = (setting: Setting, change: (keys: KeysSetting) => Setting): Setting =>
	Array.isArray(setting)
		? (setting.map((part) => (isKeys(part) ? change(part) : part)) as typeof setting)
		: setting;

/** The wires among some that end at parts of a vector. */
export const wiresIntoParts = (wires: readonly Wire[], whole: string): readonly Wire[] =>
	wires.filter(({ to }) => cutPart(to[1])?.whole === whole);

/** An end of a tie at a setting by its name, which may be that of a part. */
export function endAt(graph: string, node: string, name: string): TieEnd {
	const cut = cutPart(name);
	return cut ? { graph, node, setting: cut.whole, part: cut.part } : { graph, node, setting: name };
}

/** The name of the setting, or of the part, at an end of a tie. */
export const nameAtEnd = ({ setting, part }: { setting: string; part?: number }): string =>
	part === undefined ? setting : partName(setting, part as VectorPart);
