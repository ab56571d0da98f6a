/** Settings that change with time: what they are at a frame, and a node as it is then. */
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { readRamp, tableOfRamp } from '../varying/index.ts';
import type { GraphNode, Key, KeysSetting, RandomRange, Setting } from './document.ts';
import { endsOf, isKeys, isRamp, isRange, keyValue } from './document.ts';
import { keyedParts, partName, wholeOf, withPartKeys } from './vector-parts.ts';

/** Keys in the order of their frames; of two at one frame the later one counts. */
export function sortedKeys({ keys }: KeysSetting): Key[] {
	const byFrame = new Map(keys.map((key) => [key.at, key]));
	return [...byFrame.values()].sort((a, b) => a.at - b.at);
}

const sortedKnown = new WeakMap<KeysSetting, Key[]>();
function keysOf(setting: KeysSetting): Key[] {
	let keys = sortedKnown.get(setting);
	if (!keys) sortedKnown.set(setting, (keys = sortedKeys(setting)));
	return keys;
}

/** How far it is from a key to the next one, from 0 to 1 and beyond, at a share of the way. */
function eased({ easing, handles }: Key, share: number): number {
	if (easing === 'linear') return share;
	if (easing === 'held') return share >= 1 ? 1 : 0;
	const out = new Float64Array(1);
	const stops = [
		{ at: 0, value: 0, easing, ...(handles && { handles }) },
		{ at: 1, value: 1, easing }
	];
	readRamp(tableOfRamp({ stops }, 1), 1, 1, Float64Array.of(share), [out]);
	return out[0];
}

/** How steeply it leaves a key, or comes to the next: shares of the way up by shares of the way along. */
function slopeOf({ easing, handles: [x1, y1, x2, y2] = [0.4, 0, 0.6, 1] }: Key, atEnd: boolean): number {
	if (easing === 'linear') return 1;
	if (easing !== 'bezier') return 0;
	const [along, up] = atEnd ? [1 - x2, 1 - y2] : [x1, y1];
	return along > 0 ? up / along : 0;
}

const mixed = (a: number, b: number, t: number): number => (t === 0 ? a : t === 1 ? b : a + (b - a) * t);

function mixRanges(a: RandomRange, b: RandomRange, t: number): RandomRange {
	// Its numbers are always drawn from the stream of the first.
	if ('base' in a && 'base' in b)
		return {
			base: mixed(a.base, b.base, t),
			variation: Math.max(0, mixed(a.variation, b.variation, t)),
			stream: a.stream
		};
	const [[low, high], [lower, higher]] = [endsOf(a), endsOf(b)];
	return { low: mixed(low, lower, t), high: mixed(high, higher, t), stream: a.stream };
}

/** Between two values; what cannot be mixed, as words, is the first until the second is reached. */
function between(a: Setting, b: Setting, t: number): Setting {
	if (typeof a === 'number' && typeof b === 'number') return mixed(a, b, t);
	if (isRange(a) && isRange(b)) return mixRanges(a, b, t);
	if (isRange(a) && typeof b === 'number') return mixRanges(a, { low: b, high: b, stream: a.stream }, t);
	if (typeof a === 'number' && isRange(b)) return mixRanges({ low: a, high: a, stream: b.stream }, b, t);
	if (Array.isArray(a) && Array.isArray(b))
		return a.map((part, k) => between(part, (b as Setting[])[k], t)) as unknown as Setting;
	if (isRamp(a) && isRamp(b) && a.stops.length === b.stops.length) {
		const share = (x: number) => Math.max(0, Math.min(1, x));
		return {
			stops: a.stops.map((stop, i) => {
				const other = b.stops[i];
				return {
					...stop,
					at: share(mixed(stop.at, other.at, t)),
					value: mixed(stop.value, other.value, t),
					...(stop.colour &&
						other.colour && {
							colour: stop.colour.map((part, k) => mixed(part, other.colour![k], t)) as [
								number,
								number,
								number
							]
						})
				};
			})
		};
	}
	return t >= 1 ? b : a;
}

/** Whether a value can be a key's: plain ones can, formulas and curves cannot. */
export const isKeyable = (value: Setting): value is Key['value'] => keyValue.safeParse(value).success;

const KEYED: ReadonlySet<string> = new Set([
	'number',
	'vector',
	'yesno',
	'colour',
	'value',
	'choice',
	'ramp'
]);

/** Whether a setting may have keys: what a node is made of, as its rows, its body or its ports, stays as it is. */
export const mayHaveKeys = ({ kind }: GraphNode, name: string, input: InputDefinition): boolean =>
	KEYED.has(input.kind) &&
	name !== 'rows' &&
	!(nodeKinds.get(kind)?.ownPorts && Object.hasOwn(nodeKinds.get(kind)!.inputs, name));

