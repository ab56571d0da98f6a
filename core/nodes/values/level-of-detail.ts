import { constant } from '../../varying/index.ts';
import { defineNode, number, output } from '../define.ts';

const SHARES = [1, 0.5, 0.25];

export const levelOfDetail = defineNode({
	id: 'level-of-detail',
	version: 1,
	name: 'Level of detail',
	family: 'values',
	words: ['LOD', 'detail', 'quality', 'segments', 'resolution', 'export levels'],
	help: 'How coarse the result shall be: 0 with all of it, 1 with less, 2 with least. Let counts and segments hang from it, by wire or by a formula such as 24 / 2 ^ levelOfDetail.level. An export may write all three.',
	inputs: {
		level: number({
			label: 'Detail',
			help: 'What is looked at. An export of all levels sets it by itself.',
			default: 0,
			min: 0,
			max: 2,
			slider: [0, 2],
			whole: true
		})
	},
	givesOne: true,
	outputs: {
		level: output('whole', 'Level', '0, 1 or 2.'),
		share: output('number', 'Factor', '1, ½ and ¼: what counts are multiplied by.')
	},
	run: ({ level }) => ({ level: constant(level), share: constant(SHARES[level]) })
});
