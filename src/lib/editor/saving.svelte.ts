/** Saves the open generator as it changes, and lets one tab only write it. */
import type { GeneratorDocument } from '$core/engine/document';
import { lockOf, saveGenerator } from '$lib/store/database';
import type { TabRequest } from '$lib/store/tabs';
import { NO_ANSWER, answerTabs, askTab } from '$lib/store/tabs';
import { WriteQueue } from '$lib/store/write-queue';

export type SaveState = 'saved' | 'saving' | 'failed' | 'reading';

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
	readonly #id: string;
	readonly #queue: WriteQueue<GeneratorDocument>;
	#release: (() => void) | null = null;
	#stopAnswering: (() => void) | null = null;

	/** @param write keeps a state of it; left out, as a generator. */
	constructor(
		id: string,
		write: (document: GeneratorDocument) => Promise<void> = (document) =>
			saveGenerator({ id, name: document.name, document, untouched: false })
	) {
		this.#id = id;
		this.#queue = new WriteQueue({
			write,
			changed: () => this.#tell()
		});
	}

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
		await new Promise<void>((settled) => {
			navigator.locks
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
		this.#stopAnswering?.();
		this.#stopAnswering = writes ? answerTabs(this.#id, (request) => this.#answer(request)) : null;
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
			return `The other tab cannot save what was done there (${trouble.message}). Save it there as a file first.`;
		}
		this.#release?.();
		this.#may(false);
		return null;
	}

	#tell(): void {
		const { trouble, hasUnwritten } = this.#queue;
		this.state = !this.writes ? 'reading' : trouble ? 'failed' : hasUnwritten ? 'saving' : 'saved';
		this.problem = !trouble
			? ''
			: trouble.name === 'QuotaExceededError'
				? 'The disk is full, so the last changes are not saved. Save the generator as a file, and free some space.'
				: `The last changes are not saved (${trouble.message}). Save the generator as a file.`;
	}

	/** Notes a change, to be written. */
	note(document: GeneratorDocument): void {
		if (this.writes) this.#queue.note(document);
	}

	flush(): Promise<void> {
		return this.writes ? this.#queue.flush() : Promise.resolve();
	}

	async close(): Promise<void> {
		await this.flush();
		this.#queue.close();
		this.#stopAnswering?.();
		this.#stopAnswering = null;
		this.#release?.();
	}
}
