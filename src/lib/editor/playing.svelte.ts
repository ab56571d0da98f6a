/** The frame that is looked at, and playing: frames are asked for one after another, each when the last one is there. */
import { toast } from 'svelte-sonner';
import type {
	Frames,
	GeneratorDocument,
	GraphNode,
	Key,
	KeyedRow,
	KeysPlace,
	KeysSetting,
	Setting
} from '$core/engine/index';
import {
	framesOf,
	inputOf,
	isKeyable,
	isKeys,
	PARTS,
	cutPart,
	dialOf,
	documentAt,
	keyedParts,
	keyedRows,
	keysAtPlace,
	mayDialHaveKeys,
	mayHaveKeys,
	partName,
	settingAt,
	settingAtPlace,
	settingOf,
	whatMoves,
	whyNoFrames,
	withFrames,
	withKey,
	withKeysMoved,
	withPart,
	withSettingAtPlace,
	withoutKeys
} from '$core/engine/index';
import { keepPlayhead, playheadOf } from '$lib/store/playheads';
import type { Hand } from './hand';

/** Milliseconds after which the playhead counts as left where it stands. */
const RESTS = 400;

export type Goes = 'once' | 'over' | 'back';

type PlayingHand = Hand & {
	readonly saving: { readonly keeps: boolean };
	readonly evaluation: { readonly restarts: number; readonly working: boolean };
};

export class Playing {
	readonly #editor: PlayingHand;
	/** Null until it was moved, or where it stood last. */
	#frame = $state<number | null>(null);
	on = $state(false);
	goes = $state<Goes>('over');
	speed = $state(1);
	/** Whether frames are left out where they take too long. */
	inRealTime = $state(true);
	/** While recording, what is set by a handle or by hand becomes a key. */
	records = $state(false);
	/** Frames a second that were reached. */
	reached = $state(0);
	#direction = 1;
	/** The picture for which the next frame is asked: one at a time, however often play is pressed. */
	#asked = 0;
	#restarts = 0;
	#began = 0;
	#from = 0;
	#shown: number[] = [];

	constructor(editor: PlayingHand) {
		this.#editor = editor;
		this.#frame = editor.saving.keeps ? playheadOf(editor.id) : null;
	}

