/** The page's side of exporting frames: one export at a time, which tells how far it is and can be stopped with what it has. */
import type { GeneratorDocument } from '$core/engine/index';
import type { Asset } from '$core/geometry/index';
import type { ExportOptions } from '$core/session/export';
import type { Light } from '$lib/viewport/light';
import type { FrameWanted } from '$lib/viewport/specimen-scene';

/** What frames become: one GLB that moves, a zip of files, a zip of pictures, or a video. */
export type FramesAs = 'animation' | 'files' | 'pictures' | 'video';

export interface FramesRequest {
	document: GeneratorDocument;
	assets: readonly Asset[];
	first: number;
	last: number;
	as: FramesAs;
	/** How files are written; their name is that of each in the zip too. */
	options: ExportOptions;
	picture: FrameWanted;
	/** The *Camera* through which pictures are taken; null where they are taken as `picture` says. */
	camera: string | null;
	light: Light;
}

export type FramesAnswer =
	| { kind: 'frame'; frame: number }
	/** A part of what is made, in order. */
	| { kind: 'part'; bytes: Uint8Array<ArrayBuffer> }
	/** All is made, or what there was time for; a sentence where it ended before. */
	| { kind: 'done'; frames: number; ending: string; why: string | null }
	| { kind: 'failed'; message: string };

/** One that does not stop within this many milliseconds hangs at a frame, and is ended; what it had begun to write is lost. */
const STOPS_WITHIN = 10_000;
/** Parts are put together into one that the browser may keep on its disk. */
const TOGETHER = 8_000_000;

export interface Made {
	blob: Blob;
	frames: number;
	ending: string;
	/** Why there are not all of them; null where there are. */
	why: string | null;
}

export class FramesClient {
	#worker: Worker | null = null;
	#ending: ReturnType<typeof setTimeout> | undefined;

	/** Makes them. Rejects with a sentence where nothing came of it. */
	make(wanted: FramesRequest, progress: (frame: number) => void): Promise<Made> {
		this.end();
		const worker = new Worker(new URL('./frames.worker.ts', import.meta.url), { type: 'module' });
		this.#worker = worker;
		const blobs: Blob[] = [];
		let parts: Uint8Array<ArrayBuffer>[] = [];
		let size = 0;
		const together = () => {
			blobs.push(new Blob(parts));
			parts = [];
			size = 0;
		};
		return new Promise<Made>((done, failed) => {
			worker.onmessage = ({ data }: MessageEvent<FramesAnswer>) => {
				switch (data.kind) {
					case 'frame':
						return progress(data.frame);
					case 'part':
						parts.push(data.bytes);
						size += data.bytes.length;
						if (size > TOGETHER) together();
						return;
					case 'done':
						together();
						this.end();
						return done({ ...data, blob: new Blob(blobs) });
					case 'failed':
						this.end();
						return failed(new Error(data.message));
				}
			};
			worker.onerror = () => {
				this.end();
				failed(
					new Error(
						'The frames could not be made here: the browser ended the work. Make fewer or smaller ones.'
					)
				);
			};
			worker.postMessage(wanted);
		});
	}

	/** Asks it to stop after the frame that it is at, with what there is. */
	stop(): void {
		this.#worker?.postMessage('stop');
		clearTimeout(this.#ending);
		this.#ending = setTimeout(() => this.#worker?.dispatchEvent(new ErrorEvent('error')), STOPS_WITHIN);
	}

	end(): void {
		clearTimeout(this.#ending);
		this.#worker?.terminate();
		this.#worker = null;
	}
}
