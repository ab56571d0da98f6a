/** Keys of some settings as curves over time: what is drawn, and what dragging a key or a handle makes of them. */
import type { Key, KeyedRow, KeysSetting } from '$core/engine/index';
import { isRange, isSamePlace, settingAt, sortedKeys } from '$core/engine/index';
import type { Editor } from '$lib/editor/editor.svelte';

/** A number of a setting that changes: itself, a part of it, or an end of its range. */
export interface Line {
	row: KeyedRow;
	part: number;
	name: string;
	setting: KeysSetting;
}
/** A dot on a line: a key, or one of the two handles that shape the way to the next. */
export interface Dot {
	line: Line;
	key: Key;
	/** 0 for the key, 1 for the handle behind it, 2 for that before the next. */
	handle: 0 | 1 | 2;
	frame: number;
	value: number;
}

/** The numbers of a value; none where it is not a number. */
export function partsOf(value: unknown): number[] {
	if (typeof value === 'number') return [value];
	if (Array.isArray(value))
		return value.every((part) => typeof part === 'number') ? [...(value as number[])] : [];
	return isRange(value) && 'low' in value ? [value.low, value.high] : [];
}
export function withPart(value: Key['value'], k: number, next: number): Key['value'] {
	if (Array.isArray(value))
		return value.map((part, i) => (i === k ? next : part)) as [number, number, number];
	if (isRange(value) && 'low' in value) return { ...value, [k ? 'high' : 'low']: next };
	return next;
}
const USUAL: readonly [number, number, number, number] = [0.4, 0, 0.6, 1];
const share = (x: number) => Math.max(0, Math.min(1, x));
const tidy = (x: number) => Number(x.toPrecision(6));

export class KeyCurves {
	readonly #editor: Editor;
	readonly #rows: () => readonly KeyedRow[];
	/** While a dot is dragged, the setting as it would be. */
	#drag = $state.raw<{ dot: Dot; setting: KeysSetting } | null>(null);

	constructor(editor: Editor, rows: () => readonly KeyedRow[]) {
		this.#editor = editor;
		this.#rows = rows;
	}

	readonly lines: readonly Line[] = $derived.by(() =>
		this.#rows().flatMap((row) => {
			const held = this.#drag;
			const isHeld = !!held && isSamePlace(held.dot.line.row, row);
			const raw = isHeld ? held.setting : this.#editor.playing.keysAt(row);
			if (!raw) return [];
			const count = partsOf(raw.keys[0].value).length;
			return Array.from({ length: count }, (_, part): Line => {
				const names = count === 3 ? 'xyz' : '';
				return {
					row,
					part,
					name: `${row.name}${count > 1 ? ` ${names[part] ?? part + 1}` : ''}`,
					setting: raw
				};
			});
		})
	);

	readonly dots: readonly Dot[] = $derived.by(() =>
		this.lines.flatMap((line) => {
			const keys = sortedKeys(line.setting);
			return keys.flatMap((key, i): Dot[] => {
				const value = partsOf(key.value)[line.part];
				const dot: Dot = { line, key, handle: 0, frame: key.at, value };
				const next = keys.at(i + 1);
				if (key.easing !== 'bezier' || !next) return [dot];
				const to = partsOf(next.value)[line.part];
				const [x1, y1, x2, y2] = key.handles ?? USUAL;
				const at = (x: number, y: number, handle: 1 | 2): Dot => ({
					...dot,
					handle,
					frame: key.at + x * (next.at - key.at),
					value: value + y * (to - value)
				});
				return [dot, at(x1, y1, 1), at(x2, y2, 2)];
			});
		})
	);

	valueAt({ setting, part }: Line, frame: number): number {
		return partsOf(settingAt(setting, frame))[part];
	}

	get isHeld(): boolean {
		return this.#drag !== null;
	}
	hold(dot: Dot): void {
		this.#drag = { dot, setting: dot.line.setting };
	}
	/** The dot that is held comes to a frame and a value. */
	drag(frame: number, value: number): void {
		if (this.#drag) this.#drag = { ...this.#drag, setting: moved(this.#drag.dot, frame, value) };
	}
	letGo(): void {
		const drag = this.#drag;
		this.#drag = null;
		if (drag && drag.setting !== drag.dot.line.setting)
			this.#put(drag.dot.line.row, drag.setting, 'Move a key');
	}
	/** From the keyboard. */
	nudge(dot: Dot, frames: number, values: number): void {
		this.#put(dot.line.row, moved(dot, dot.frame + frames, dot.value + values), 'Move a key');
	}
	#put(row: KeyedRow, setting: KeysSetting, label: string): void {
		this.#editor.playing.put(label, [[row, setting]]);
	}
}

/** A setting with one of its dots elsewhere. A key stays between its neighbours; a handle's share of the way lies within it. */
function moved({ line: { setting, part }, key, handle }: Dot, frame: number, value: number): KeysSetting {
	const keys = sortedKeys(setting);
	const i = keys.findIndex(({ at }) => at === key.at);
	const next = keys.at(i + 1);
	if (handle === 0) {
		const low = i > 0 ? keys[i - 1].at + 1 : -Infinity;
		const high = next ? next.at - 1 : Infinity;
		const at = Math.max(low, Math.min(high, Math.round(frame)));
		return put(setting, key, { at, value: withPart(key.value, part, tidy(value)) });
	}
	if (!next) return setting;
	const from = partsOf(key.value)[part];
	const way = partsOf(next.value)[part] - from;
	const handles: [number, number, number, number] = [...(key.handles ?? USUAL)];
	const k = handle === 1 ? 0 : 2;
	handles[k] = tidy(share((frame - key.at) / (next.at - key.at)));
	// Where both keys are as high, a handle has no height of its own.
	if (way !== 0) handles[k + 1] = tidy((value - from) / way);
	return put(setting, key, { handles });
}

const put = (setting: KeysSetting, key: Key, change: Partial<Key>): KeysSetting => ({
	...setting,
	keys: sortedKeys({ keys: setting.keys.map((one) => (one.at === key.at ? { ...one, ...change } : one)) })
});
