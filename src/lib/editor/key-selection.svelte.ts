/** Keys that are chosen in the timeline, of one setting or of several: moved, scaled in time, copied and taken away together. */
import { toast } from 'svelte-sonner';
import type { Key, KeysSetting, Setting } from '$core/index';
import { isKeys, sortedKeys, withKeysMoved, withoutKeys } from '$core/index';
import type { Editor } from './editor.svelte';

/** A key by the setting that has it, and its frame. */
export interface KeyAt {
	node: string;
	setting: string;
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
			.filter((one) => this.#settingOf(one)?.keys.some(({ at }) => at === one.at))
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

	#settingOf({ node, setting }: Omit<KeyAt, 'at'>): KeysSetting | null {
		const raw = this.#editor.node(node)?.settings[setting];
		return isKeys(raw) ? raw : null;
	}

	/** Changes the settings that have chosen keys, as one step. */
	#change(label: string, to: (setting: KeysSetting, frames: ReadonlySet<number>) => Setting): void {
		const bySetting = new Map<string, Set<number>>();
		for (const { node, setting, at } of this.keys) {
			const name = JSON.stringify([node, setting]);
			bySetting.set(name, (bySetting.get(name) ?? new Set()).add(at));
		}
		this.#editor.changeGraph(label, (graph) => ({
			...graph,
			nodes: graph.nodes.map((node) => {
				const own = Object.entries(node.settings).flatMap(([name, raw]): [string, Setting][] => {
					const frames = bySetting.get(JSON.stringify([node.id, name]));
					return frames && isKeys(raw) ? [[name, to(raw, frames)]] : [];
				});
				return own.length ? { ...node, settings: { ...node.settings, ...Object.fromEntries(own) } } : node;
			})
		}));
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
		this.#change('Take keys away', withoutKeys);
		this.clear();
	}

	copy(): void {
		this.copied = this.keys.flatMap(({ node, setting, at }) => {
			const key = this.#settingOf({ node, setting })?.keys.find((one) => one.at === at);
			return key ? [{ node, setting, key }] : [];
		});
	}
	/** Puts what was copied so that the first of it lies at a frame, each with the setting that it was of. */
	paste(frame: number): void {
		const first = Math.min(...this.copied.map(({ key }) => key.at));
		const put = this.copied.map(({ node, setting, key }) => ({
			node,
			setting,
			key: { ...key, at: key.at - first + frame }
		}));
		this.#editor.changeGraph('Paste keys', (graph) => ({
			...graph,
			nodes: graph.nodes.map((node) => {
				const own = put.filter((one) => one.node === node.id);
				if (!own.length) return node;
				const settings = { ...node.settings };
				for (const { setting, key } of own) {
					const raw = settings[setting];
					if (!isKeys(raw)) continue;
					// What is pasted comes later, so it counts where there was one already.
					settings[setting] = { ...raw, keys: sortedKeys({ keys: [...raw.keys, key] }) };
				}
				return { ...node, settings };
			})
		}));
		this.#chosen = new Set(put.map(({ node, setting, key }) => nameOf({ node, setting, at: key.at })));
	}
}
