import { NodeError } from '../../math/index.ts';
import { PART_NAMES, PLACE_COLUMNS, partKind, tableOf, withTable } from '../../geometry/index.ts';
import type { Kind } from '../../geometry/index.ts';
import { choice, defineNode, geometry, output, text } from '../define.ts';

export const removeAttribute = defineNode({
	id: 'remove-attribute',
	version: 1,
	name: 'Remove attribute',
	family: 'attributes',
	words: ['delete', 'drop', 'clean up', 'strip'],
	help: 'Takes attributes away, so that exports are smaller and names are free. What says where things are stays.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What has the attributes.', needs: 'anything' }),
		method: choice({
			label: 'Method',
			help: 'Those named, or all others.',
			default: 'named',
			options: [
				{ id: 'named', label: 'Those named' },
				{ id: 'others', label: 'All but those' }
			]
		}),
		names: text({ label: 'Names', help: 'With commas between them.', default: '', attribute: true })
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same without them.') },
	run({ geometry, method, names }, context) {
		const wanted = new Set(names.split(/[\s,]+/).filter(Boolean));
		const needed = new Set([...PLACE_COLUMNS, 'source', 'closed']);
		const kept = [...wanted].find((name) => needed.has(name));
		if (method === 'named' && kept)
			throw new NodeError(`“${kept}” says where things are or how they hang together, and stays.`, {
				input: 'names'
			});
		let out = geometry;
		const missing = new Set(wanted);
		for (const part of [...PART_NAMES, 'whole' as const]) {
			const kinds: readonly Kind[] =
				part === 'whole' ? ['whole'] : (Object.keys(partKind(part).tables) as Kind[]);
			for (const kind of kinds) {
				const table = tableOf(geometry, part, kind);
				if (!table?.columns.size) continue;
				const columns = new Map(
					[...table.columns].filter(([name]) => needed.has(name) || wanted.has(name) !== (method === 'named'))
				);
				for (const name of table.columns.keys()) missing.delete(name);
				if (columns.size < table.columns.size) out = withTable(out, part, kind, { ...table, columns });
			}
		}
		if (missing.size) context.warn(`There is no attribute “${[...missing].join('”, “')}” here.`);
		return { geometry: out };
	}
});
