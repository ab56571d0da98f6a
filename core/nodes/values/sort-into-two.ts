import { Growing, pollAt } from '../../geometry/index.ts';
import { plainElements } from '../../varying/index.ts';
import { defineNode, output, value } from '../define.ts';
import { gatherList } from '../list.ts';
import {
	aboutList,
	checkConnected,
	elementsIn,
	keepElements,
	oldIndexInput,
	thinningInputs
} from './thinning-tools.ts';

export const sortIntoTwo = defineNode({
	id: 'sort-into-two',
	version: 1,
	name: 'Sort into two',
	family: 'values',
	words: ['split', 'partition', 'separate', 'branch', 'divide', 'filter'],
	help: 'Parts elements, or values of a list, into those that a condition is true for and all others. Both keep their order and their old numbers.',
	withNothing: 'With nothing connected it waits for geometry or a list.',
	example: {
		settings: { condition: { formula: 'position.x > 0', streams: [] } },
		wires: { geometry: 'sown' }
	},
	inputs: {
		...thinningInputs,
		condition: value({
			label: 'Condition',
			help: 'Yes or no, or a number that is not 0, for each: index % 2 == 0, say. Of a list, it may use index and value.',
			default: 1,
			varies: 'point'
		}),
		oldIndex: oldIndexInput
	},
	outputs: {
		met: output('geometry', 'Met', 'The elements it is true for.'),
		others: output('geometry', 'Others', 'All other elements.'),
		listMet: output('list', 'List, met', 'The values it is true for.'),
		listOthers: output('list', 'List, others', 'All other values.')
	},
	run({ geometry, list, elements, condition, oldIndex }, context) {
		checkConnected(geometry, list);
		const part = (met: ArrayLike<number>) => {
			const sides = [new Growing('index'), new Growing('index')];
			for (let i = 0; i < met.length; i++) {
				pollAt(i);
				sides[met[i] !== 0 ? 0 : 1].push(i);
			}
			return sides.map((side) => side.take());
		};
		const out: Record<string, unknown> = {};
		const found = geometry && elementsIn(geometry, elements, context.warn);
		if (found) {
			const sides = part(context.yesNos(condition, { geometry, part: found.part, kind: found.kind }));
			[out.met, out.others] = sides.map((rows) => keepElements(geometry, found, rows, oldIndex));
		} else if (geometry) out.met = geometry;
		if (list) {
			const sides = part(context.numbersOn(aboutList(condition, list), plainElements(list.length)));
			[out.listMet, out.listOthers] = sides.map((rows) => gatherList(list, rows));
		}
		return out as never;
	}
});
