/** The page's side of the specimen sheet: one sheet at a time, which can be stopped at once. */
import type { Asset, GeneratorDocument } from '$core/index';
import type { Variation } from '$core/session/variations';
import type { Light } from '$lib/viewport/light';
import type { Stand } from '$lib/viewport/specimen-scene';

export interface SpecimenRequest {
	document: GeneratorDocument;
	variations: readonly Variation[];
	assets: readonly Asset[];
	light: Light;
	/** Where the View’s camera stands, so that all are seen from that side. */
	stand: Stand | null;
	width: number;
	height: number;
}
export type SpecimenAnswer =
	| { kind: 'specimen'; place: number; blob: Blob; hash: string | null }
	| { kind: 'failed'; place: number; message: string }
	| { kind: 'done' };

export class SpecimenClient {
	#worker: Worker | null = null;

	/** Makes it ready with one picture, so that the first of a sheet does not wait for graphics and for loops to be compiled. */
	warm(request: SpecimenRequest): void {
		if (this.#worker) return;
		this.make(request, () => {});
	}

	/** Makes a sheet; what was being made is stopped. `hear` is told of each picture as it comes, and of the end. */
	make(request: SpecimenRequest, hear: (answer: SpecimenAnswer) => void): void {
		// One that still works is ended; one that stands idle has its graphics and its results ready.
		if (this.#isWorking) this.stop();
		this.#worker ??= new Worker(new URL('./specimens.worker.ts', import.meta.url), { type: 'module' });
		this.#isWorking = true;
		this.#worker.onmessage = ({ data }: MessageEvent<SpecimenAnswer>) => {
			if (data.kind === 'done') this.#isWorking = false;
			hear(data);
		};
		this.#worker.onerror = () => {
			this.stop();
			hear({ kind: 'failed', place: 0, message: 'The pictures could not be drawn here.' });
			hear({ kind: 'done' });
		};
		this.#worker.postMessage(request);
	}
	#isWorking = false;

	stop(): void {
		this.#worker?.terminate();
		this.#worker = null;
		this.#isWorking = false;
	}
}
