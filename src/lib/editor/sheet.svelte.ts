/** The specimen sheet of the open generator: what it shall show, what has come of it, and what can be done with each. */
import { toast } from 'svelte-sonner';
import type { Dial, Setting } from '$core/engine/index';
import { isRange, withKept } from '$core/engine/index';
import type { Variation } from '$core/session/variations';
import { SHEET_COUNTS, varied, variationsOf } from '$core/session/variations';
import { assetsReadBy } from '$lib/store/files';
import { USUAL_LIGHT } from '$lib/viewport/light';
import type { SpecimenAnswer } from '$lib/worker/specimens';
import type { SpecimenClient, SpecimenWanted } from '$lib/worker/specimens';
import type { Editor } from './editor.svelte';

/** Pictures of the sheet, in pixels. */
const SIZE = { width: 240, height: 160 };

/** One place of the sheet. */
export interface Specimen {
	variation: Variation;
	/** Its picture and an address of it, once it is there. */
	blob: Blob | null;
	url: string;
	hash: string | null;
	failed: string;
}

/** A dial that may vary on the sheet. */
export interface VaryingDial {
	dial: Dial;
	on: boolean;
	low: number;
	high: number;
}

/** What the worker is asked for. */
async function requestFor(editor: Editor, variations: readonly Variation[]): Promise<SpecimenWanted> {
	const { document } = editor;
	return {
		document: $state.snapshot(document) as typeof document,
		variations,
		assets: await assetsReadBy(document),
		light: document.view.light ?? USUAL_LIGHT,
		stand: editor.port?.stand ?? null,
		...SIZE
	};
}

/** Makes the worker of a sheet ready, with the generator as it is. */
export async function warmSheet(editor: Editor, client: SpecimenClient): Promise<void> {
	const { seed } = editor.document;
	client.warm(await requestFor(editor, [{ seed, values: {}, label: '' }]));
}

export class Sheet {
	readonly #editor: Editor;
	readonly #client: SpecimenClient;
	readonly counts = SHEET_COUNTS;
	count = $state<number>(24);
	/** Other seeds, or one dial at listed values. */
	by = $state<'seeds' | 'list'>('seeds');
	varying = $state<VaryingDial[]>([]);
	listedDial = $state('');
	listed = $state('');
	list = $state.raw<readonly Specimen[]>([]);
	working = $state(false);
	/** Milliseconds from asking to the first picture, and to the last; for whoever measures. */
	times = $state.raw<{ first: number; all: number }>({ first: 0, all: 0 });
	#from = 1;

	/** @param client lives longer than the sheet, so that it stays ready. */
	constructor(editor: Editor, client: SpecimenClient) {
		this.#editor = editor;
		this.#client = client;
		this.#from = editor.document.seed;
		this.varying = editor.document.dials
			.filter(({ kind }) => kind === 'number' || kind === 'whole')
			.map((dial) => ({ dial, on: false, ...endsOf(dial) }));
		this.listedDial = editor.document.dials[0]?.key ?? '';
	}

	get done(): number {
		return this.list.filter(({ url, failed }) => url || failed).length;
	}

	/** Makes the sheet, beginning with the seed that stands, or with the next ones. */
	async make(next = false): Promise<void> {
		const { document } = this.#editor;
		this.#from = next ? this.#from + this.count : document.seed;
		let variations: Variation[];
		try {
			variations = variationsOf(document, {
				count: this.count,
				from: this.#from,
				...(this.by === 'list'
					? {
							listed: {
								key: this.listedDial,
								values: this.listed.split(',').flatMap((text) => text.trim() || [])
							}
						}
					: {
							dials: this.varying
								.filter(({ on }) => on)
								.map(({ dial, low, high }) => ({ key: dial.key, low, high }))
						})
			});
		} catch (error) {
			toast.error((error as Error).message);
			return;
		}
		this.#letGo();
		this.list = variations.map((variation) => ({ variation, blob: null, url: '', hash: null, failed: '' }));
		this.working = true;
		const began = performance.now();
		this.#client.make(await requestFor(this.#editor, variations), (answer) => this.#hear(answer, began));
	}

	#hear(answer: SpecimenAnswer, began: number): void {
		const passed = performance.now() - began;
		if (answer.kind === 'done') {
			this.working = false;
			this.times = { ...this.times, all: passed };
			return;
		}
		if (!this.done) this.times = { first: passed, all: 0 };
		this.list = this.list.map((one, place) =>
			place !== answer.place
				? one
				: answer.kind === 'failed'
					? { ...one, failed: answer.message }
					: { ...one, blob: answer.blob, url: URL.createObjectURL(answer.blob), hash: answer.hash }
		);
	}

	stop(): void {
		this.#client.stop();
		this.working = false;
	}

	/** Sets the dials and the seed as a variation has them. */
	take({ variation }: Specimen): void {
		this.#editor.change('Use the variation', (document) => varied(document, variation));
	}

	/** Looks at a variation beside the generator as it is. */
	compare(specimen: Specimen): void {
		const { variation } = specimen;
		const document = varied(this.#editor.document, variation);
		this.#editor.compared = { name: variation.label, document, take: () => this.take(specimen) };
	}

	/** Keeps a variation under a name, with its picture. */
	async keep(specimen: Specimen): Promise<void> {
		const { variation, blob, hash } = specimen;
		await this.#editor.presets.keepWith(variation.label, blob, (document) => {
			const of = varied(document, variation);
			const values: Record<string, Setting> = Object.fromEntries(
				of.dials.filter(({ leftOut }) => !leftOut).map(({ key, value }) => [key, value])
			);
			return withKept(document, variation.label, { seed: variation.seed, values, ...(hash && { hash }) });
		});
	}

	#letGo(): void {
		for (const { url } of this.list) if (url) URL.revokeObjectURL(url);
		this.list = [];
	}

	close(): void {
		this.stop();
		this.#letGo();
	}
}

/** Between which numbers a dial varies at first: its slider's ends, or about what it is. */
function endsOf({ value, low, high }: Dial): { low: number; high: number } {
	if (low !== undefined && high !== undefined) return { low, high };
	const now = typeof value === 'number' ? value : isRange(value) && 'low' in value ? value.low : 1;
	return { low: low ?? Math.min(0.5 * now, 1.5 * now), high: high ?? Math.max(0.5 * now, 1.5 * now) };
}
