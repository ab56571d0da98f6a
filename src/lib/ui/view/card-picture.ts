/** Keeps the Library's picture of the open generator: taken when nothing has happened for a while, and on leaving. */
import type { Editor } from '$lib/editor/editor.svelte';
import { savePicture } from '$lib/store/database';
import { FEW_SAMPLES } from '$lib/viewport/light';
import type { ViewScene } from '$lib/viewport/scene';
import type { Matters } from '$lib/viewport/turns';

const WAITS = 5000;
/** Of a small picture few are gathered, so that it is there at once. */
const SMALL_SAMPLES = 8;
/** Cards are drawn at up to this size. */
const SIZE = { width: 600, height: 390 };
/** The picture of a subgraph on the shelf: small, and at once. */
export const SHELF_PICTURE = {
	width: 240,
	height: 156,
	fitted: true,
	transparent: true,
	type: 'image/webp',
	samples: SMALL_SAMPLES
} as const;

export class CardPicture {
	/** Whether the picture is older than what is shown. */
	#outdated = false;
	#timer: ReturnType<typeof setTimeout> | undefined;
	readonly #editor: Editor;
	readonly #scene: ViewScene;

	constructor(editor: Editor, scene: ViewScene) {
		this.#editor = editor;
		this.#scene = scene;
	}
	/** What is shown has changed. */
	outdate(): void {
		this.#outdated = true;
		this.wait();
	}
	/** The artist did something: begins to wait anew. */
	wait(): void {
		clearTimeout(this.#timer);
		if (this.#outdated) this.#timer = setTimeout(() => this.#take(), WAITS);
	}
	/** Takes the picture now, where it is due, and none after it. */
	close(): Promise<void> {
		clearTimeout(this.#timer);
		return this.#take('awaited');
	}
	async #take(matters: Matters = 'later'): Promise<void> {
		const editor = this.#editor,
			scene = this.#scene;
		if (
			!this.#outdated ||
			!editor.saving.keeps ||
			!editor.saving.writes ||
			scene.handles.dragging ||
			scene.isLost ||
			// The Library shows the whole.
			editor.place.isInView ||
			!editor.graph.nodes.length
		)
			return;
		this.#outdated = false;
		// The Library's own ground lies behind a card, in whichever theme it is looked at.
		const isThemed = editor.document.view.background === 'theme';
		const blob = await scene
			.picture({
				...SIZE,
				fitted: true,
				transparent: isThemed,
				type: 'image/webp',
				samples: FEW_SAMPLES,
				matters
			})
			.catch(() => null);
		if (blob) await savePicture(editor.id, blob).catch(() => {});
	}
}
