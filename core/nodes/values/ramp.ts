import { rampOf } from '../../varying/index.ts';
import { defineNode, output, ramp } from '../define.ts';

export const rampNode = defineNode({
	id: 'ramp',
	version: 1,
	name: 'Ramp',
	family: 'values',
	words: ['gradient', 'curve', 'profile', 'easing'],
	help: 'A ramp that several nodes may share. Wire it into theirs; swap the wire to swap the ramp.',
	inputs: {
		ramp: ramp({
			label: 'Ramp',
			help: 'Numbers at stops from 0 to 1.',
			default: rampOf('smooth', [0, 0], [1, 1])
		})
	},
	outputs: { ramp: output('ramp', 'Ramp', 'The ramp itself.') },
	run: ({ ramp }) => ({ ramp: { kind: 'ramp', stops: ramp.stops } })
});
