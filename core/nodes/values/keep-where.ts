import { Growing, pollAt } from '../../geometry/index.ts';
import { plainElements } from '../../varying/index.ts';
import { defineNode, output, value, yesNo } from '../define.ts';
import { gatherList } from '../list.ts';
import {
	aboutList,
	checkConnected,
	elementsIn,
	keepElements,
	oldIndexInput,
	thinningInputs
} from './thinning-tools.ts';

export const keepWhere = defineNode({
	id: 'keep-where',
	version: 1,
	name: 'Keep where',
	family: 'values',
	words: ['filter', 'condition', 'where', 'if', 'query', 'mask', 'reduce', 'thinning'],
	help: 'Keeps what a condition is true for: points, curves, faces, copies or values of a list. The condition may use index, position and every attribute, such as index % 5 < 2 and height > 0.1; of a list, index and value.',
	withNothing: 'With nothing connected it waits for geometry or a list.',
	example: {
		settings: { condition: { formula: 'position.x > 0', streams: [] } },
		wires: { geometry: 'sown' }
	},
	inputs: {
		...thinningInputs,
		condition: value({
			label: 'Condition',
			help: 'Yes or no, or a number that is not 0, for each.',
			default: 1,
			varies: 'point'
		}),
		invert: yesNo({ label: 'Invert', help: 'Keeps what it is not true for.', default: false }),
		oldIndex: oldIndexInput
	},
	outputs: {
		geometry: output('geometry', 'Geometry', 'What is left of the geometry.'),
		list: output('list', 'List', 'What is left of the list.')
	},
	run({ geometry, list, elements, condition, invert, oldIndex }, context) {
		checkConnected(geometry, list);
		const rowsOf = (met: ArrayLike<number>) => {
			const rows = new Growing('index');
			for (let i = 0; i < met.length; i++) {
				pollAt(i);
				if ((met[i] !== 0) !== invert) rows.push(i);
			}
			return rows.take();
		};
		const found = geometry && elementsIn(geometry, elements, context.warn);
		const kept = found
			? keepElements(
					geometry,
					found,
					rowsOf(context.yesNos(condition, { geometry, part: found.part, kind: found.kind })),
					oldIndex
				)
			: geometry;
		const rows = list && rowsOf(context.numbersOn(aboutList(condition, list), plainElements(list.length)));
		return {
			...(kept && { geometry: kept }),
			...(list && { list: gatherList(list, rows!) })
		} as never;
	}
});
