/** Saves the open generator as it changes, and lets one tab only write it. */
import type { GeneratorDocument } from '$core/engine/document';
import { lockOf, saveGenerator } from '$lib/store/database';

export type SaveState = 'saved' | 'saving' | 'failed' | 'reading';

const WAITS = 250;

export class Saving {
	state = $state<SaveState>('saved');
	/** Why saving failed, as a sentence. */
	problem = $state('');
	/** False while another tab writes this generator. */
	writes = $state(true);
	readonly #id: string;
	#timer: ReturnType<typeof setTimeout> | undefined;
	#pending: GeneratorDocument | null = null;
	#last = -Infinity;
	#release: (() => void) | null = null;

	constructor(id: string) {
		this.#id = id;
	}

	/** Asks to be the tab that writes. `steal` takes the right from the tab that has it, which is told. */
	async claim(steal = false): Promise<void> {
		if (!navigator.locks) return;
		await new Promise<void>((settled) => {
			navigator.locks
				.request(lockOf(this.#id), steal ? { steal: true } : { ifAvailable: true }, (lock) => {
					this.writes = !!lock;
					this.state = lock ? 'saved' : 'reading';
					settled();
					return lock ? new Promise<void>((release) => (this.#release = release)) : undefined;
				})
				.catch(() => {
					// Another tab took the right to write.
					this.writes = false;
					this.state = 'reading';
					settled();
				});
		});
	}

	/** Notes a change, to be written. */
	note(document: GeneratorDocument): void {
		if (!this.writes) return;
		this.#pending = document;
		this.state = 'saving';
		clearTimeout(this.#timer);
		// The first change of a run is written at once; those that follow quickly, as in a drag, together.
		const since = performance.now() - this.#last;
		if (since > WAITS) void this.flush();
		else this.#timer = setTimeout(() => this.flush(), WAITS - since);
	}

	async flush(): Promise<void> {
		clearTimeout(this.#timer);
		const document = this.#pending;
		if (!document || !this.writes) return;
		this.#pending = null;
		this.#last = performance.now();
		try {
			await saveGenerator({ id: this.#id, name: document.name, document, untouched: false });
			if (!this.#pending) this.state = 'saved';
			this.problem = '';
		} catch (error) {
			this.#pending ??= document;
			this.state = 'failed';
			const full = (error as Error).name === 'QuotaExceededError';
			this.problem = full
				? 'The disk is full, so the last changes are not saved. Save the generator as a file, and free some space.'
				: `The last changes are not saved (${(error as Error).message}). Save the generator as a file.`;
			this.#timer = setTimeout(() => this.flush(), 5000);
		}
	}

	async close(): Promise<void> {
		await this.flush();
		clearTimeout(this.#timer);
		this.#release?.();
	}
}
