import { defineNode, geometry, output } from '../define.ts';

export const result = defineNode({
	id: 'result',
	version: 1,
	name: 'Result',
	family: 'in and out',
	words: ['output', 'final', 'export', 'end'],
	help: 'What the generator makes: the View shows it and exports write it.',
	inputs: { geometry: geometry({ label: 'Geometry', help: 'What the generator makes.' }) },
	outputs: { geometry: output('geometry', 'Geometry', 'The same.') },
	run: ({ geometry }) => ({ geometry })
});
