import type { Geometry, Kind } from '../../geometry/index.ts';
import { allocate, column, pollAt, tableOf, tablesOf, withColumns, withTable } from '../../geometry/index.ts';
import { rowsBefore } from '../../kernels/remembered.ts';
import type { Varying } from '../../varying/index.ts';
import { attribute, elementsOf, typeOn } from '../../varying/index.ts';
import { ELEMENTS, checkNewName, kindChoice } from '../attributes/attribute-tools.ts';
import { defineNode, geometry, number, output, text, value } from '../define.ts';

export const earlierValue = defineNode({
	id: 'earlier-value',
	version: 1,
	name: 'Earlier value',
	family: 'motion',
	words: ['delay', 'previous', 'history', 'lag', 'chain', 'echo', 'frames ago', 'trail'],
	help: 'What a value was some frames ago, for each element that was there then. What is new has the value of now.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'On whose elements it is worked out.', needs: 'anything' }),
		value: value({ label: 'Value', help: 'What is looked back at.', default: 0, varies: 'point' }),
		frames: number({
			label: 'Frames ago',
			help: 'How far back.',
			default: 6,
			min: 0,
			max: 10_000,
			slider: [0, 60],
			whole: true
		}),
		elements: kindChoice('Elements', 'The kind of element that holds it.', 'point'),
		name: text({
			label: 'Name',
			help: 'The attribute in which it is carried.',
			default: 'earlier',
			attribute: true
		})
	},
	outputs: {
		geometry: output('geometry', 'Geometry', 'The same, carrying the earlier value.'),
		value: output('value', 'Value', 'The earlier value, on whatever comes of this geometry.')
	},
	body: true,
	looksBack: ({ frames }, { frame }) => [frame - frames],
	run({ geometry, value, elements, name }, context) {
		checkNewName(name, 'name');
		const kind = elements as Kind;
		const then = context.past[0].inputs as { geometry: Geometry; value: Varying };
		let out = geometry;
		const tables = tablesOf(geometry, kind);
		if (!tables.length) context.warn(`There are no ${ELEMENTS[kind]} here, so nothing was looked back at.`);
		for (const { part, table } of tables) {
			const where = { geometry, part, kind };
			const isVector = typeOn(value, elementsOf(geometry, part, kind)) === 'vector';
			const width = isVector ? 3 : 1;
			const at = (of: Geometry, one: Varying) =>
				isVector
					? context.vectors(one, { ...where, geometry: of })
					: context.numbers(one, { ...where, geometry: of });
			const now = at(geometry, value);
			const before = tableOf(then.geometry, part, kind);
			const data = allocate('float', table.count * width);
			data.set(now);
			if (before?.count) {
				const old = at(then.geometry, then.value);
				const { count, ids } = before;
				const rows = rowsBefore({ part, kind, count, ids, data: new Float64Array(0) }, table);
				for (let i = 0; i < table.count; i++) {
					pollAt(i);
					const row = rows ? rows[i] : i;
					if (row >= 0) for (let k = 0; k < width; k++) data[width * i + k] = old[width * row + k];
				}
			}
			const made = column(isVector ? 'vec3' : 'float', 'plain', data);
			out = withTable(out, part, kind, withColumns(table, { [name]: made }));
		}
		return { geometry: out, value: attribute(name) };
	}
});
