import { operate } from '../../varying/index.ts';
import { defineNode, number, output, value, yesNo } from '../define.ts';
import { clamped } from '../weights/weight-tools.ts';

export const mix = defineNode({
	id: 'mix',
	version: 1,
	name: 'Mix',
	family: 'values',
	words: ['blend', 'interpolate', 'lerp', 'average', 'crossfade', 'between'],
	help: 'A value between two others: numbers, vectors or colours. For shapes there is “Morph”.',
	inputs: {
		first: value({ label: 'First', help: 'Where the blend is 0.', default: 0, varies: 'point' }),
		second: value({ label: 'Second', help: 'Where the blend is 1.', default: 1, varies: 'point' }),
		share: number({
			label: 'Blend',
			help: 'How far on the way from the first to the second.',
			default: 0.5,
			slider: [0, 1],
			step: 0.01,
			varies: 'point'
		}),
		within: yesNo({
			label: 'Within 0 and 1',
			help: 'A blend outside counts as the nearer end.',
			default: true
		})
	},
	outputs: { value: output('value', 'Value', 'The mixture.') },
	run: ({ first, second, share, within }) => ({
		value: operate('mix', [first, second, within ? clamped(share) : share])
	})
});
