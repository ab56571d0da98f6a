/** Work for the graphics card, a piece at a time: the next one only when the last is done, so that a movement can come between. */
import type { Load, Pace } from './pace';

/** How often it is asked whether a piece is done, in milliseconds. */
const ASKS = 2;
/** A card that says nothing for so long is not waited for. */
const GIVES_UP = 20_000;

/** Each step draws a piece and says what it was; between two steps anything may be drawn by others. */
export type Job = Generator<Load, void>;

/** What comes first: a picture that somebody waits for, the one on the screen, one for later. */
const ORDER = ['awaited', 'seen', 'later'] as const;
export type Matters = (typeof ORDER)[number];

export class Turns {
	readonly #gl: WebGL2RenderingContext;
	readonly #pace: Pace;
	#jobs: { job: Job; matters: Matters; done: (finished: boolean) => void }[] = [];
	#waiting = false;
	#held = false;

	constructor(gl: WebGL2RenderingContext, pace: Pace) {
		this.#gl = gl;
		this.#pace = pace;
	}

	/** Whether a piece is being drawn. */
	get busy(): boolean {
		return this.#waiting;
	}

	/** Does a job before those that matter less, also those that have begun. Answers whether it came to its end. */
	run(job: Job, matters: Matters): Promise<boolean> {
		return new Promise((done) => {
			const at = this.#jobs.findIndex((other) => ORDER.indexOf(other.matters) > ORDER.indexOf(matters));
			this.#jobs.splice(at < 0 ? this.#jobs.length : at, 0, { job, matters, done });
			this.#next();
		});
	}

	/** Takes a job out, wherever it is. */
	drop(job: Job): void {
		const at = this.#jobs.findIndex((one) => one.job === job);
		if (at >= 0) this.#jobs.splice(at, 1)[0].done(false);
	}

	/** While held no job goes on: the picture itself comes first. */
	set held(held: boolean) {
		this.#held = held;
		if (!held) this.#next();
	}

	/** Waits until the card has drawn what it was given, and learns how long that took. */
	async finished(load: Load): Promise<void> {
		const gl = this.#gl;
		const began = performance.now();
		const sync = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
		gl.flush();
		this.#waiting = true;
		while (sync && !gl.isContextLost() && gl.getSyncParameter(sync, gl.SYNC_STATUS) !== gl.SIGNALED) {
			if (performance.now() - began > GIVES_UP) break;
			await new Promise((done) => setTimeout(done, ASKS));
		}
		if (sync) gl.deleteSync(sync);
		this.#waiting = false;
		this.#pace.learn(load, performance.now() - began);
		this.#next();
	}

	#next(): void {
		if (this.#waiting || this.#held || !this.#jobs.length || this.#gl.isContextLost()) return;
		const [first] = this.#jobs;
		const step = first.job.next();
		if (step.done) {
			this.#jobs.splice(this.#jobs.indexOf(first), 1);
			first.done(true);
			this.#next();
		} else void this.finished(step.value);
	}

	/** Lets go of all jobs; those that wait for them hear that they did not come to their ends. */
	close(): void {
		for (const { done } of this.#jobs.splice(0)) done(false);
	}
}
