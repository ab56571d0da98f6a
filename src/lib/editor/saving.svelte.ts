/** Saves the open generator as it changes, lets one tab only write it, and leaves a note of what could not be written. */
import type { Asset } from '$core/geometry/asset';
import type { GeneratorDocument } from '$core/engine/document';
import { openRaw } from '$core/engine/document-text';
import { loadGenerator, lockOf, newId, saveAsset, saveGenerator } from '$lib/store/database';
import type { Written } from '$lib/store/last-notes';
import { dropNote, handOver, leaveNote } from '$lib/store/last-notes';
import type { TabRequest } from '$lib/store/tabs';
import { NO_ANSWER, answerTabs, askTab, hearTabs, tellTabs } from '$lib/store/tabs';
import { storageTrouble } from '$lib/store/trouble';
import { WriteQueue } from '$lib/store/write-queue';

export type SaveState = 'saved' | 'saving' | 'failed' | 'reading';

/** Where and how states of a document are kept. */
export interface Keeping {
	/** What is kept now; null where there is nothing. */
	load(): Promise<{ document: GeneratorDocument; written: Written } | null>;
	/** Gives whether the generator was there before. */
	write(document: GeneratorDocument, revision: string): Promise<boolean>;
	/** What of a state is kept, as plain data. */
	content(document: GeneratorDocument): unknown;
}

/** A generator of the Library. */
export const generatorKeeping = (id: string): Keeping => ({
	async load() {
		const stored = await loadGenerator(id);
		if (!stored) return null;
		const { document, revision = '' } = stored;
		return { document: openRaw(document).document, written: { revision, content: document } };
	},
	write: (document, revision) =>
		saveGenerator({ id, name: document.name, document, untouched: false, revision }),
	content: (document) => document
});

/** What this tab is about to let go of. */
const closing = new Map<string, Promise<void>>();

interface WrittenState extends Written {
	document: GeneratorDocument | null;
}

export class Saving {
	state = $state<SaveState>('saved');
	/** Why saving failed, as a sentence. */
	problem = $state('');
	/** Whether anything is kept at all. */
	readonly keeps: boolean = true;
	/** False while another tab writes this generator. */
	writes = $state(true);
	/** Another tab wants the generator to have another name. */
	onRename: (name: string) => void = () => {};
	/** The imported files that the document reads. */
	files: () => Iterable<Asset> = () => [];
	/** Another tab, which writes it, has stored a newer state. */
	onNews: () => void = () => {};
	readonly #id: string;
	readonly #keeping: Keeping;
	readonly #queue: WriteQueue<GeneratorDocument>;
	#release: (() => void) | null = null;
	/** Ends when the right to write is given back. */
	#held: Promise<unknown> = Promise.resolve();
	#stopListening: (() => void) | null = null;
	/** What is stored, and what may be: the last write that was tried. */
	#written: WrittenState | null = null;
	#tried: WrittenState | null = null;
	/** What was noted last. */
	#newest: GeneratorDocument | null = null;
	#hasNote = false;

