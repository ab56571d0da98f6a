import { defineNode, output, yesNo } from '../define.ts';

export const yesOrNo = defineNode({
	id: 'yes-or-no',
	version: 1,
	name: 'Yes or no',
	family: 'values',
	words: ['boolean', 'switch', 'checkbox', 'true', 'false', 'toggle'],
	help: 'A yes or a no that several settings may share.',
	inputs: { value: yesNo({ label: 'Value', help: 'Yes or no.', default: true, varies: 'point' }) },
	outputs: { value: output('yesno', 'Value', 'The yes or no.') },
	run: ({ value }) => ({ value })
});
