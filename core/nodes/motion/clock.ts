import { constant } from '../../varying/index.ts';
import { choice, defineNode, number, output } from '../define.ts';
import { heldTime } from './held.ts';

/** The remainder that lies between 0 and `by`. */
const floored = (x: number, by: number): number => x - by * Math.floor(x / by);

export const clock = defineNode({
	id: 'clock',
	version: 1,
	name: 'Clock',
	family: 'motion',
	words: ['time', 'seconds', 'frame', 'animate', 'playhead', 'timer', 'speed'],
	help: 'The time of the frame that is looked at, as a value: its speed and its beginning, once, over and over, or back and forth, and held for some frames at a time.',
	inputs: {
		start: number({
			label: 'Start',
			help: 'What it says at the first frame.',
			default: 0,
			unit: 's'
		}),
		speed: number({
			label: 'Speed',
			help: 'How fast it runs; below 0 it runs backwards.',
			default: 1,
			step: 0.05,
			slider: [0, 4],
			unit: '×'
		}),
		goes: choice({
			label: 'Goes',
			help: 'What it does after its length.',
			default: 'on',
			options: [
				{ id: 'on', label: 'On and on' },
				{ id: 'over', label: 'Over and over' },
				{ id: 'back', label: 'Back and forth' }
			]
		}),
		length: number({
			label: 'Length',
			help: 'After so long it begins again, or turns round.',
			default: 2,
			min: 0.001,
			slider: [0.1, 20],
			unit: 's',
			when: (s) => s.goes === 'over' || s.goes === 'back'
		}),
		hold: number({
			label: 'Frames a step',
			help: 'So many frames it says the same, as in a film made by hand.',
			default: 1,
			min: 1,
			max: 1000,
			whole: true,
			unit: 'frames'
		})
	},
	givesOne: true,
	outputs: {
		time: output('number', 'Time', 'Seconds.'),
		share: output('number', 'Progress', 'From 0 to 1: over its length, or else over all frames.'),
		frame: output('number', 'Frame', 'Which frame it is.')
	},
	timed: true,
	run({ start, speed, goes, length, hold }, { moment }) {
		const { frame, step, frames } = moment;
		const ran = start + heldTime(moment, hold) * speed;
		const there = floored(ran, 2 * length);
		const shown =
			goes === 'over' ? floored(ran, length) : goes === 'back' ? Math.min(there, 2 * length - there) : ran;
		const whole = goes === 'on' ? Math.max(step, (frames - 1) * step) : length;
		return { time: constant(shown), share: constant(shown / whole), frame: constant(frame) };
	}
});