	constructor(id: string, keeping: Keeping = generatorKeeping(id)) {
		this.#id = id;
		this.#keeping = keeping;
		this.#queue = new WriteQueue({
			write: (document) => this.#write(document),
			changed: () => this.#tell()
		});
	}

	/** What is kept now; null where there is nothing. Whoever may write reads after that was given. */
	async load(): Promise<GeneratorDocument | null> {
		const found = await this.#keeping.load();
		this.#written = found && { ...found.written, document: found.document };
		this.#tried = null;
		return found?.document ?? null;
	}

	/** Nothing is kept yet: what is noted is the first state. */
	begin(): void {
		this.#written = { revision: '', content: null, document: null };
	}

	async #write(document: GeneratorDocument): Promise<void> {
		const tried = { revision: newId(), content: this.#keeping.content(document), document };
		this.#tried = tried;
		const wasThere = await this.#keeping.write(document, tried.revision);
		// The browser was told to forget all, or could keep nothing before: the files go with it again.
		if (!wasThere || this.#filesWait) {
			for (const file of this.files()) await saveAsset(file);
			this.#filesWait = false;
		}
		this.#written = tried;
		this.#tried = null;
		// A newer state may be noted already, and what it was left by is another one now.
		if (this.#hasNote && !this.letGo()) {
			this.#hasNote = false;
			dropNote(this.#id);
		}
		tellTabs(this.#id);
	}

	/** Leaves a note of what is not written, as the browser may let go of the page now. Whether one was needed. */
	letGo(): boolean {
		const newest = this.#newest;
		if (!this.writes || !newest || newest === this.#written?.document) return false;
		const from = [this.#written, this.#tried].filter((one) => one !== null);
		this.#hasNote = leaveNote(this.#id, from, this.#keeping.content(newest)) || this.#hasNote;
		return true;
	}

	/** A file could not be stored: all are, with the next change. */
	filesWait(): void {
		this.#filesWait = true;
	}
	#filesWait = false;

	/** Asks to be the tab that writes, and answers the others from then on. */
	async claim(): Promise<void> {
		await this.#request({ ifAvailable: true });
	}

	/**
	 * Takes the right to write from the tab that has it, once that has written all it knows. One that does not answer,
	 * as when it hangs, loses it all the same; one that cannot write keeps it, and says why.
	 */
	async takeOver(): Promise<string | null> {
		const trouble = await askTab(this.#id, { want: 'release' });
		if (trouble && trouble !== NO_ANSWER) return trouble;
		await this.#request(trouble ? { steal: true } : {});
		return null;
	}

	async #request(options: LockOptions): Promise<void> {
		if (!navigator.locks) return;
		// The same tab may have had it open a moment ago: that one writes first, and lets go.
		await closing.get(this.#id);
		await new Promise<void>((settled) => {
			this.#held = navigator.locks
				.request(lockOf(this.#id), options, (lock) => {
					this.#may(!!lock);
					settled();
					return lock ? new Promise<void>((release) => (this.#release = release)) : undefined;
				})
				.catch(() => {
					// Another tab took the right to write.
					this.#may(false);
					settled();
				});
		});
	}

	#may(writes: boolean): void {
		this.writes = writes;
		this.#stopListening?.();
		this.#stopListening = writes
			? answerTabs(this.#id, (request) => this.#answer(request))
			: hearTabs((wrote) => wrote === this.#id && this.onNews());
		this.#tell();
	}

	async #answer(request: TabRequest): Promise<string | null> {
		if (request.want === 'rename') this.onRename(request.name);
		// No further edits; those that were made are written before the other tab reads.
		if (request.want === 'release') this.writes = false;
		await this.#queue.flush();
		const { trouble } = this.#queue;
		if (request.want !== 'release') return trouble && this.problem;
		if (trouble) {
			this.writes = true;
			return `The other tab cannot save what was done there. ${storageTrouble(trouble)} Save it there as a file first.`;
		}
		this.#release?.();
		this.#may(false);
		return null;
	}

	#tell(): void {
		const { trouble, hasUnwritten } = this.#queue;
		this.state = !this.writes ? 'reading' : trouble ? 'failed' : hasUnwritten ? 'saving' : 'saved';
		this.problem = trouble
			? `The last changes are not saved: save the generator as a file to be sure. ${storageTrouble(trouble)}`
			: '';
	}

	/** Notes a change, to be written. */
	note(document: GeneratorDocument): void {
		if (!this.writes) return;
		this.#newest = document;
		this.#queue.note(document);
	}

	flush(): Promise<void> {
		return this.writes ? this.#queue.flush() : Promise.resolve();
	}

	close(): Promise<void> {
		const closed = this.#close().finally(() => {
			if (closing.get(this.#id) === closed) closing.delete(this.#id);
		});
		closing.set(this.#id, closed);
		return closed;
	}
	async #close(): Promise<void> {
		await this.flush();
		// What could not be written may be later, by whoever reads it next.
		this.letGo();
		handOver(this.#id);
		this.#queue.close();
		this.#stopListening?.();
		this.#stopListening = null;
		this.#release?.();
		await this.#held;
	}
}
