/** A generator in use: its placements, the one that is set up, and what is put into its slots. */
import { toast } from 'svelte-sonner';
import type { GeneratorDocument, Slot, SlotContent } from '$core/engine/index';
import {
	isFilled,
	openRaw,
	placed,
	placementOf,
	placementSchema,
	slotNode,
	withSlotEmptied,
	withSlotFilled
} from '$core/engine/index';
import { nodeKinds } from '$core/nodes/index';
import { fileKind, isArchive } from '$core/session/file-kinds';
import type { StoredPlacement } from '$lib/store/database';
import {
	contentOfPlacement,
	loadAsset,
	loadGenerator,
	lockNameOf,
	newId,
	saveAsset,
	use,
	whileClosed
} from '$lib/store/database';
import type { SlotOffer } from '$lib/store/slot-offers';
import {
	loadPlacement,
	placementsOf,
	restorePlacement,
	savePlacement,
	takePlacement
} from '$lib/store/placements';
import { hearTabs, tellTabs } from '$lib/store/tabs';
import { Editor } from './editor.svelte';
import type { Keeping } from './saving.svelte';
import { Saving } from './saving.svelte';

let lastMade = 0;
/** Ids in the order in which they were made, however quickly. */
function placementId(): string {
	lastMade = Math.max(Date.now(), lastMade + 1);
	return `${lastMade.toString(36)}-${newId()}`;
}

/** Which node reads what goes into a slot. */
const TAKEN_BY = { curve: 'import-svg', mesh: 'import-mesh', image: 'weight-by-pattern' } as const;

/** A placement as a row of the list. */
type Row = Pick<StoredPlacement, 'id' | 'name'>;

export class Dress {
	/** The generator as its maker has it. */
	readonly base: GeneratorDocument;
	readonly generator: string;
	editor = $state.raw<Editor | null>(null);
	list = $state.raw<readonly Row[]>([]);
	/** The one that is set up. */
	id = $state('');
	/** Opening and closing, one after another: each placement that is opened is closed before the next one is. */
	#turn: Promise<void> = Promise.resolve();
	#isLeft = false;
	readonly #unused: () => void;
	readonly #deaf: () => void;

	private constructor(generator: string, base: GeneratorDocument, unused: () => void) {
		this.generator = generator;
		this.base = base;
		this.#unused = unused;
		this.#deaf = hearTabs((wrote) => void this.#hear(wrote));
	}

	/** Opens a generator for use, with its first placement or a new one. Null where there is no such generator. */
	static async open(generator: string): Promise<Dress | null> {
		// Before it is read: nobody takes it away from then on.
		const unused = use(generator);
		let dress: Dress | null = null;
		try {
			const stored = await loadGenerator(generator);
			if (!stored) {
				unused();
				return null;
			}
			dress = new Dress(generator, openRaw(stored.document).document, unused);
			await dress.#refresh();
			const [first] = dress.list;
			if (first) await dress.choose(first.id);
			else await dress.add();
		} catch (error) {
			if (dress) await dress.close();
			else unused();
			throw error;
		}
		return dress;
	}

	/** What the one that is set up is called. */
	get name(): string {
		return this.list.find(({ id }) => id === this.id)?.name ?? '';
	}

	/** Another tab has stored something. */
	async #hear(wrote: string): Promise<void> {
		const isOwn = wrote === lockNameOf(this.id) && this.editor?.saving.writes;
		if (!wrote.startsWith(lockNameOf('')) || isOwn) return;
		await this.#refresh().catch(() => {});
		const isGone = this.id && !this.list.some(({ id }) => id === this.id);
		if (isGone && !this.#isLeft) await this.#chooseOther();
	}

	/** Reads which placements there are; one that was only just added is not stored yet. */
	async #refresh(): Promise<void> {
		const stored = await placementsOf(this.generator);
		const isNew = this.list.filter(({ id }) => this.#added.has(id) && !stored.some((one) => one.id === id));
		this.list = [...stored.map(({ id, name }) => ({ id, name })), ...isNew].sort((a, b) =>
			a.id.localeCompare(b.id)
		);
	}
	/** Those that were added here. */
	readonly #added = new Set<string>();

	/** Sets up one of the placements. */
	choose = (id: string): Promise<void> => this.#next(() => this.#open(id));

