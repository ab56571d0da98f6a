/** What nodes that read noise have in common. */
import type { Varying } from '../../varying/index.ts';
import { constant, element, operate, part, vector as vectorOf } from '../../varying/index.ts';
import type { Moment } from '../define.ts';
import { number, vector } from '../define.ts';
import { frameOn, heldTime } from '../motion/held.ts';

export const noiseInputs = {
	size: vector({
		label: 'Size',
		help: 'How wide a hill is along each axis.',
		default: [1, 1, 1],
		unit: 'm',
		min: 0.0001,
		uniform: true
	}),
	octaves: number({
		label: 'Octaves',
		help: 'Layers of ever finer detail.',
		default: 3,
		min: 1,
		max: 12,
		whole: true
	}),
	gain: number({
		label: 'Gain',
		help: 'How strong each layer is beside the one before.',
		default: 0.5,
		min: 0,
		max: 1,
		step: 0.01
	}),
	offset: vector({
		label: 'Offset',
		help: 'Moves the noise through space.',
		default: [0, 0, 0],
		unit: 'm'
	}),
	seed: number({ label: 'Seed', help: 'Another seed, other hills.', default: 0, whole: true, min: 0 })
} as const;

/** What lets a noise move. A node that has them is `timed: MOVED_BY`. */
export const driftInputs = {
	drift: number({
		label: 'Drift',
		help: 'A fourth place of the noise: while it changes, hills rise and sink where they are.',
		default: 0,
		step: 0.01,
		slider: [0, 4],
		varies: 'point',
		group: 'Movement'
	}),
	speed: number({
		label: 'Speed',
		help: 'How far it drifts in a second: at 1, a hill becomes another within one.',
		default: 0,
		step: 0.05,
		slider: [0, 4],
		unit: 'per s'
	}),
	loop: number({
		label: 'Loop',
		help: 'After so many frames it is as at first, without a seam; 0: never. The speed is made to fit.',
		default: 0,
		min: 0,
		max: 100_000,
		whole: true,
		unit: 'frames',
		when: (s) => s.speed !== 0
	}),
	hold: number({
		label: 'Frames a step',
		help: 'So many frames it stays, and then steps.',
		default: 1,
		min: 1,
		max: 1000,
		whole: true,
		unit: 'frames',
		when: (s) => s.speed !== 0
	})
} as const;

export const MOVED_BY = ['speed'] as const;

interface Drift {
	drift: Varying;
	speed: number;
	loop: number;
	hold: number;
}

/** The fewest hills that a loop goes through: with one it would be the same hill throughout. */
const FEWEST_HILLS = 2;

/** The fourth place of a noise at a moment, and after how much of it the noise is as before; null where it stays. */
export function driftAt(
	{ drift, speed, loop, hold }: Drift,
	moment: Moment
): { w: Varying; period: Varying } | null {
	if (drift.op === 'constant' && drift.value === 0 && speed === 0) return null;
	const still = drift.type === 'vector' ? part(drift, 0) : drift;
	if (speed === 0) return { w: still, period: constant(0) };
	if (loop < 1)
		return { w: operate('add', [still, constant(speed * heldTime(moment, hold))]), period: constant(0) };
	const hills = Math.max(FEWEST_HILLS, Math.round(Math.abs(speed) * loop * moment.step));
	const share = frameOn(moment, hold) / loop;
	const gone = (share - Math.floor(share)) * hills;
	return { w: operate('add', [still, constant(speed < 0 ? -gone : gone)]), period: constant(hills) };
}

/** Octaves of noise at a place, moved by its drift. */
export function drifting(
	of: 'fractal' | 'ridged',
	place: Varying,
	octaves: readonly [count: number, lacunarity: number, gain: number],
	drift: ReturnType<typeof driftAt>,
	seed: number
): Varying {
	const more = octaves.map((x) => constant(x));
	return drift
		? operate(`${of}4`, [place, drift.w, drift.period, ...more], seed)
		: operate(of, [place, ...more], seed);
}

/** Where the noise is read for a place in space: hills of a size, moved by an offset. */
export const placeInNoise = (
	size: readonly number[],
	offset: readonly number[] | Varying,
	place: Varying = element('position')
): Varying =>
	operate('divide', [
		operate('subtract', [place, 'op' in offset ? offset : vectorOf(offset[0], offset[1], offset[2])]),
		vectorOf(size[0], size[1], size[2])
	]);
