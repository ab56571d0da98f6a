import { NodeError } from '../../math/index.ts';
import { constant, random, distributions } from '../../varying/index.ts';
import { choice, defineNode, number, output, text, vector, yesNo } from '../define.ts';

export const randomNumber = defineNode({
	id: 'random-number',
	version: 1,
	name: 'Random number',
	family: 'values',
	words: [
		'random',
		'randomize',
		'variation',
		'vary',
		'seed',
		'white noise',
		'gaussian',
		'bell curve',
		'probability',
		'random direction'
	],
	help: 'A number, or a vector, drawn for each element where it is used. Settings that are wired to the same Random number get the same numbers: that is how to share one draw.',
	renamed: [{ before: 2, id: 'random-value' }],
	inputs: {
		distribution: choice({
			label: 'Distribution',
			help: 'Which numbers are likely.',
			default: 'even',
			options: [
				{ id: 'even', label: 'Even' },
				{ id: 'normal', label: 'Normal' },
				{ id: 'triangular', label: 'Triangular' },
				{ id: 'shares', label: 'By shares' }
			]
		}),
		low: number({
			label: 'Low',
			help: 'The lowest number.',
			default: 0,
			varies: 'point',
			when: (s) => s.distribution === 'even' || s.distribution === 'triangular'
		}),
		high: number({
			label: 'High',
			help: 'The highest number.',
			default: 1,
			varies: 'point',
			when: (s) => s.distribution === 'even' || s.distribution === 'triangular'
		}),
		likeliest: number({
			label: 'Likeliest',
			help: 'The number between low and high that comes most often.',
			default: 0.5,
			varies: 'point',
			when: (s) => s.distribution === 'triangular'
		}),
		mean: number({
			label: 'Mean',
			help: 'Half of the numbers lie on either side of it.',
			default: 0,
			varies: 'point',
			when: (s) => s.distribution === 'normal'
		}),
		deviation: number({
			label: 'Deviation',
			help: 'Two of three numbers lie no further from the mean, 95 of 100 no further than twice as far.',
			default: 1,
			min: 0,
			varies: 'point',
			when: (s) => s.distribution === 'normal'
		}),
		shares: text({
			label: 'Shares',
			help: 'How often each of the whole numbers from 0 on comes, with commas between: 3, 1 gives 0 three times as often as 1.',
			default: '3, 1, 1',
			when: (s) => s.distribution === 'shares'
		}),
		whole: yesNo({
			label: 'Whole numbers only',
			help: 'Each whole number from low to high comes equally often.',
			default: false,
			when: (s) => s.distribution === 'even'
		}),
		seed: number({ label: 'Seed', help: 'Another seed, other numbers.', default: 0, whole: true, min: 0 }),
		within: choice({
			label: 'Vector',
			help: 'Where the vectors lie, every place as likely as any other.',
			default: 'sphere',
			options: [
				{ id: 'sphere', label: 'On a sphere' },
				{ id: 'ball', label: 'In a ball' },
				{ id: 'cone', label: 'A direction in a cone' }
			],
			group: 'As a vector'
		}),
		size: number({
			label: 'Length',
			help: 'The radius of the sphere or ball, or the length of the direction.',
			default: 1,
			varies: 'point'
		}),
		axis: vector({
			label: 'Axis',
			help: 'The middle of the cone.',
			default: [0, 1, 0],
			when: (s) => s.within === 'cone'
		}),
		angle: number({
			label: 'Angle',
			help: 'How far from the axis at most.',
			default: 20,
			min: 0,
			max: 180,
			unit: '°',
			varies: 'point',
			when: (s) => s.within === 'cone'
		})
	},
	outputs: {
		value: output('number', 'Value', 'A number for each element.'),
		vector: output('vector', 'Vector', 'A vector for each element, independent of the number.')
	},
	seeded: true,
	run(given, context) {
		const { low, high, whole, seed } = given;
		if (low.type === 'vector' || high.type === 'vector')
			throw new NodeError('“Low” and “High” are numbers; a vector came.');
		const draw = (name: string) => random(constant(0), constant(1), context.stream(`${name} ${seed}`));
		const value =
			given.distribution === 'normal'
				? distributions.normal(given.mean, given.deviation, draw)
				: given.distribution === 'triangular'
					? distributions.triangular(low, high, given.likeliest, draw)
					: given.distribution === 'shares'
						? distributions.byShares(readShares(given.shares), draw)
						: random(low, high, context.stream(`draw ${seed}`), whole);
		return { value, vector: distributions.vectorIn(given, draw) };
	}
});

function readShares(given: string): number[] {
	const shares = given
		.split(/[\s,]+/)
		.filter(Boolean)
		.map(Number);
	if (shares.length > 1000 || !shares.every((share) => share >= 0 && share < 1e12))
		throw new NodeError('“Shares” are positive numbers with commas between them, such as 3, 1, 1.', {
			input: 'shares'
		});
	if (!shares.some((share) => share > 0))
		throw new NodeError('One of the “Shares” must be more than 0.', { input: 'shares' });
	return shares;
}
