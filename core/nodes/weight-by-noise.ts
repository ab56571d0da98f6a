import { mix } from '../math/index.ts';
import { constant, element, operate, vector as vectorOf } from '../varying/index.ts';
import { defineNode, number, vector } from './define.ts';
import { wayBetween, weightOutput } from './weight-tools.ts';

export const weightByNoise = defineNode({
	id: 'weight-by-noise',
	version: 1,
	name: 'Weight by noise',
	family: 'weights',
	words: ['patches', 'clouds', 'fractal', 'perlin', 'blotches', 'mask'],
	help: 'Soft patches through space. From and To say how much of the noise becomes 0 and 1: near one another they make islands with edges.',
	inputs: {
		size: vector({
			label: 'Size',
			help: 'How wide a patch is along each axis.',
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
		from: number({
			label: 'From',
			help: 'The noise, from 0 to 1, that weighs 0.',
			default: 0.3,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'point'
		}),
		to: number({
			label: 'To',
			help: 'The noise, from 0 to 1, that weighs 1.',
			default: 0.7,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'point'
		}),
		offset: vector({
			label: 'Offset',
			help: 'Moves the patches through space.',
			default: [0, 0, 0],
			unit: 'm'
		}),
		seed: number({ label: 'Seed', help: 'Another seed, other patches.', default: 0, whole: true, min: 0 })
	},
	outputs: { weight: weightOutput },
	seeded: true,
	run({ size, octaves, from, to, offset, seed }, context) {
		const [first, second] = context.stream();
		const place = operate('divide', [
			operate('subtract', [element('position'), vectorOf(offset[0], offset[1], offset[2])]),
			vectorOf(size[0], size[1], size[2])
		]);
		const raw = operate(
			'fractal',
			[place, constant(octaves), constant(2), constant(0.5)],
			mix(mix(first, second), seed)
		);
		const share = operate('multiply', [operate('add', [raw, constant(1)]), constant(0.5)]);
		return { weight: wayBetween(share, from, to) };
	}
});
