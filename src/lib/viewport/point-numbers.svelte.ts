/** The numbers of points and copies that are shown, over the picture. */
import type { Editor } from '$lib/editor/editor.svelte';
import type { Labelled } from './nearest-labels';
import { nearestLabels } from './nearest-labels';
import type { ViewScene } from './scene';

/** Labels that can still be told apart. */
const MOST = 300;

export class PointNumbers {
	on = $state(false);
	labels = $state.raw<readonly Labelled[]>([]);
	readonly #editor: Editor;
	#places: readonly Float32Array[] = [];
	#turn = 0;

	constructor(editor: Editor) {
		this.#editor = editor;
	}

	/** Asks where the points are of what is shown now. */
	async refresh(scene: ViewScene): Promise<void> {
		const turn = ++this.#turn;
		const places = this.on
			? await this.#editor.evaluation.client.places([...this.#editor.shown]).catch(() => [])
			: [];
		if (turn !== this.#turn) return;
		this.#places = places;
		this.place(scene);
	}

	/** Puts the labels where the camera sees their points now. */
	place(scene: ViewScene): void {
		if (!this.#places.length) {
			if (this.labels.length) this.labels = [];
			return;
		}
		const view = scene.viewMatrix;
		this.labels = this.#places
			.flatMap((places) => nearestLabels(places, view.matrix, { ...view, most: MOST }))
			.slice(0, MOST);
	}
}
