import { mergeGeometries } from '../../geometry/index.ts';
import { defineNode, geometry, output } from '../define.ts';

export const result = defineNode({
	id: 'result',
	version: 1,
	name: 'Result',
	family: 'in and out',
	words: ['output', 'final', 'export', 'end'],
	help: 'What the generator makes: the View shows it and exports write it.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What the generator makes. Wire as many as you like: they travel together.',
			many: true
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'All of it.') },
	// One alone stays what it is, ids and all.
	run: ({ geometry }) => ({ geometry: mergeGeometries(geometry) })
});
