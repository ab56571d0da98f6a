import { NodeError } from '../../math/index.ts';
import { allocate, column, setInPieces, tablesOf, withColumns, withTable } from '../../geometry/index.ts';
import type { Kind } from '../../geometry/index.ts';
import { runningTotals } from '../../kernels/running-total.ts';
import { defineNode, geometry, list, output, text, value, yesNo } from '../define.ts';
import { checkNumbers, listOf, sortKeys } from '../list.ts';
import { either } from '../values/thinning-tools.ts';
import { ELEMENTS, checkNewName, elementsInput } from './attribute-tools.ts';

export const runningTotal = defineNode({
	id: 'running-total',
	version: 1,
	name: 'Running total',
	family: 'attributes',
	words: ['cumulative sum', 'accumulate', 'prefix sum', 'add up', 'stack'],
	help: 'Adds a value up from the first element to each: where things of different widths lie one after another, this is where each begins or ends.',
	withNothing: 'With nothing connected it waits for geometry or a list.',
	example: { wires: { geometry: 'marked' } },
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'Its elements are gone through in order.',
			needs: 'anything',
			optional: true,
			when: either
		}),
		list: list({ label: 'List', help: 'A list whose values are added up.', optional: true, when: either }),
		value: value({ label: 'Value', help: 'What is added up on the geometry.', default: 1, varies: 'point' }),
		elements: elementsInput,
		own: yesNo({
			label: 'Own value too',
			help: 'Each sum counts its own element; otherwise only those before it.',
			default: true
		}),
		perCurve: yesNo({
			label: 'Anew on each curve',
			help: 'On points of curves the sum begins again with each curve.',
			default: true
		}),
		name: text({
			label: 'Name',
			help: 'The attribute that gets the sums.',
			default: 'total',
			attribute: true
		})
	},
	outputs: {
		geometry: output('geometry', 'Geometry', 'The same with the sums.'),
		list: output('list', 'List', 'The sums of the list.')
	},
	run({ geometry, list, value, elements, own, perCurve, name }, context) {
		if (!geometry && !list) throw new NodeError('Connect geometry or a list.', { input: 'geometry' });
		checkNewName(name, 'name');
		const out: Record<string, unknown> = {};
		if (list) {
			checkNumbers(list, 'List', 'list');
			out.list = listOf('number', runningTotals(sortKeys(list), own));
		}
		if (geometry) {
			const kind = elements as Kind;
			let made = geometry;
			const tables = tablesOf(geometry, kind);
			if (!tables.length) context.warn(`There are no ${ELEMENTS[kind]} here, so nothing was added up.`);
			for (const { part, table } of tables) {
				const starts =
					perCurve && part === 'curves' && kind === 'point' ? geometry.curves!.starts : undefined;
				const sums = runningTotals(context.numbers(value, { geometry, part, kind }), own, starts);
				const data = allocate('float', sums.length);
				setInPieces(data, sums);
				made = withTable(made, part, kind, withColumns(table, { [name]: column('float', 'plain', data) }));
			}
			out.geometry = made;
		}
		return out as never;
	}
});
