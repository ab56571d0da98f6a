import { mix } from '../../math/index.ts';
import { constant, element, operate, part, vector as vectorOf } from '../../varying/index.ts';
import { choice, defineNode, number, output, value } from '../define.ts';
import { MOVED_BY, driftAt, driftInputs, drifting, noiseInputs, placeInNoise } from './noise-inputs.ts';

export const noiseValue = defineNode({
	id: 'noise-value',
	version: 1,
	name: 'Noise value',
	family: 'values',
	words: [
		'noise',
		'fractal',
		'perlin',
		'fbm',
		'turbulence',
		'worley',
		'cellular',
		'ridged',
		'clouds',
		'texture'
	],
	help: 'A smooth random number for each place in space. Near places get near numbers. Size says how wide one hill of it is.',
	inputs: {
		pattern: choice({
			label: 'Pattern',
			help: 'Hills are soft; ridges have crests; cells are round hollows.',
			default: 'hills',
			options: [
				{ id: 'hills', label: 'Hills' },
				{ id: 'ridges', label: 'Ridges' },
				{ id: 'cells', label: 'Cells' }
			]
		}),
		place: value({
			label: 'Position',
			help: 'Where the noise is read. Unwired: the position of the element.',
			default: 0
		}),
		size: noiseInputs.size,
		octaves: { ...noiseInputs.octaves, when: (s: Record<string, unknown>) => s.pattern !== 'cells' },
		lacunarity: number({
			label: 'Lacunarity',
			help: 'How much finer each layer is than the one before.',
			default: 2,
			min: 1,
			max: 8,
			when: (s) => s.pattern !== 'cells'
		}),
		gain: { ...noiseInputs.gain, when: (s: Record<string, unknown>) => s.pattern !== 'cells' },
		low: number({
			label: 'Low',
			help: 'The number where the noise is lowest.',
			default: -1,
			varies: 'point',
			group: 'Range'
		}),
		high: number({
			label: 'High',
			help: 'The number where the noise is highest.',
			default: 1,
			varies: 'point'
		}),
		offset: { ...noiseInputs.offset, varies: 'point' },
		seed: { ...noiseInputs.seed, help: 'Another seed, another landscape.' },
		...driftInputs
	},
	outputs: { value: output('number', 'Value', 'The noise, from low to high.') },
	seeded: true,
	timed: MOVED_BY,
	run({ pattern, place, size, octaves, lacunarity, gain, low, high, offset, seed, ...moving }, context) {
		const [first, second] = context.stream();
		const word = mix(mix(first, second), seed);
		const where =
			place.op === 'constant' ? element('position') : place.type === 'number' ? vectorOf(place, 0, 0) : place;
		const scaled = placeInNoise(size, offset, where);
		const drift = driftAt(moving, context.moment);
		const raw =
			pattern !== 'cells'
				? drifting(
						pattern === 'ridges' ? 'ridged' : 'fractal',
						scaled,
						[octaves, lacunarity, gain],
						drift,
						word
					)
				: drift
					? operate('cells4', [scaled, drift.w, drift.period], word)
					: operate('cells', [scaled], word);
		const share = operate('multiply', [operate('add', [raw, constant(1)]), constant(0.5)]);
		return {
			value: operate('mix', [
				low.type === 'vector' ? part(low, 0) : low,
				high.type === 'vector' ? part(high, 0) : high,
				share
			])
		};
	}
});