	/** One more placement, as the generator is. */
	add = (): Promise<void> =>
		this.#next(async () => {
			const id = placementId();
			this.#added.add(id);
			this.list = [...this.list, { id, name: `Placement ${this.list.length + 1}` }];
			await this.#open(id);
		});

	#next(work: () => Promise<void>): Promise<void> {
		const done = this.#turn.then(async () => {
			if (!this.#isLeft) await work();
		});
		this.#turn = done.catch(() => {});
		return done;
	}

	async #open(id: string): Promise<void> {
		if (!this.list.some((one) => one.id === id)) return;
		await this.editor?.close();
		this.editor = null;
		this.id = id;
		const saving = new Saving(lockNameOf(id), this.#keeping(id));
		await saving.claim();
		// Read after that: another tab may have changed it.
		const document = await saving.load();
		if (!document) saving.begin();
		const editor = new Editor(lockNameOf(id), document ?? this.base, saving);
		this.editor = editor;
		await editor.open();
	}

	#keeping = (id: string): Keeping => ({
		load: async () => {
			const stored = await loadPlacement(id);
			if (!stored) return null;
			const read = placementSchema.safeParse(stored.placement);
			// One that was only just added says nothing yet.
			if (!read.success && stored.placement !== null)
				toast.error(
					`“${stored.name}” could not be read whole; what could not was left as the generator has it.`
				);
			const said: string[] = [];
			const document = read.success
				? placed(this.base, read.data, (sentence) => said.push(sentence))
				: this.base;
			for (const sentence of said.slice(0, 4))
				toast.warning(`The generator has changed since: ${sentence}`, { duration: 12_000 });
			return { document, written: { revision: stored.revision ?? '', content: contentOfPlacement(stored) } };
		},
		write: async (document, revision) => {
			const wasThere = await savePlacement({ id, ...this.#content(id, document), revision }, this.base);
			// From now on the store says whether it is there: another tab may delete it.
			this.#added.delete(id);
			return wasThere;
		},
		content: (document) => this.#content(id, document)
	});
	#content(id: string, document: GeneratorDocument) {
		const { generator } = this;
		const name = this.list.find((one) => one.id === id)?.name ?? '';
		return { generator, name, placement: placementOf(document, this.base, { generator, name }) };
	}

	async rename(name: string): Promise<void> {
		const wanted = name.trim().slice(0, 200);
		const { editor, id } = this;
		if (!wanted || wanted === this.name || !editor?.saving.writes) return;
		this.list = this.list.map((one) => (one.id === id ? { ...one, name: wanted } : one));
		// The name lies beside the document: a new object, so that it is written.
		editor.saving.note({ ...editor.document });
		await editor.saving.flush();
	}

	/** Takes a placement away, unless another tab has it open; it can be had back for a while. */
	async remove(id: string): Promise<void> {
		let taken: StoredPlacement | null = null;
		let isDone = true;
		const take = async () => void (taken = await takePlacement(id));
		// In turn: while another one opens, nobody knows yet which is set up.
		await this.#next(async () => {
			if (id !== this.id) return void (isDone = await whileClosed(lockNameOf(id), take));
			isDone = !!this.editor?.saving.writes;
			if (!isDone) return;
			await this.editor?.close();
			await take();
		});
		if (!isDone) return void toast.error('This placement is open in another tab. Close it there first.');
		const isOpen = id === this.id;
		this.#added.delete(id);
		this.list = this.list.filter((one) => one.id !== id);
		if (isOpen) await this.#chooseOther();
		tellTabs(lockNameOf(id));
		this.#offerBack(taken);
	}
	async #chooseOther(): Promise<void> {
		const [first] = this.list;
		if (first) await this.choose(first.id);
		else await this.add();
	}

	#offerBack(taken: StoredPlacement | null): void {
		if (!taken) return;
		toast(`“${taken.name}” was deleted.`, {
			duration: 10_000,
			action: {
				label: 'Undo',
				onClick: async () => {
					await restorePlacement(taken.id);
					tellTabs(lockNameOf(taken.id));
				}
			}
		});
	}

	async close(): Promise<void> {
		this.#isLeft = true;
		this.#deaf();
		await this.#turn;
		await this.editor?.close();
		this.#unused();
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
			const { node: kind, settings, hash, bytes, name } = await editor.read(file, null);
			const filled = withSlotFilled(editor.document, key, { kind, settings: { ...settings, file: hash } });
			if (typeof filled === 'string') throw new Error(filled);
			const asset = { hash, name: name.slice(0, 200), bytes };
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

	/** A file that was dropped on the page goes into the one slot that takes it; else it is said which do. */
	async drop(file: File): Promise<void> {
		// An archive that comes here holds an OBJ.
		const kind = fileKind(isArchive(file.name) ? '.obj' : file.name);
		if (kind === null || kind === 'generator' || !this.editor) return;
		const slots = this.editor.document.slots.filter(({ takes }) => TAKEN_BY[takes] === kind.node);
		if (slots.length === 1) return this.fill(slots[0], file);
		const names = slots.map(({ name }) => `“${name}”`).join(' or ');
		toast.warning(
			`${file.name} is ${kind.what}. ${names ? `Drop it on ${names}.` : 'No slot of this generator takes one.'}`
		);
	}

	/** The slot holds again what its maker put there. */
	empty({ key }: Slot): void {
		this.editor?.change('The generator’s own again', (document) => withSlotEmptied(document, this.base, key));
		this.editor?.select([]);
	}
}
