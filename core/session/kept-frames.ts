/** Which frames of the document that stands are still remembered whole, so that they are there at once. */
import type { NodeResult } from '../engine/index.ts';

/** From one frame to another, both among them. */
export type FrameRun = readonly [first: number, last: number];

export class KeptFrames {
	readonly #kept = new Set<number>();
	/** By the key of each result the frame that it is of; null where several frames share it. */
	readonly #frameOf = new Map<string, number | null>();

	/** The document is another one. */
	clear(): void {
		this.#kept.clear();
		this.#frameOf.clear();
	}

	/** A frame was evaluated, with these results. */
	add(frame: number, results: Iterable<NodeResult>): void {
		this.#kept.add(frame);
		for (const { key } of results) {
			if (!key) continue;
			const known = this.#frameOf.get(key);
			this.#frameOf.set(key, known === undefined || known === frame ? frame : null);
		}
	}

	/** A result is no longer kept: its frame would have to be worked out again, or all of them. */
	dropped(key: string): void {
		const frame = this.#frameOf.get(key);
		if (frame === undefined) return;
		this.#frameOf.delete(key);
		if (frame === null) this.#kept.clear();
		else this.#kept.delete(frame);
	}

	runs(): FrameRun[] {
		const runs: [number, number][] = [];
		for (const frame of [...this.#kept].sort((a, b) => a - b)) {
			const last = runs.at(-1);
			if (last && frame === last[1] + 1) last[1] = frame;
			else runs.push([frame, frame]);
		}
		return runs;
	}
}
