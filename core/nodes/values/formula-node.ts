import { defineNode, formula, output } from '../define.ts';

export const formulaNode = defineNode({
	id: 'formula',
	version: 1,
	name: 'Formula',
	family: 'values',
	words: [
		'expression',
		'math',
		'calculate',
		'equation',
		'function',
		'add',
		'multiply',
		'sine',
		'vector',
		'clamp',
		'lerp',
		'remap',
		'if',
		'compare'
	],
	help: 'A value worked out by a formula. Its inputs are yours: add them, name them, wire them. index, count, position, normal, u and the attributes of the geometry are read where the value is used. noise(position) is the same everywhere, so that what lies side by side fits together; noise(position, 2) is another, independent one.',
	inputs: {
		formula: formula({
			label: 'Formula',
			help: 'Mathematical notation, such as 2 * sin(x) + random(0, 1). Angles are in radians.',
			default: 'x'
		})
	},
	outputs: { value: output('value', 'Value', 'What the formula gives.') },
	ownInputs: true,
	run: ({ formula }) => ({ value: formula })
});
