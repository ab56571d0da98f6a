import { mix } from '../../math/index.ts';
import { constant, operate, random } from '../../varying/index.ts';
import { defineNode, number } from '../define.ts';
import { clamped, weightOutput } from './weight-tools.ts';

export const weightAtRandom = defineNode({
	id: 'weight-at-random',
	version: 1,
	name: 'Weight at random',
	family: 'weights',
	words: ['dropout', 'chance', 'probability', 'dissolve', 'thin out', 'falloff', 'mask'],
	help: 'Some elements weigh 1, the rest 0. As the fraction falls they drop out one by one, each always at its own moment.',
	inputs: {
		share: number({
			label: 'Fraction',
			help: 'How many of all elements weigh 1.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.005,
			varies: 'point'
		}),
		soft: number({
			label: 'Soft edge',
			help: 'How gradually each drops out, as a fraction of the whole way.',
			default: 0,
			min: 0,
			max: 1,
			step: 0.01
		}),
		seed: number({ label: 'Seed', help: 'Another seed, another order.', default: 0, whole: true, min: 0 })
	},
	outputs: { weight: weightOutput },
	seeded: true,
	run({ share, soft, seed }, context) {
		const [first, second] = context.stream();
		const moment = random(constant(0), constant(1), [mix(first, seed), second]);
		return {
			weight:
				soft > 0
					? clamped(
							operate('divide', [
								operate('subtract', [operate('multiply', [share, constant(1 + soft)]), moment]),
								constant(soft)
							])
						)
					: operate('less', [moment, share])
		};
	}
});