/** What a keyed setting is at a frame, or between two. */
export function settingAt(setting: KeysSetting, frame: number): Setting {
	const keys = keysOf(setting);
	const [first, last] = [keys[0], keys[keys.length - 1]];
	const span = last.at - first.at;
	if (span === 0) return first.value;
	const end = frame < first.at ? setting.before : frame > last.at ? setting.after : 'hold';
	let at = frame;
	if (end === 'loop') at = first.at + floored(frame - first.at, span);
	else if (end === 'back') {
		const there = floored(frame - first.at, 2 * span);
		at = first.at + (there <= span ? there : 2 * span - there);
	} else if (end === 'on' && frame !== first.at) {
		const isAfter = frame > last.at;
		const [a, b] = isAfter ? keys.slice(-2) : keys;
		const share = ((frame - (isAfter ? b.at : a.at)) / (b.at - a.at)) * slopeOf(a, isAfter);
		return between(a.value, b.value, isAfter ? 1 + share : share);
	}
	if (at <= first.at) return first.value;
	if (at >= last.at) return last.value;
	const i = keys.findLastIndex((key) => key.at <= at);
	const [a, b] = [keys[i], keys[i + 1]];
	return between(a.value, b.value, eased(a, (at - a.at) / (b.at - a.at)));
}

const floored = (x: number, by: number): number => x - by * Math.floor(x / by);

/** A setting with a key at a frame; the key that was there goes. One that had none begins with it. */
export function withKey(
	setting: Setting | undefined,
	frame: number,
	value: Setting,
	easing: Key['easing'] = 'smooth'
): KeysSetting {
	const before = isKeys(setting) ? setting : { keys: [] };
	const old = before.keys.find((key) => key.at === frame);
	const key = { ...(old ?? { easing }), at: frame, value: value as Key['value'] };
	return { ...before, keys: sortedKeys({ keys: [...before.keys.filter((one) => one.at !== frame), key] }) };
}

/** A setting without the keys at some frames: what it was at the last of them where none is left. */
export function withoutKeys(setting: KeysSetting, frames: ReadonlySet<number>): Setting {
	const keys = setting.keys.filter(({ at }) => !frames.has(at));
	return keys.length ? { ...setting, keys } : sortedKeys(setting)[setting.keys.length - 1].value;
}

/** Keys at other frames: moved, or scaled about a frame, to whole frames. What comes to lie on another takes its place. */
export function withKeysMoved(
	setting: KeysSetting,
	frames: ReadonlySet<number>,
	to: (frame: number) => number
): KeysSetting {
	const stay = setting.keys.filter(({ at }) => !frames.has(at));
	const moved = setting.keys
		.filter(({ at }) => frames.has(at))
		.map((key) => ({ ...key, at: Math.round(to(key.at)) }));
	return { ...setting, keys: sortedKeys({ keys: [...stay, ...moved] }) };
}

/** The settings of a node that have keys, and the parts of vectors that have their own. */
export function keyedNames(node: GraphNode): readonly string[] {
	let names = namesKnown.get(node);
	if (!names) {
		names = Object.entries(node.settings).flatMap(([name, setting]) =>
			isKeys(setting) ? [name] : keyedParts(setting).map((part) => partName(name, part))
		);
		namesKnown.set(node, names);
	}
	return names;
}
const namesKnown = new WeakMap<GraphNode, readonly string[]>();

const MOST_STATES = 64;
const statesOf = new WeakMap<GraphNode, Map<string, GraphNode>>();

/** A node as it is at a frame. The same object as long as all that it holds is the same. */
export function nodeAt(node: GraphNode, frame: number): GraphNode {
	const names = keyedNames(node);
	if (!names.length) return node;
	const wholes = new Set(names.map(wholeOf));
	const values = [...wholes].map((name): [string, Setting] => {
		const setting = node.settings[name];
		return [
			name,
			isKeys(setting) ? settingAt(setting, frame) : withPartKeys(setting, (keys) => settingAt(keys, frame))
		];
	});
	const held = JSON.stringify(values);
	let states = statesOf.get(node);
	if (!states) statesOf.set(node, (states = new Map()));
	let state = states.get(held);
	if (!state) {
		if (states.size >= MOST_STATES) states.delete(states.keys().next().value!);
		states.set(held, (state = { ...node, settings: { ...node.settings, ...Object.fromEntries(values) } }));
	}
	return state;
}
