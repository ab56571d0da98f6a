/** Where a copy is from frame to frame, and its tracks for a GLB: keys only where something changes. */

/** Numbers of a place: position, orientation, scale. */
const PLACE = { position: 0, orientation: 3, scale: 7, width: 10 } as const;

export interface TrackChannel {
	path: 'translation' | 'rotation' | 'scale';
	frames: number[];
	values: Float32Array;
	width: 3 | 4;
	/** Whether it jumps from key to key. */
	held: boolean;
}

export class Track {
	/** The place of what is copied among the sources. */
	readonly source: number;
	readonly #places: Float32Array;
	readonly #seen: Uint8Array;

	constructor(source: number, frames: number) {
		this.source = source;
		this.#places = new Float32Array(PLACE.width * frames);
		this.#seen = new Uint8Array(frames);
	}

	has(frame: number): boolean {
		return this.#seen[frame] === 1;
	}

	/** Takes row `i` of the columns for a frame. */
	set(
		frame: number,
		i: number,
		position: Float32Array,
		orientation: Float32Array,
		scale: Float32Array
	): void {
		const at = PLACE.width * frame;
		this.#seen[frame] = 1;
		for (let k = 0; k < 3; k++) this.#places[at + k] = position[3 * i + k];
		for (let k = 0; k < 4; k++) this.#places[at + 3 + k] = orientation[4 * i + k];
		for (let k = 0; k < 3; k++) this.#places[at + 7 + k] = scale[3 * i + k];
	}

	/** The frame that says where it is at a frame: itself, or while it is hidden the one before, or else the first shown. */
	#standsFor(frame: number): number {
		let one = frame;
		while (one >= 0 && !this.has(one)) one--;
		return one >= 0 ? one : this.#seen.indexOf(1);
	}

	#read(frame: number, of: number, width: number): number[] {
		const at = PLACE.width * this.#standsFor(frame) + of;
		return [...this.#places.subarray(at, at + width)];
	}

	/** How it is at a frame. */
	at(frame: number): { translation: number[]; rotation: number[]; scale: number[] } {
		return {
			translation: this.#read(frame, PLACE.position, 3),
			rotation: this.#read(frame, PLACE.orientation, 4),
			scale: this.has(frame) ? this.#read(frame, PLACE.scale, 3) : [0, 0, 0]
		};
	}

	/** Its tracks over so many frames; none for what stays. */
	channels(frames: number): TrackChannel[] {
		const all = Array.from({ length: frames }, (_, frame) => this.at(frame));
		const turns = all.map(({ rotation }) => rotation);
		// Of the two names of a rotation the one that is nearer to the last, so that it goes the shorter way.
		for (let frame = 1; frame < frames; frame++) {
			const last = turns[frame - 1];
			if (turns[frame].reduce((sum, x, k) => sum + x * last[k], 0) < 0)
				turns[frame] = turns[frame].map((x) => -x);
		}
		const sizes = all.map(({ scale }) => scale);
		const shown = new Set(sizes.filter((_, frame) => this.has(frame)).map(String));
		return [
			channelOf(
				'translation',
				all.map(({ translation }) => translation),
				false
			),
			channelOf('rotation', turns, false),
			// What only comes and goes does so at once.
			channelOf('scale', sizes, shown.size === 1)
		].flatMap((channel) => channel ?? []);
	}
}

/** Keys at the frames at which a value leaves or reaches what it stays at; null where it never changes. */
function channelOf(
	path: TrackChannel['path'],
	values: readonly (readonly number[])[],
	held: boolean
): TrackChannel | null {
	const isSame = (a: number, b: number) => values[a].every((x, k) => x === values[b][k]);
	const last = values.length - 1;
	const frames: number[] = [];
	for (let frame = 0; frame <= last; frame++) {
		const asBefore = frame > 0 && isSame(frame, frame - 1);
		const asAfter = frame < last && isSame(frame, frame + 1);
		if (held ? !asBefore : !asBefore || !(asAfter || frame === last)) frames.push(frame);
	}
	if (frames.length < 2) return null;
	return {
		path,
		frames,
		values: Float32Array.from(frames.flatMap((frame) => [...values[frame]])),
		width: path === 'rotation' ? 4 : 3,
		held
	};
}
