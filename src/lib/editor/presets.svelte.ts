/** Presets and kept variations of the open generator, with their pictures. */
import { tick } from 'svelte';
import { toast } from 'svelte-sonner';
import type { Dial, GeneratorDocument, Kept, Preset, Slot } from '$core/engine/index';
import {
	changedSince,
	presetOf,
	withKept,
	withKeptChanged,
	withKeptTaken,
	withPreset,
	withPresetChanged,
	withPresetHolding,
	withPresetTaken,
	withPresetUpdated,
	withoutKept,
	withoutPreset
} from '$core/engine/index';
import { hashBytes } from '$core/formats/index';
import { saveAsset } from '$lib/store/database';
import type { Hand, ViewPort } from './hand';

/** The largest picture of one's own that is taken, in bytes, and how wide it is kept, in pixels. */
const LARGEST = 20_000_000;
const WIDE = 480;
const MOST_TRIES = 3;

type PresetsHand = Hand & {
	readonly history: { endGesture(gesture: string): void };
	readonly port: ViewPort | null;
	readonly evaluation: { idle(): Promise<void> };
	/** The digest of the result, where it is known. */
	readonly resultHash: string | null;
	compared: { name: string; document: GeneratorDocument; take: () => void } | null;
};

export class Presets {
	readonly #editor: PresetsHand;

	constructor(editor: PresetsHand) {
		this.#editor = editor;
	}

