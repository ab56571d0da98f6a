/** Keys that are chosen in the timeline, of one setting or of several: moved, scaled in time, copied and taken away together. */
import { toast } from 'svelte-sonner';
import type { Key, KeysPlace, KeysSetting, Setting } from '$core/engine/index';
import {
	isKeyable,
	isSamePlace,
	mayHoldKeys,
	sortedKeys,
	withoutItsKeys,
	withKeysMoved,
	withoutKeys
} from '$core/engine/index';
import type { Editor } from './editor.svelte';

/** A key by the setting that has it, and its frame. */
export interface KeyAt extends KeysPlace {
	at: number;
}
const nameOf = ({ node, setting, at }: KeyAt): string => JSON.stringify([node, setting, at]);
const keyNamed = (name: string): KeyAt => {
	const [node, setting, at] = JSON.parse(name) as [string, string, number];
	return { node, setting, at };
};

export class KeySelection {
	readonly #editor: Editor;
	#chosen = $state.raw<ReadonlySet<string>>(new Set());
	/** Keys that were copied, each with the setting that it was of. */
	copied = $state.raw<readonly { node: string; setting: string; key: Key }[]>([]);

	constructor(editor: Editor) {
		this.#editor = editor;
	}

	/** Those that are still there. */
	readonly keys: readonly KeyAt[] = $derived.by(() =>
		[...this.#chosen]
			.map(keyNamed)
			.filter((one) => this.#editor.playing.keysAt(one)?.keys.some(({ at }) => at === one.at))
	);

	has(key: KeyAt): boolean {
		return this.#chosen.has(nameOf(key));
	}
	/** Chooses a key alone, or beside the others; one that is chosen already is let go then. */
	choose(key: KeyAt, beside = false): void {
		const name = nameOf(key);
		if (!beside) {
			this.#chosen = new Set([name]);
			return;
		}
		const next = new Set(this.#chosen);
		if (!next.delete(name)) next.add(name);
		this.#chosen = next;
	}
	clear(): void {
		this.#chosen = new Set();
	}

	/** Changes the settings that have chosen keys, as one step. */
	#change(label: string, to: (setting: KeysSetting, frames: ReadonlySet<number>) => Setting): void {
		const frames = new Map<string, { place: KeysPlace; at: Set<number> }>();
		for (const { node, setting, at } of this.keys) {
			const name = JSON.stringify([node, setting]);
			const own = frames.get(name) ?? { place: { node, setting }, at: new Set<number>() };
			frames.set(name, own);
			own.at.add(at);
		}
		this.#editor.playing.put(
			label,
			[...frames.values()].map(({ place, at }) => [place, to(this.#editor.playing.keysAt(place)!, at)])
		);
	}

	/** Every chosen key at another frame; those that come to lie on others take their places. */
	place(label: string, to: (frame: number) => number): void {
		const placed = new Set(this.keys.map((key) => nameOf({ ...key, at: Math.round(to(key.at)) })));
		this.#change(label, (setting, frames) => withKeysMoved(setting, frames, to));
		this.#chosen = placed;
	}
	move(by: number): void {
		if (by) this.place('Move keys', (frame) => frame + by);
	}
	/** Nearer to a frame, or further from it. */
	scale(factor: number, about: number): void {
		if (!(factor > 0))
			return void toast.error(
				'Keys are scaled by a number above 0: 2 makes them twice as slow, 0.5 twice as fast.'
			);
		this.place('Scale keys in time', (frame) => about + (frame - about) * factor);
	}
	remove(): void {
		this.#change('Delete keys', withoutKeys);
		this.clear();
	}

	copy(): void {
		this.copied = this.keys.flatMap(({ node, setting, at }) => {
			const key = this.#editor.playing.keysAt({ node, setting })?.keys.find((one) => one.at === at);
			return key ? [{ node, setting, key }] : [];
		});
	}
	/** Whether all that was copied is of one setting: it can go onto another. */
	get isOfOne(): boolean {
		const [first] = this.copied;
		return !!first && this.copied.every((one) => isSamePlace(one, first));
	}
	/** Whether what was copied can stand at a place. */
	mayPasteOnto(place: KeysPlace): boolean {
		const { playing, document, graphId } = this.#editor;
		const keys = { keys: this.copied.map(({ key }) => key) };
		return (
			playing.mayHaveKeys(place) &&
			isKeyable(withoutItsKeys(playing.rawAt(place) ?? 0)) &&
			mayHoldKeys(document, graphId, place, keys)
		);
	}
	/** Puts what was copied so that the first of it lies at a frame, each with the setting that it was of, or with another. */
	paste(frame: number, onto: KeysPlace | null = null): void {
		const first = Math.min(...this.copied.map(({ key }) => key.at));
		const put = this.copied.map(({ node, setting, key }) => ({
			node: onto?.node ?? node,
			setting: onto?.setting ?? setting,
			key: { ...key, at: key.at - first + frame }
		}));
		const byPlace = new Map<string, { place: KeysPlace; keys: Key[] }>();
		for (const { node, setting, key } of put) {
			const name = JSON.stringify([node, setting]);
			const own = byPlace.get(name) ?? { place: { node, setting }, keys: [] };
			byPlace.set(name, own);
			own.keys.push(key);
		}
		this.#editor.playing.put(
			'Paste keys',
			[...byPlace.values()].flatMap(({ place, keys }): [KeysPlace, Setting][] => {
				const raw = this.#editor.playing.keysAt(place) ?? (onto && { keys: [] });
				// What is pasted comes later, so it counts where there was one already.
				return raw ? [[place, { ...raw, keys: sortedKeys({ keys: [...raw.keys, ...keys] }) }]] : [];
			})
		);
		this.#chosen = new Set(put.map(({ node, setting, key }) => nameOf({ node, setting, at: key.at })));
	}
}
