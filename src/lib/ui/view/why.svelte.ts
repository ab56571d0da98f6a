/** “Why is it so?”: a click on an element in the View, and the slip that says how it came about. */
import type { Kind } from '$core/geometry/index';
import type { Why, WhyAsk } from '$core/session/messages';
import type { Editor } from '$lib/editor/editor.svelte';
import { Newest } from '$lib/editor/newest';
import type { ViewScene } from '$lib/viewport/scene';

/** What each kind of element is called. */
export const ELEMENT_NAMES: Readonly<Record<Kind, string>> = {
	whole: 'Whole geometry',
	copy: 'Copy',
	curve: 'Curve',
	face: 'Face',
	edge: 'Edge',
	point: 'Point',
	corner: 'Corner'
};

export class Asking {
	readonly #editor: Editor;
	/** Whether each click asks. */
	on = $state(false);
	slip = $state.raw<Why | null>(null);
	trouble = $state('');
	#asked: { node: string; at: readonly number[] } | null = null;
	/** Counts up as the slip is closed: what was asked before is not shown any more. */
	#turn = 0;
	readonly #asking = new Newest<WhyAsk>((about) => this.#load(about));

	constructor(editor: Editor) {
		this.#editor = editor;
	}

	toggle(): void {
		this.on = !this.on;
		if (!this.on) this.close();
	}

	close(): void {
		this.#turn++;
		this.slip = null;
		this.trouble = '';
		this.#editor.marked = null;
	}

	/** Asks about what lies under a place of the canvas. */
	click(scene: ViewScene, x: number, y: number): void {
		const hit = scene.pick(x, y);
		if (!hit) return this.close();
		this.#asked = { node: hit.node, at: hit.copy ?? hit.point.toArray() };
		this.ask(hit.copy ? 'copy' : null);
	}

	/** Asks about an element of a kind at the same place. */
	ask(kind: Kind | null): void {
		if (this.#asked) this.#asking.ask({ ...this.#asked, kind });
	}

	async #load(about: WhyAsk): Promise<void> {
		const turn = this.#turn;
		try {
			const why = await this.#editor.evaluation.client.why(about);
			if (turn !== this.#turn || !why) return;
			this.slip = why;
			this.trouble = '';
			this.#editor.marked = { at: why.at, name: `${ELEMENT_NAMES[why.kind]} ${why.row}` };
		} catch (error) {
			if (turn === this.#turn) this.trouble = (error as Error).message;
		}
	}

	/** After another evaluation the same place is asked about again. */
	again(): void {
		if (this.slip) this.ask(this.slip.kind);
	}
}
