import { Growing, keepRows, tableOf } from '../../geometry/index.ts';
import { choice, defineNode, geometry, number, output, yesNo } from '../define.ts';
import { weightInputs, weightsOn } from '../weights/weight-tools.ts';

export const deleteWhere = defineNode({
	id: 'delete-where',
	version: 1,
	name: 'Delete where',
	family: 'meshes',
	words: ['remove', 'erase', 'filter', 'select', 'keep where', 'prune', 'clip'],
	help: 'Takes away faces, curves, points or copies where a weight is high. What stays keeps its identity, so random values stay with it.',
	renamed: [{ before: 2, inputs: { what: 'elements' } }],
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What is thinned.', needs: 'anything' }),
		elements: choice({
			label: 'Elements',
			help: 'Which elements go. Points that no face uses any more go with the faces.',
			default: 'face',
			options: [
				{ id: 'copy', label: 'Copies' },
				{ id: 'curve', label: 'Curves' },
				{ id: 'face', label: 'Faces' },
				{ id: 'point', label: 'Loose points' }
			]
		}),
		...weightInputs,
		weight: number({
			...weightInputs.weight,
			help: 'Elements with more than the threshold go. Wire a weight in, or type a formula.',
			default: 0,
			varies: 'face'
		}),
		threshold: number({
			label: 'Threshold',
			help: 'From which weight on elements go.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01
		}),
		invert: yesNo({ label: 'Invert', help: 'Only those above the threshold stay.', default: false })
	},
	outputs: { geometry: output('geometry', 'Geometry', 'What is left.') },
	run({ geometry, elements, weight, strength, weightAt, threshold, invert }, context) {
		const kind = elements as keyof typeof FOUND;
		const { part, called } = FOUND[kind];
		const table = tableOf(geometry, part, kind);
		if (!table) {
			context.warn(`There are no ${called} here.`);
			return { geometry };
		}
		const weights = weightsOn(context, { weight, strength, weightAt }, { geometry, part, kind });
		const rows = new Growing('index');
		for (let i = 0; i < table.count; i++) if (weights[i] > threshold === invert) rows.push(i);
		return { geometry: keepRows(geometry, part, kind, rows.take()) };
	}
});

const FOUND = {
	copy: { part: 'copies', called: 'copies' },
	curve: { part: 'curves', called: 'curves' },
	face: { part: 'mesh', called: 'faces' },
	point: { part: 'points', called: 'loose points' }
} as const;
