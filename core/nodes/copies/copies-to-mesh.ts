import { countWrittenOut, meshOfCopies } from '../../kernels/mesh-of-copies.ts';
import { defineNode, geometry, output } from '../define.ts';

export const copiesToMesh = defineNode({
	id: 'copies-to-mesh',
	version: 1,
	name: 'Copies to mesh',
	family: 'copies',
	words: ['flatten', 'bake', 'expand', 'instances', 'real faces'],
	help: 'Writes every copy out as points and faces of its own, so that nodes which need a mesh can work on them. Points keep the attributes that their copy had. This takes memory for each copy.',
	inputs: {
		copies: geometry({
			label: 'Copies',
			help: 'The copies to write out. What else arrives goes through.',
			needs: 'anything'
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'One geometry without copies; points know theirs in “copy”.') },
	estimate: ({ copies }) => ({
		elements: countWrittenOut(copies),
		of: 'points',
		lower: 'Use fewer copies or a simpler source.'
	}),
	run: ({ copies }) => ({ mesh: copies.copies ? meshOfCopies(copies) : copies })
});
