import { choice, defineNode, number, yesNo } from '../define.ts';
import { body } from './subgraph.ts';

export const repeat = defineNode({
	id: 'repeat',
	version: 1,
	name: 'Repeat',
	family: 'repeat',
	words: ['loop', 'iterate', 'iteration', 'for each', 'recursion', 'again'],
	help: 'Evaluates its body pass after pass. The inputs of the body say what goes into each pass: what came out of the last (carried), always the same, or one of several. Its outputs are those of the last pass, or of all passes in one. Formulas inside know pass (from 0), passes and progress, from above 0 to 1; outer.pass is that of the next repeat further out.',
	inputs: {
		body,
		until: choice({
			label: 'How many passes',
			help: 'So many, or one for each value of the inputs that take one of several in each pass.',
			default: 'number',
			options: [
				{ id: 'number', label: 'A number' },
				{ id: 'counted', label: 'One for each of several' }
			]
		}),
		passes: number({
			label: 'Passes',
			help: 'How often the body is evaluated. With 0 what is carried goes straight through.',
			default: 4,
			min: 0,
			slider: [1, 20],
			whole: true,
			when: (s) => s.until !== 'counted'
		}),
		same: yesNo({
			label: 'The same in all passes',
			help: 'Whether all passes draw the same random numbers. Otherwise each pass has its own.',
			default: false
		})
	},
	outputs: {},
	withNothing: 'It waits for a body; a new one hands through what is carried.',
	example: {
		settings: { passes: 9 },
		body: [
			['box', 'step', { size: [1, 0.12, { formula: '0.4 - 0.2 * progress', streams: [] }] }],
			[
				'transform',
				'up',
				{ move: [0, { formula: 'pass * 0.2', streams: [] }, { formula: 'pass * 0.35', streams: [] }] },
				{ geometry: 'step.mesh' }
			],
			[
				'output',
				'stairs',
				{ name: 'stairs', carries: 'geometry', role: 'gathered' },
				{ value: 'up.geometry' }
			]
		]
	},
	body: true,
	ownPorts: true
});
