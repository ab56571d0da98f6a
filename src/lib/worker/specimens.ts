/** The page's side of the specimen sheet: one sheet at a time, which can be stopped at once. */
import type { GeneratorDocument } from '$core/engine/index';
import type { Asset } from '$core/geometry/index';
import type { Variation } from '$core/session/variations';
import type { Light } from '$lib/viewport/light';
import type { Stand } from '$lib/viewport/specimen-scene';

export interface SpecimenRequest {
	/** Which request it is; its answers say so too. */
	run: number;
	document: GeneratorDocument;
	variations: readonly Variation[];
	assets: readonly Asset[];
	light: Light;
	/** Where the View’s camera stands, so that all are seen from that side. */
	stand: Stand | null;
	width: number;
	height: number;
}
export type SpecimenAnswer = { run: number } & (
	| { kind: 'specimen'; place: number; blob: Blob; hash: string | null }
	| { kind: 'failed'; place: number; message: string }
	| { kind: 'done' }
);
export type SpecimenWanted = Omit<SpecimenRequest, 'run'>;

export class SpecimenClient {
	#worker: Worker | null = null;
	#isClosed = false;
	#run = 0;
	/** What is being made: a sheet, or one picture by which it is made ready. */
	#making: 'sheet' | 'ready' | null = null;
	#hear: (answer: SpecimenAnswer) => void = () => {};

	/** Makes it ready with one picture, so that the first of a sheet does not wait for graphics and for loops to be compiled. */
	warm(wanted: SpecimenWanted): void {
		if (!this.#worker) this.#ask(wanted, 'ready', () => {});
	}

	/** Makes a sheet; what was being made is stopped. `hear` is told of each picture as it comes, and of the end. */
	make(wanted: SpecimenWanted, hear: (answer: SpecimenAnswer) => void): void {
		// One that works on another sheet is ended; one that stands idle, or is just made ready, goes on with what it has.
		if (this.#making === 'sheet') this.stop();
		this.#ask(wanted, 'sheet', hear);
	}

	#ask(wanted: SpecimenWanted, what: 'sheet' | 'ready', hear: (answer: SpecimenAnswer) => void): void {
		if (this.#isClosed) return;
		const run = ++this.#run;
		this.#making = what;
		this.#hear = hear;
		this.#worker ??= this.#started();
		this.#worker.postMessage({ ...wanted, run } satisfies SpecimenRequest);
	}

	#started(): Worker {
		const worker = new Worker(new URL('./specimens.worker.ts', import.meta.url), { type: 'module' });
		worker.onmessage = ({ data }: MessageEvent<SpecimenAnswer>) => {
			if (data.run !== this.#run) return;
			if (data.kind === 'done') this.#making = null;
			this.#hear(data);
		};
		worker.onerror = () => {
			const [run, hear] = [this.#run, this.#hear];
			this.stop();
			hear({ run, kind: 'failed', place: 0, message: 'The pictures could not be drawn here.' });
			hear({ run, kind: 'done' });
		};
		return worker;
	}

	/** Its screen is gone: nothing is begun any more, also where it was asked for before. */
	close(): void {
		this.#isClosed = true;
		this.stop();
	}

	stop(): void {
		this.#worker?.terminate();
		this.#worker = null;
		this.#making = null;
		this.#hear = () => {};
	}
}
