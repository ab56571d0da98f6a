/** To and fro: a wave over time and over the elements, by which the weight of a change is multiplied. */
import type { Varying } from '../../varying/index.ts';
import { constant, element, operate, vector as vectorOf } from '../../varying/index.ts';
import type { Moment } from '../define.ts';
import { choice, number, value, vector } from '../define.ts';

type Settings = Record<string, unknown>;
const isSwaying = ({ sway }: Settings): boolean => sway !== 'none';

export const swayInputs = {
	sway: choice({
		label: 'Sway',
		help: 'The whole change goes to and fro, from all of it through nothing to its opposite.',
		default: 'none',
		options: [
			{ id: 'none', label: 'None' },
			{ id: 'sine', label: 'Sine' },
			{ id: 'triangle', label: 'Triangle' },
			{ id: 'steps', label: 'Steps' }
		],
		group: 'Sway'
	}),
	rate: number({
		label: 'Rate',
		help: 'How often in a second it goes to and fro.',
		default: 0.5,
		step: 0.05,
		slider: [0, 4],
		unit: 'per s',
		when: isSwaying
	}),
	steps: number({
		label: 'Stops',
		help: 'At how many places it stops on its way, its two ends among them.',
		default: 2,
		min: 2,
		max: 100,
		whole: true,
		when: (s) => s.sway === 'steps'
	}),
	phaseBy: choice({
		label: 'Later by',
		help: 'What makes one element later than another.',
		default: 'position',
		options: [
			{ id: 'none', label: 'Nothing, all together' },
			{ id: 'position', label: 'Their places' },
			{ id: 'index', label: 'Their numbers' },
			{ id: 'value', label: 'A value' }
		],
		when: isSwaying
	}),
	towards: vector({
		label: 'Towards',
		help: 'Where the wave runs; only its direction counts.',
		default: [1, 0, 0],
		when: (s) => isSwaying(s) && s.phaseBy === 'position'
	}),
	wavelength: number({
		label: 'Wavelength',
		help: 'From one crest of the wave to the next.',
		default: 4,
		min: 0.001,
		slider: [0.1, 40],
		unit: 'm',
		when: (s) => isSwaying(s) && s.phaseBy === 'position'
	}),
	elements: number({
		label: 'Elements in a wave',
		help: 'After so many it is the same again.',
		default: 8,
		min: 0.001,
		slider: [1, 100],
		when: (s) => isSwaying(s) && s.phaseBy === 'index'
	}),
	later: value({
		label: 'Later',
		help: 'How much of a whole to and fro: 0.5 goes against 0. An attribute, a random range, a formula.',
		default: 0,
		varies: 'point',
		when: (s: Settings) => isSwaying(s) && s.phaseBy === 'value'
	})
} as const;

interface Sway {
	sway: string;
	rate: number;
	steps: number;
	phaseBy: string;
	towards: readonly number[];
	wavelength: number;
	elements: number;
	later: Varying;
}

/** The wave at a moment, from −1 to 1 for each element; null where nothing sways. */
export function swayAt(
	{ sway, rate, steps, phaseBy, towards, wavelength, elements, later }: Sway,
	{ time }: Moment
): Varying | null {
	if (sway === 'none') return null;
	const lateBy: Record<string, () => Varying> = {
		none: () => constant(0),
		position: () =>
			operate('divide', [
				operate('dot', [
					element('position'),
					operate('normalize', [vectorOf(towards[0], towards[1], towards[2])])
				]),
				constant(wavelength)
			]),
		index: () => operate('divide', [element('index'), constant(elements)]),
		value: () => later
	};
	// Whole turns are left out, so that hours later it is as exact.
	const gone = rate * time;
	const turns = operate('fract', [
		operate('subtract', [constant(gone - Math.floor(gone)), lateBy[phaseBy]()])
	]);
	if (sway === 'sine') return operate('sin', [operate('multiply', [turns, constant(2 * Math.PI)])]);
	const ahead = operate('fract', [operate('add', [turns, constant(0.25)])]);
	const triangle = operate('subtract', [
		constant(1),
		operate('multiply', [constant(4), operate('abs', [operate('subtract', [ahead, constant(0.5)])])])
	]);
	if (sway === 'triangle') return triangle;
	const share = operate('multiply', [operate('add', [triangle, constant(1)]), constant(steps / 2)]);
	const step = operate('min', [operate('floor', [share]), constant(steps - 1)]);
	return operate('subtract', [operate('multiply', [step, constant(2 / (steps - 1))]), constant(1)]);
}