	/** Where the playhead stands is kept, once it rests. */
	readonly #keep = (): void => {
		clearTimeout(this.#resting);
		this.#resting = setTimeout(this.keepNow, RESTS);
	};
	#resting: ReturnType<typeof setTimeout> | undefined;
	keepNow = (): void => {
		clearTimeout(this.#resting);
		if (this.#frame !== null && this.#editor.saving.keeps) keepPlayhead(this.#editor.id, this.frame);
	};

	get frames(): Frames {
		return framesOf(this.#editor.document);
	}
	/** The frame of the playhead. */
	get frame(): number {
		const { first, last } = this.frames;
		return Math.max(first, Math.min(last, this.#frame ?? first));
	}
	/** Which nodes of the graph that is edited move, and why. */
	readonly moving: ReadonlyMap<string, string> = $derived.by(() =>
		whatMoves(this.#editor.document, this.#editor.graphId)
	);
	/** The dials, and the settings of that graph, that have keys. */
	readonly rows: readonly KeyedRow[] = $derived.by(() =>
		keyedRows(this.#editor.document, this.#editor.graphId)
	);
	/** The document as it is at the frame. */
	readonly now: GeneratorDocument = $derived.by(() => documentAt(this.#editor.document, this.frame));

	/** Moves the playhead. */
	seek(frame: number): void {
		const { first, last } = this.frames;
		const next = Math.max(first, Math.min(last, Math.round(frame)));
		this.#began = performance.now();
		this.#from = next;
		if (next === this.frame) return;
		this.#frame = next;
		this.#keep();
		this.#editor.evaluate();
	}
	step = (by: number): void => this.seek(this.frame + by);
	toStart = (): void => this.seek(this.frames.first);
	toEnd = (): void => this.seek(this.frames.last);

	toggle = (): void => {
		if (this.on) return this.stop();
		const { first, last } = this.frames;
		this.#direction = 1;
		if (this.goes === 'once' && this.frame === last) this.seek(first);
		this.on = true;
		this.#began = performance.now();
		this.#from = this.frame;
		this.#shown = [];
		this.#restarts = this.#editor.evaluation.restarts;
		this.#asked = requestAnimationFrame(this.#next);
	};
	stop(): void {
		if (this.on) {
			cancelAnimationFrame(this.#asked);
			this.#keep();
		}
		this.on = false;
		this.reached = 0;
	}

	readonly #next = (): void => {
		if (!this.on) return;
		const { evaluation } = this.#editor;
		// What did not answer at one frame may not answer at the next.
		if (evaluation.restarts !== this.#restarts) return this.stop();
		this.#asked = requestAnimationFrame(this.#next);
		// A frame is asked for when the last one stands; an edit comes in between as it likes.
		if (evaluation.working) return;
		const now = performance.now();
		const { rate } = this.frames;
		const due = ((now - this.#began) / 1000) * rate * this.speed;
		// A tab that was put away does not make up for the time.
		if (due > 2 * rate * Math.max(1, this.speed)) this.#began = now;
		const wanted = this.inRealTime ? Math.floor(due) : due >= 1 ? 1 : 0;
		if (wanted < 1) return;
		const frame = this.#after(this.#from, wanted);
		this.#shown = [...this.#shown.filter((at) => now - at < 1000), now];
		this.reached = this.#shown.length;
		this.#began += (wanted / rate / this.speed) * 1000;
		if (!this.inRealTime) this.#began = now;
		this.#from = frame;
		if (frame === this.frame) return;
		this.#frame = frame;
		this.#editor.evaluate();
	};

	/** The frame so many after another, as it goes at the ends. */
	#after(from: number, steps: number): number {
		const { first, last } = this.frames;
		const span = last - first;
		if (span === 0) return first;
		if (this.goes === 'once') {
			if (from + steps >= last) this.stop();
			return Math.min(last, from + steps);
		}
		if (this.goes === 'over') return first + ((from - first + steps) % (span + 1));
		let frame = from;
		for (let s = 0; s < steps % (2 * span); s++) {
			if (frame + this.#direction > last || frame + this.#direction < first) this.#direction *= -1;
			frame += this.#direction;
		}
		return frame;
	}

	setFrames(change: Partial<Frames>): void {
		const frames = { ...this.frames, ...change };
		const why = whyNoFrames(frames);
		if (why) return void toast.error(why);
		this.#editor.change('Change the frames', (document) => withFrames(document, frames));
	}

	/** What stands at a place, its keys and all. */
	rawAt = (place: KeysPlace): Setting | undefined =>
		settingAtPlace(this.#editor.document, this.#editor.graphId, place);
	keysAt = (place: KeysPlace): KeysSetting | null =>
		keysAtPlace(this.#editor.document, this.#editor.graphId, place);
	/** Whether what stands at a place may have keys. */
	mayHaveKeys({ node, setting }: KeysPlace): boolean {
		if (!node) {
			const dial = dialOf(this.#editor.document, setting);
			return !!dial && mayDialHaveKeys(dial);
		}
		const one = this.#editor.node(node);
		const input = one && inputOf(one, setting);
		return !!input && mayHaveKeys(one, setting, input);
	}

	/** Sets a key at a frame, as the setting is there or at the playhead. The playhead stays where it is. */
	setKey(place: KeysPlace, frame = this.frame): void {
		const raw = this.rawAt(place);
		if (raw === undefined) return;
		// A vector of which some parts have keys of their own: each part gets one.
		if (keyedParts(raw).length)
			return this.put(
				`Set keys at frame ${frame}`,
				PARTS.flatMap((part) => {
					const of = { ...place, setting: partName(place.setting, part) };
					const one = this.rawAt(of)!;
					const now = isKeys(one) ? settingAt(one, frame) : one;
					return isKeyable(now) ? [[of, withKey(one, frame, now)] as const] : [];
				})
			);
		const value = isKeys(raw) ? settingAt(raw, frame) : raw;
		if (!this.mayHaveKeys(place) || !isKeyable(value))
			return void toast.error(
				`“${this.#labelOf(place)}” is a formula or the like: only plain values have keys.`
			);
		this.#put(place, withKey(raw, frame, value), `Set a key at frame ${frame}`);
	}
	#labelOf({ node, setting }: KeysPlace): string {
		if (!node) return dialOf(this.#editor.document, setting)?.name ?? setting;
		const one = this.#editor.node(node);
		return (one && inputOf(one, setting)?.label) ?? setting;
	}

	/** What is set when a setting is set by hand, by its name: keys, where it has such or while recording. */
	asSet(node: GraphNode, name: string, value: Setting): [name: string, setting: Setting] {
		const input = inputOf(node, name);
		if (!input) return [name, value];
		const cut = cutPart(name);
		const whole = cut && this.rawAt({ node: node.id, setting: cut.whole });
		// A part of what has keys as a whole: a key of the whole.
		if (cut && whole && isKeys(whole)) {
			const next = withPart(settingAt(whole, this.frame), cut.part, value as number);
			return [cut.whole, isKeyable(next) ? withKey(whole, this.frame, next) : next];
		}
		const raw = settingOf(node, name, input);
		return [name, this.#asKey(raw, value, mayHaveKeys(node, name, input))];
	}
	/** What a dial becomes when it is turned. */
	asTurned(key: string, value: Setting): Setting {
		const dial = dialOf(this.#editor.document, key);
		return dial ? this.#asKey(dial.value, value, mayDialHaveKeys(dial)) : value;
	}
	#asKey(raw: Setting, value: Setting, mayHave: boolean): Setting {
		// Of a vector whose parts have keys of their own, those that are set to something else get one.
		if (keyedParts(raw).length && Array.isArray(raw) && Array.isArray(value))
			return PARTS.map((k) => {
				const part = raw[k];
				const isAsBefore = isKeys(part) && settingAt(part, this.frame) === value[k];
				return isAsBefore ? part : this.#asKey(part, value[k], mayHave);
			}) as Setting;
		const isMeant = isKeys(raw) || (this.records && mayHave);
		return isMeant && isKeyable(value) ? withKey(raw, this.frame, value) : value;
	}

	removeKeys(place: KeysPlace, frames: ReadonlySet<number>): void {
		const raw = this.keysAt(place);
		if (raw) this.#put(place, withoutKeys(raw, frames), 'Delete keys');
	}
	moveKeys(place: KeysPlace, frames: ReadonlySet<number>, to: (frame: number) => number): void {
		const raw = this.keysAt(place);
		if (raw) this.#put(place, withKeysMoved(raw, frames, to), 'Move keys');
	}
	changeKey(place: KeysPlace, frame: number, change: Partial<Key>): void {
		const raw = this.keysAt(place);
		if (!raw) return;
		const keys = raw.keys.map((key) => (key.at === frame ? { ...key, ...change } : key));
		this.#put(place, { ...raw, keys }, 'Change a key');
	}
	setEnds(place: KeysPlace, ends: Pick<KeysSetting, 'before' | 'after'>): void {
		const raw = this.keysAt(place);
		if (raw) this.#put(place, { ...raw, ...ends }, 'Change how it goes on');
	}

	#put(place: KeysPlace, value: Setting, label: string): void {
		this.put(label, [[place, value]]);
	}
	/** Puts settings, keys and all, at their places, as one step. */
	put(label: string, settings: readonly (readonly [KeysPlace, Setting])[]): void {
		const { graphId } = this.#editor;
		this.#editor.change(label, (document) =>
			settings.reduce((made, [place, value]) => withSettingAtPlace(made, graphId, place, value), document)
		);
	}
}
