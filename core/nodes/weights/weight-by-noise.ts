import { mix } from '../../math/index.ts';
import { constant, operate } from '../../varying/index.ts';
import { defineNode, number } from '../define.ts';
import {
	MOVED_BY,
	driftAt,
	driftInputs,
	drifting,
	noiseInputs,
	placeInNoise
} from '../values/noise-inputs.ts';
import { wayBetween, weightOutput } from './weight-tools.ts';

export const weightByNoise = defineNode({
	id: 'weight-by-noise',
	version: 1,
	name: 'Weight by noise',
	family: 'weights',
	words: ['patches', 'clouds', 'fractal', 'perlin', 'blotches', 'falloff', 'mask'],
	help: 'Soft patches through space. From and To say how much of the noise becomes 0 and 1: near one another they make islands with edges.',
	inputs: {
		size: { ...noiseInputs.size, help: 'How wide a patch is along each axis.' },
		octaves: noiseInputs.octaves,
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
		offset: { ...noiseInputs.offset, help: 'Moves the patches through space.' },
		seed: { ...noiseInputs.seed, help: 'Another seed, other patches.' },
		...driftInputs
	},
	outputs: { weight: weightOutput },
	seeded: true,
	timed: MOVED_BY,
	run({ size, octaves, from, to, offset, seed, ...moving }, context) {
		const [first, second] = context.stream();
		const raw = drifting(
			'fractal',
			placeInNoise(size, offset),
			[octaves, 2, 0.5],
			driftAt(moving, context.moment),
			mix(mix(first, second), seed)
		);
		const share = operate('multiply', [operate('add', [raw, constant(1)]), constant(0.5)]);
		return { weight: wayBetween(share, from, to) };
	}
});
