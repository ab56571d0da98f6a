/** One question at a time: while an answer is on its way, only the newest of those that were asked meanwhile waits. */
export class Newest<Ask> {
	readonly #work: (ask: Ask) => Promise<unknown>;
	#next: { ask: Ask } | null = null;
	#isBusy = false;

	/** `work` asks, and takes the answer; what it throws is dropped, and the next one comes. */
	constructor(work: (ask: Ask) => Promise<unknown>) {
		this.#work = work;
	}

	ask(ask: Ask): void {
		this.#next = { ask };
		if (!this.#isBusy) void this.#run();
	}

	async #run(): Promise<void> {
		this.#isBusy = true;
		while (this.#next) {
			const { ask } = this.#next;
			this.#next = null;
			await this.#work(ask).catch(() => {});
		}
		this.#isBusy = false;
	}
}
