import { mix } from '../../math/index.ts';
import { digestOf } from '../../geometry/index.ts';
import { treesOf } from '../../kernels/nearest.ts';
import { constant, element, fieldAt, operate, rampOf, random, throughRamp } from '../../varying/index.ts';
import type { Varying } from '../../varying/index.ts';
import { choice, defineNode, geometry, number, output, ramp, value, yesNo } from '../define.ts';
import { distanceField } from './weight-near-object.ts';
import { clamped, oneMinus, weightOutput } from './weight-tools.ts';

type Settings = Record<string, unknown>;

export const weightInTurn = defineNode({
	id: 'weight-in-turn',
	version: 1,
	name: 'Weight in turn',
	family: 'weights',
	words: ['stagger', 'delay', 'offset', 'one by one', 'sequence', 'late', 'falloff', 'mask'],
	help: 'One number lets all elements go, one after another: each waits for its turn and then goes from 0 to 1. Who comes first is by order, at random, by distance from something, or by a value.',
	inputs: {
		progress: number({
			label: 'How far',
			help: 'How far the whole has come: 0 before the first has begun, 1 when the last is there. Give it keys.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.005
		}),
		order: choice({
			label: 'Order',
			help: 'Who comes first.',
			default: 'index',
			options: [
				{ id: 'index', label: 'By their numbers' },
				{ id: 'random', label: 'At random' },
				{ id: 'distance', label: 'By distance' },
				{ id: 'value', label: 'By a value' }
			]
		}),
		object: geometry({
			label: 'Distance from',
			help: 'What is nearest to it comes first: a mesh, curves or points. Unwired: the origin.',
			optional: true,
			when: (s: Settings) => s.order === 'distance'
		}),
		reach: number({
			label: 'Reach',
			help: 'How far the last ones are away.',
			default: 10,
			min: 0.001,
			slider: [0.1, 100],
			unit: 'm',
			when: (s) => s.order === 'distance'
		}),
		rank: value({
			label: 'Rank',
			help: 'From 0, the first, to 1, the last: an attribute, or a formula.',
			default: 0,
			varies: 'point',
			when: (s: Settings) => s.order === 'value'
		}),
		spread: number({
			label: 'Delay between',
			help: 'How much of the way their beginnings are apart: 0 all together, 1 one by one.',
			default: 0.7,
			min: 0,
			max: 1,
			step: 0.01
		}),
		disorder: number({
			label: 'Disorder',
			help: 'How much chance there is in their turns.',
			default: 0,
			min: 0,
			max: 1,
			step: 0.01,
			when: (s) => s.order !== 'random'
		}),
		ramp: ramp({
			label: 'Ramp',
			help: 'How each goes from 0 to 1 in its turn.',
			default: rampOf('smooth', [0, 0], [1, 1])
		}),
		reverse: yesNo({ label: 'Reverse', help: 'The last come first.', default: false }),
		seed: number({ label: 'Seed', help: 'Another seed, another chance.', default: 0, whole: true, min: 0 })
	},
	outputs: {
		weight: weightOutput,
		rank: output('number', 'Rank', 'When each begins, from 0, the first, to 1, the last.')
	},
	seeded: true,
	run({ progress, order, object, reach, rank, spread, disorder, ramp, reverse, seed }, context) {
		const [first, second] = context.stream();
		const chance = random(constant(0), constant(1), [mix(first, seed), second]);
		const far = object
			? fieldAt(distanceField(digestOf(object), { object }))
			: operate('len', [element('position')]);
		if (object && !treesOf(object).length)
			context.warn('There is no mesh, curve or point in “From”, so nobody is near it.', 'object');
		const inOrder: Record<string, Varying> = {
			index: operate('divide', [
				element('index'),
				operate('max', [operate('subtract', [element('count'), constant(1)]), constant(1)])
			]),
			random: chance,
			distance: clamped(operate('divide', [far, constant(reach)])),
			value: clamped(rank)
		};
		const by = inOrder[order];
		const mixed = disorder > 0 && order !== 'random' ? operate('mix', [by, chance, constant(disorder)]) : by;
		const mine = reverse ? oneMinus(mixed) : mixed;
		const begins = operate('multiply', [mine, constant(spread)]);
		// With nothing left for each, it is a jump; at the end everybody has jumped.
		const gone =
			spread < 1
				? clamped(
						operate('divide', [operate('subtract', [constant(progress), begins]), constant(1 - spread)])
					)
				: operate('less', [mine, constant(progress === 1 ? 2 : progress)]);
		return { weight: throughRamp(gone, ramp), rank: mine };
	}
});
