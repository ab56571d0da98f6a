/** A generator in use: its placements, the one that is set up, and what is put into its slots. */
import { toast } from 'svelte-sonner';
import type { GeneratorDocument, Placement, Slot, SlotContent } from '$core/index';
import {
	isFilled,
	nodeKinds,
	openRaw,
	placed,
	placementOf,
	placementSchema,
	slotNode,
	withSlotEmptied,
	withSlotFilled
} from '$core/index';
import type { StoredPlacement } from '$lib/store/database';
import { loadAsset, loadGenerator, newId, saveAsset, whileClosed } from '$lib/store/database';
import type { SlotOffer } from '$lib/store/slot-offers';
import { placementsOf, savePlacement, takePlacement } from '$lib/store/placements';
import { Editor } from './editor.svelte';
import { Saving } from './saving.svelte';

/** What a placement is called among what tabs have open. */
const lockName = (id: string): string => `placement-${id}`;
/** Ids in the order in which they were made. */
const placementId = (): string => `${Date.now().toString(36)}-${newId()}`;

export class Dress {
	/** The generator as its maker has it. */
	readonly base: GeneratorDocument;
	readonly generator: string;
	editor = $state.raw<Editor | null>(null);
	list = $state.raw<readonly StoredPlacement[]>([]);
	/** The one that is set up. */
	id = $state('');
	name = $state('');

	private constructor(generator: string, base: GeneratorDocument, list: readonly StoredPlacement[]) {
		this.generator = generator;
		this.base = base;
		this.list = list;
	}

	/** Opens a generator for use, with its first placement or a new one. Null where there is no such generator. */
	static async open(generator: string): Promise<Dress | null> {
		const stored = await loadGenerator(generator);
		if (!stored) return null;
		const dress = new Dress(generator, openRaw(stored.document).document, await placementsOf(generator));
		const [first] = dress.list;
		if (first) await dress.choose(first.id);
		else await dress.add();
		return dress;
	}

	/** Sets up one of the placements. */
	async choose(id: string): Promise<void> {
		const stored = this.list.find((one) => one.id === id);
		if (!stored) return;
		const read = placementSchema.safeParse(stored.placement);
		// One that was only just added says nothing yet.
		if (!read.success && stored.placement !== null)
			toast.error(
				`“${stored.name}” could not be read whole; what could not was left as the generator has it.`
			);
		await this.#open(stored.id, stored.name, read.success ? read.data : null);
	}

	/** One more placement, as the generator is. */
	async add(): Promise<void> {
		const id = placementId();
		const name = `Placement ${this.list.length + 1}`;
		this.list = [...this.list, { id, generator: this.generator, name, placement: null, updated: Date.now() }];
		await this.#open(id, name, null);
	}

	async #open(id: string, name: string, placement: Placement | null): Promise<void> {
		await this.editor?.close();
		this.editor = null;
		this.id = id;
		this.name = name;
		const said: string[] = [];
		const document = placement ? placed(this.base, placement, (sentence) => said.push(sentence)) : this.base;
		for (const sentence of said.slice(0, 4))
			toast.warning(`The generator has changed since: ${sentence}`, { duration: 12_000 });
		const saving = new Saving(lockName(id), (now) => this.#save(id, now));
		await saving.claim();
		const editor = new Editor(lockName(id), document, saving);
		await editor.open();
		this.editor = editor;
	}

