/** What the View draws over elements on demand: their numbers, their order, directions, and a group of them. */
import type { MarkName } from '$core/session/messages';
import type { Editor } from '$lib/editor/editor.svelte';
import { Newest } from '$lib/editor/newest';
import type { Labelled } from '$lib/viewport/nearest-labels';
import { nearestLabels } from '$lib/viewport/nearest-labels';
import type { ViewScene } from '$lib/viewport/scene';

/** Labels that can still be told apart. */
const MOST = 300;

/** The switches, each with what it draws. */
export const SWITCHES = [
	{ id: 'order', name: 'Order lines', says: 'From each point to the next', draws: ['order'] },
	{ id: 'normals', name: 'Normals', says: 'Where surfaces face', draws: ['normals'] },
	{ id: 'tangents', name: 'Tangents', says: 'Along curves', draws: ['tangents'] },
	{
		id: 'orientations',
		name: 'Orientations',
		says: 'Own axes x, y, z of what is turned',
		draws: ['x', 'y', 'z']
	}
] as const satisfies readonly { id: string; name: string; says: string; draws: readonly MarkName[] }[];
export type SwitchId = (typeof SWITCHES)[number]['id'];

export const NUMBER_SIZES = [
	{ id: 'small', name: 'Small', pixels: 9 },
	{ id: 'medium', name: 'Medium', pixels: 11 },
	{ id: 'large', name: 'Large', pixels: 15 }
] as const;

export class ViewMarks {
	readonly #editor: Editor;
	numbers = $state(false);
	numberSize = $state<(typeof NUMBER_SIZES)[number]['id']>('medium');
	on = $state.raw<ReadonlySet<SwitchId>>(new Set());
	/** A condition that elements meet which are marked by dots. */
	group = $state('');
	labels = $state.raw<readonly Labelled[]>([]);
	/** How many elements the group has, and why it cannot be told. */
	found = $state(0);
	trouble = $state('');
	#places: readonly Float32Array[] = [];
	readonly #asking = new Newest<ViewScene>((scene) => this.#load(scene));

	constructor(editor: Editor) {
		this.#editor = editor;
	}

	get any(): boolean {
		return this.numbers || this.on.size > 0 || this.group.trim() !== '';
	}
	get pixels(): number {
		return NUMBER_SIZES.find(({ id }) => id === this.numberSize)!.pixels;
	}
	/** The nodes whose elements are marked: the selected one where it gives geometry, or what is shown. */
	get nodes(): string[] {
		const { active, shown, evaluation, place } = this.#editor;
		return active && place.isViewed && evaluation.reports.get(active.id)?.counts ? [active.id] : [...shown];
	}

	toggle(id: SwitchId): void {
		const on = new Set(this.on);
		if (!on.delete(id)) on.add(id);
		this.on = on;
	}

	/** Asks for the marks of what is there now. */
	refresh(scene: ViewScene): void {
		this.#asking.ask(scene);
	}

	async #load(scene: ViewScene): Promise<void> {
		const { client } = this.#editor.evaluation;
		const { nodes } = this;
		const wanted = SWITCHES.filter(({ id }) => this.on.has(id)).flatMap(({ draws }): MarkName[] => [
			...draws
		]);
		const group = this.group.trim();
		const [places, marks] = await Promise.all([
			this.numbers ? client.places(nodes) : [],
			wanted.length || group ? client.marks(nodes, wanted, group) : []
		]);
		this.#places = places;
		this.found = marks.reduce((sum, { found }) => sum + found, 0);
		this.trouble = marks.find(({ trouble }) => trouble)?.trouble ?? '';
		scene.showMarks(marks);
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
