import { choice, defineNode, geometry, number, output } from '../define.ts';
import { body } from '../repeat/subgraph.ts';
import { placingEstimate, placingInputs } from './placing.ts';

/** Above so many different shapes the values must be rounded more. */
export const MOST_SHAPES = 20_000;

export const varyEachCopy = defineNode({
	id: 'vary-each-copy',
	version: 1,
	name: 'Vary each copy',
	family: 'copies',
	words: ['unique', 'each different', 'for each', 'variation'],
	help: 'Puts a copy at every point, each of a shape of its own, which its body makes. Every input of the body is a setting here that may differ from copy to copy: an attribute, the index, a distance, a random range. Copies for which all of them are equal share one shape.',
	inputs: {
		body,
		points: geometry({
			label: 'Points',
			help: 'Where copies go: loose points, or the points of a mesh or curve.',
			needs: 'anything'
		}),
		rounding: choice({
			label: 'Rounding',
			help: 'Fewer different values make fewer shapes. In so many steps: evenly between the limits of the body’s input; where it has none, from the least value to the greatest.',
			default: 'steps',
			options: [
				{ id: 'steps', label: 'In so many steps' },
				{ id: 'size', label: 'To a step size' },
				{ id: 'none', label: 'Not at all' }
			]
		}),
		roundingSteps: number({
			label: 'Different values',
			help: 'How many different values each number may have.',
			default: 16,
			min: 1,
			max: MOST_SHAPES,
			slider: [1, 64],
			whole: true,
			when: (s) => s.rounding === 'steps'
		}),
		stepSize: number({
			label: 'Step size',
			help: 'Numbers are rounded to multiples of it.',
			default: 0.1,
			min: 0,
			when: (s) => s.rounding === 'size'
		}),
		randomness: choice({
			label: 'Random numbers inside',
			help: 'Whether the random numbers in the body are the same for all shapes.',
			default: 'own',
			options: [
				{ id: 'own', label: 'Each shape its own' },
				{ id: 'same', label: 'The same for all' }
			]
		}),
		...placingInputs
	},
	outputs: { copies: output('geometry', 'Copies', 'The copies, with the attributes of their points.') },
	estimate: ({ points }) => placingEstimate(points),
	withNothing: 'It waits for points, and for a body that makes shapes.',
	example: {
		settings: { swell: { formula: 'u', streams: [] }, scale: 2 },
		wires: { points: 'row' },
		body: [
			['input', 'swell', { name: 'swell', carries: 'number', default: 0.5 }],
			['sphere', 'float', { radius: { formula: '0.05 + 0.12 * swell.value', streams: [] } }],
			['output', 'shape', { name: 'shape', carries: 'geometry' }, { value: 'float.mesh' }]
		]
	},
	body: true,
	ownPorts: true
});
