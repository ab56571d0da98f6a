/** The frame that is looked at, and playing: frames are asked for one after another, each when the last one is there. */
import { toast } from 'svelte-sonner';
import type { Frames, GraphNode, Key, KeysSetting, Setting } from '$core/index';
import {
	framesOf,
	inputOf,
	isKeyable,
	isKeys,
	keyedNames,
	mayHaveKeys,
	settingAt,
	settingOf,
	whatMoves,
	whyNoFrames,
	withFrames,
	withKey,
	withKeysMoved,
	withoutKeys
} from '$core/index';
import type { Editor } from './editor.svelte';

export type Goes = 'once' | 'over' | 'back';

/** A setting with keys, as a row of the timeline. */
export interface KeyedRow {
	node: string;
	short: string;
	setting: string;
	label: string;
	keys: readonly Key[];
}

export class Playing {
	readonly #editor: Editor;
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
	#began = 0;
	#from = 0;
	#shown: number[] = [];

	constructor(editor: Editor) {
		this.#editor = editor;
	}

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
	/** The settings of that graph that have keys. */
	readonly rows: readonly KeyedRow[] = $derived.by(() =>
		this.#editor.graph.nodes.flatMap((node) =>
			keyedNames(node).map((setting) => ({
				node: node.id,
				short: node.short,
				setting,
				label: inputOf(node, setting)?.label ?? setting,
				keys: (node.settings[setting] as KeysSetting).keys
			}))
		)
	);

	/** Moves the playhead. */
	seek(frame: number): void {
		const { first, last } = this.frames;
		const next = Math.max(first, Math.min(last, Math.round(frame)));
		this.#began = performance.now();
		this.#from = next;
		if (next === this.frame) return;
		this.#frame = next;
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
		requestAnimationFrame(this.#next);
	};
	stop(): void {
		this.on = false;
		this.reached = 0;
	}

	readonly #next = (): void => {
		if (!this.on) return;
		requestAnimationFrame(this.#next);
		const { evaluation } = this.#editor;
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

	/** Sets a key at a frame, as the setting is there or at the playhead. The playhead stays where it is. */
	setKey(node: string, setting: string, frame = this.frame): void {
		const one = this.#editor.node(node);
		const input = one && inputOf(one, setting);
		if (!one || !input) return;
		const raw = settingOf(one, setting, input);
		const value = isKeys(raw) ? settingAt(raw, frame) : raw;
		if (!mayHaveKeys(one, setting, input) || !isKeyable(value))
			return void toast.error(`“${input.label}” is a formula or the like: only plain values have keys.`);
		this.#put(node, setting, withKey(raw, frame, value), `Set a key at frame ${frame}`);
	}
	/** What a setting becomes when it is set by hand: a key, where it has keys or while recording. */
	asKey(node: GraphNode, setting: string, value: Setting): Setting {
		const input = inputOf(node, setting);
		const raw = input ? settingOf(node, setting, input) : value;
		const isMeant = isKeys(raw) || (this.records && !!input && mayHaveKeys(node, setting, input));
		return isMeant && isKeyable(value) ? withKey(raw, this.frame, value) : value;
	}
	removeKeys(node: string, setting: string, frames: ReadonlySet<number>): void {
		const raw = this.#editor.node(node)?.settings[setting];
		if (isKeys(raw)) this.#put(node, setting, withoutKeys(raw, frames), 'Take keys away');
	}
	moveKeys(node: string, setting: string, frames: ReadonlySet<number>, to: (frame: number) => number): void {
		const raw = this.#editor.node(node)?.settings[setting];
		if (isKeys(raw)) this.#put(node, setting, withKeysMoved(raw, frames, to), 'Move keys');
	}
	changeKey(node: string, setting: string, frame: number, change: Partial<Key>): void {
		const raw = this.#editor.node(node)?.settings[setting];
		if (!isKeys(raw)) return;
		const keys = raw.keys.map((key) => (key.at === frame ? { ...key, ...change } : key));
		this.#put(node, setting, { ...raw, keys }, 'Change a key');
	}
	setEnds(node: string, setting: string, ends: Pick<KeysSetting, 'before' | 'after'>): void {
		const raw = this.#editor.node(node)?.settings[setting];
		if (isKeys(raw)) this.#put(node, setting, { ...raw, ...ends }, 'Change how it goes on');
	}

	#put(node: string, setting: string, value: Setting, label: string): void {
		this.#editor.changeGraph(label, (graph) => ({
			...graph,
			nodes: graph.nodes.map((one) =>
				one.id === node ? { ...one, settings: { ...one.settings, [setting]: value } } : one
			)
		}));
	}
}