	async #save(id: string, document: GeneratorDocument): Promise<void> {
		const name = id === this.id ? this.name : (this.list.find((one) => one.id === id)?.name ?? '');
		const placement = placementOf(document, this.base, { generator: this.generator, name });
		await savePlacement({ id, generator: this.generator, name, placement });
		this.list = this.list.map((one) => (one.id === id ? { ...one, name, placement } : one));
	}

	async rename(name: string): Promise<void> {
		const wanted = name.trim().slice(0, 200);
		const { editor, id } = this;
		if (!wanted || wanted === this.name || !editor?.saving.writes) return;
		this.name = wanted;
		this.list = this.list.map((one) => (one.id === id ? { ...one, name: wanted } : one));
		editor.saving.note(editor.document);
		await editor.saving.flush();
	}

	/** Takes a placement away, unless another tab has it open; it can be had back for a while. */
	async remove(id: string): Promise<void> {
		let taken: StoredPlacement | null = null;
		const take = async () => void (taken = await takePlacement(id));
		const isOpen = id === this.id;
		if (isOpen && this.editor?.saving.writes) {
			await this.editor.close();
			await take();
		} else if (isOpen || !(await whileClosed(lockName(id), take)))
			return void toast.error('This placement is open in another tab. Close it there first.');
		this.list = this.list.filter((one) => one.id !== id);
		if (isOpen) {
			const [first] = this.list;
			if (first) await this.choose(first.id);
			else await this.add();
		}
		this.#offerBack(taken);
	}

	#offerBack(taken: StoredPlacement | null): void {
		if (!taken) return;
		toast(`“${taken.name}” was deleted.`, {
			duration: 10_000,
			action: {
				label: 'Undo',
				onClick: async () => {
					await savePlacement(taken);
					this.list = [...this.list, taken].sort((a, b) => a.id.localeCompare(b.id));
				}
			}
		});
	}

	async close(): Promise<void> {
		await this.editor?.close();
	}

	/** What is in a slot, in words; the generator's own where nothing else is. */
	contentOf({ key }: Slot): { own: boolean; words: string } {
		const { editor } = this;
		const now = editor && slotNode(editor.document, key);
		if (!editor || !now) return { own: true, words: '' };
		if (!isFilled(editor.document, this.base, key)) return { own: true, words: 'the generator’s own' };
		const { file } = now.settings;
		const name = typeof file === 'string' ? editor.document.assets[file]?.name : undefined;
		return { own: false, words: name ?? nodeKinds.get(now.kind)?.name ?? '' };
	}

	/** A curve to be drawn in the View stands in a slot; where one does already, it is taken up again. */
	draw({ key, node }: Slot): void {
		const { editor } = this;
		if (!editor) return;
		if (slotNode(editor.document, key)?.kind !== 'draw-curve')
			editor.change('Draw a curve', (document) => {
				const filled = withSlotFilled(document, key, { kind: 'draw-curve', settings: {} });
				return typeof filled === 'string' ? document : filled;
			});
		editor.select([node]);
	}

	/** Something of the library is put into a slot. */
	async pick(slot: Slot, { text, file, content }: SlotOffer): Promise<void> {
		if (content) return this.#put(slot.key, text, content);
		const asset = file === undefined ? undefined : await loadAsset(file);
		if (!asset) return void toast.error(`“${text}” is not there any more.`);
		await this.fill(slot, new File([asset.bytes as BlobPart], asset.name));
	}

	#put(key: string, name: string, content: SlotContent): void {
		const { editor } = this;
		const filled = editor && withSlotFilled(editor.document, key, content);
		if (typeof filled === 'string') toast.error(filled);
		else if (filled) editor.change(`Put ${name} into the slot`, () => filled);
	}

	/** A file is put into a slot. What cannot be is told in a sentence, and nothing changes. */
	async fill({ key, node }: Slot, file: File): Promise<void> {
		const { editor } = this;
		if (!editor) return;
		try {
			const { node: kind, settings, hash, bytes } = await editor.read(file, null);
			const filled = withSlotFilled(editor.document, key, { kind, settings: { ...settings, file: hash } });
			if (typeof filled === 'string') throw new Error(filled);
			const asset = { hash, name: file.name.slice(0, 200), bytes };
			await saveAsset(asset);
			editor.evaluation.client.addAsset(asset);
			editor.change(`Put ${file.name} into the slot`, () => ({
				...filled,
				assets: { ...filled.assets, [hash]: { name: asset.name, bytes: bytes.length } }
			}));
			// Its handles, and the staff of 2 m beside it.
			editor.select([node]);
		} catch (error) {
			toast.error((error as Error).message, { duration: 12_000 });
		}
	}

	/** The slot holds again what its maker put there. */
	empty({ key }: Slot): void {
		this.editor?.change('The generator’s own again', (document) => withSlotEmptied(document, this.base, key));
		this.editor?.select([]);
	}
}
