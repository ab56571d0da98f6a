import { mix } from '../math/index.ts';
import { constant, element, operate, part, vector as vectorOf } from '../varying/index.ts';
import { choice, defineNode, number, output, value, vector } from './define.ts';

export const noiseValue = defineNode({
	id: 'noise-value',
	version: 1,
	name: 'Noise value',
	family: 'values',
	words: ['perlin', 'fractal', 'fbm', 'turbulence', 'worley', 'cellular', 'ridged', 'clouds', 'texture'],
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
			label: 'Place',
			help: 'Where the noise is read. Unwired: the position of the element.',
			default: 0
		}),
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
			whole: true,
			when: (s) => s.pattern !== 'cells'
		}),
		lacunarity: number({
			label: 'Lacunarity',
			help: 'How much finer each layer is than the one before.',
			default: 2,
			min: 1,
			max: 8,
			when: (s) => s.pattern !== 'cells'
		}),
		gain: number({
			label: 'Gain',
			help: 'How strong each layer is beside the one before.',
			default: 0.5,
			min: 0,
			max: 1,
			when: (s) => s.pattern !== 'cells'
		}),
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
		offset: vector({
			label: 'Offset',
			help: 'Moves the noise through space.',
			default: [0, 0, 0],
			unit: 'm',
			varies: 'point'
		}),
		seed: number({ label: 'Seed', help: 'Another seed, another landscape.', default: 0, whole: true, min: 0 })
	},
	outputs: { value: output('number', 'Value', 'The noise, from low to high.') },
	seeded: true,
	run({ pattern, place, size, octaves, lacunarity, gain, low, high, offset, seed }, context) {
		const [first, second] = context.stream();
		const word = mix(mix(first, second), seed);
		const where =
			place.op === 'constant' ? element('position') : place.type === 'number' ? vectorOf(place, 0, 0) : place;
		const moved = operate('subtract', [where, offset]);
		const scaled = operate('divide', [moved, vectorOf(size[0], size[1], size[2])]);
		const raw =
			pattern === 'cells'
				? operate('cells', [scaled], word)
				: operate(
						pattern === 'ridges' ? 'ridged' : 'fractal',
						[scaled, constant(octaves), constant(lacunarity), constant(gain)],
						word
					);
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
