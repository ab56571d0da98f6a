import { trimCurves } from '../../kernels/comb.ts';
import { treeOfMesh } from '../../kernels/nearest.ts';
import { defineNode, geometry, output } from '../define.ts';

export const trimByObject = defineNode({
	id: 'trim-by-object',
	version: 1,
	name: 'Trim by object',
	family: 'growth',
	words: ['cut', 'shear', 'crop', 'clip strands', 'mow'],
	help: 'Curves end where they first go through a mesh.',
	inputs: {
		strands: geometry({ label: 'Strands', help: 'The curves that are cut.', needs: 'curves' }),
		object: geometry({ label: 'Object', help: 'The mesh at which they end.', needs: 'mesh' })
	},
	outputs: { strands: output('geometry', 'Strands', 'What is left of them.') },
	run: ({ strands, object }) => ({
		strands: object.mesh!.faces.count
			? { ...strands, curves: trimCurves(strands.curves!, treeOfMesh(object.mesh!)) }
			: strands
	})
});