	get all(): readonly Preset[] {
		return this.#editor.document.presets;
	}
	get kept(): readonly Kept[] {
		return this.#editor.document.kept;
	}
	/** The one taken last, and the dials that stand otherwise since. */
	get current(): Preset | null {
		return presetOf(this.#editor.document);
	}
	readonly changed: (Dial | Slot)[] = $derived.by(() => changedSince(this.#editor.document));

	/** Takes a preset; what of it cannot be any more is told of. */
	take(id: string): void {
		this.#choose('Use the preset', (document, say) => withPresetTaken(document, id, say));
	}
	takeKept(id: string): void {
		this.#choose('Use the variation', (document, say) => withKeptTaken(document, id, say));
	}
	#choose(
		label: string,
		make: (document: GeneratorDocument, say: (sentence: string) => void) => GeneratorDocument
	): void {
		const said: string[] = [];
		this.#editor.change(label, (document) => make(document, (sentence) => said.push(sentence)));
		for (const sentence of said.slice(0, 4)) toast.warning(sentence, { duration: 9000 });
	}

	/** The dials as they are, as a preset more; the View's picture comes a little later, as part of the same step. */
	save(name: string): Promise<void> {
		const gesture = `preset ${Date.now()}`;
		this.#editor.change('Save a preset', (document) => withPreset(document, name), gesture);
		const { preset } = this.#editor.document;
		return this.#shoot(gesture, (document, picture) => withPresetChanged(document, preset!, { picture }));
	}
	/** The dials, and what is in slots where it holds that, as they are, in a preset's place. */
	update(id: string): Promise<void> {
		const gesture = `preset ${Date.now()}`;
		this.#editor.change('Update the preset', (document) => withPresetUpdated(document, id), gesture);
		return this.#shoot(gesture, (document, picture) => withPresetChanged(document, id, { picture }));
	}
	change(id: string, change: Partial<Pick<Preset, 'name' | 'says'>>): void {
		this.#editor.change('Change the preset', (document) => withPresetChanged(document, id, change));
	}
	/** Lets a preset hold what is in slots, or no more. */
	hold(id: string, isHolding: boolean): void {
		this.#editor.change(isHolding ? 'Keep what is in slots' : 'Keep no slots', (document) =>
			withPresetHolding(document, id, isHolding)
		);
	}
	remove(id: string): void {
		this.#editor.change('Delete the preset', (document) => withoutPreset(document, id));
	}
	/** The View's picture for a preset or a kept variation, or one of the artist's own. */
	async picture(id: string, file: File | null): Promise<void> {
		const put = (document: GeneratorDocument, picture: string) =>
			withKeptChanged(withPresetChanged(document, id, { picture }), id, { picture });
		if (!file) return this.#shoot(null, put);
		try {
			const own = await keep(await scaled(file), file.name);
			this.#editor.change('Another picture', (document) => put(withAsset(document, own), own.hash));
		} catch (error) {
			toast.error((error as Error).message, { duration: 9000 });
		}
	}

	/** Keeps the dials and the seed as they are. */
	keep(name: string): Promise<void> {
		const gesture = `kept ${Date.now()}`;
		const { resultHash: hash } = this.#editor;
		this.#editor.change(
			'Keep this variation',
			(document) => withKept(document, name, { ...(hash && { hash }) }),
			gesture
		);
		const { id } = this.kept[this.kept.length - 1];
		return this.#shoot(gesture, (document, picture) => withKeptChanged(document, id, { picture }));
	}
	/** Keeps a variation that was looked at elsewhere, with its picture. */
	async keepWith(
		name: string,
		picture: Blob | null,
		make: (document: GeneratorDocument) => GeneratorDocument
	): Promise<void> {
		const shot = picture && (await keep(picture, 'picture.webp').catch(() => null));
		this.#editor.change(`Keep ${name}`, (document) => {
			const made = make(document);
			const { id } = made.kept[made.kept.length - 1];
			return shot ? withKeptChanged(withAsset(made, shot), id, { picture: shot.hash }) : made;
		});
	}
	/** Looks at a kept variation beside the generator as it is. */
	compare({ id, name }: Kept): void {
		const document = withKeptTaken(this.#editor.document, id);
		this.#editor.compared = { name, document, take: () => this.takeKept(id) };
	}
	renameKept(id: string, name: string): void {
		this.#editor.change('Rename the variation', (document) => withKeptChanged(document, id, { name }));
	}
	removeKept(id: string): void {
		this.#editor.change('Delete the variation', (document) => withoutKept(document, id));
	}

	/** Takes the View's picture and puts it where it is wanted. */
	async #shoot(
		gesture: string | null,
		put: (document: GeneratorDocument, picture: string) => GeneratorDocument
	): Promise<void> {
		// The picture is of what was saved: it waits for that, and is left out where something else is seen by then.
		const { graphs, seed } = this.#editor.document;
		const isSaved = () => this.#editor.document.graphs === graphs && this.#editor.document.seed === seed;
		// What is shown may change while it is drawn: then it is drawn again.
		let blob: Blob | null = null;
		for (let tries = 0; tries < MOST_TRIES && !blob && isSaved(); tries++) {
			await this.#editor.evaluation.idle();
			await tick();
			const taken = (await this.#editor.port?.picture()) ?? null;
			if (isSaved()) blob = taken;
		}
		const shot = blob && (await keep(blob, 'picture.webp').catch(() => null));
		if (shot)
			this.#editor.change(
				'The View’s picture',
				(document) => {
					const made = put(document, shot.hash);
					// What it was taken for may be gone by now, as by an undo.
					return made === document ? document : withAsset(made, shot);
				},
				gesture
			);
		if (gesture) this.#editor.history.endGesture(gesture);
	}
}

interface Picture {
	hash: string;
	name: string;
	bytes: Uint8Array;
}

async function keep(blob: Blob, name: string): Promise<Picture> {
	const bytes = new Uint8Array(await blob.arrayBuffer());
	const picture = { hash: hashBytes(bytes), name: name.slice(0, 200), bytes };
	await saveAsset(picture);
	return picture;
}

const withAsset = (document: GeneratorDocument, picture: Picture | null): GeneratorDocument =>
	picture
		? {
				...document,
				assets: {
					...document.assets,
					[picture.hash]: { name: picture.name, bytes: picture.bytes.length }
				}
			}
		: document;

/** A picture of the artist's own, no wider than presets show. Throws an error with a sentence. */
async function scaled(file: File): Promise<Blob> {
	if (file.size > LARGEST)
		throw new Error(`${file.name} is too large for a picture: at most ${LARGEST / 1e6} MB are taken.`);
	const image = await createImageBitmap(file).catch(() => {
		throw new Error(`${file.name} is not a picture that the browser reads. Take a PNG, JPEG or WebP.`);
	});
	const width = Math.min(WIDE, image.width);
	const canvas = new OffscreenCanvas(width, Math.max(1, Math.round((image.height * width) / image.width)));
	canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
	image.close();
	return canvas.convertToBlob({ type: 'image/webp' });
}
