/** Questions about a table of a node, and their answers. */
import { NodeError } from '../math/index.ts';
import { nearestPlace } from './element-tables.ts';
import type { Answer, Request } from './messages.ts';
import type { TableReader } from './table-reader.ts';
import type { DataTable } from './tables.ts';

export type TableRequest = Extract<Request, { kind: 'table' | 'statistics' | 'row' | 'written' }>;

/** The answer to a question about one of a node's tables: the one that is named, or else the first. */
export function answered(request: TableRequest, tables: readonly DataTable[], reader: TableReader): Answer {
	const { ask, about } = request;
	if (request.kind === 'table') return { kind: 'table', ask, window: reader.window(tables, about) };
	const table = tables.find(({ key }) => key === about.table) ?? tables[0];
	if (!table) throw new NodeError('There is no table here any more.');
	switch (request.kind) {
		case 'statistics': {
			const [one, other] = request.columns;
			return {
				kind: 'statistics',
				ask,
				statistics: request.columns.map((column) => reader.statistics(table, about, column)),
				correlation: other === undefined ? null : reader.correlation(table, about, [one, other])
			};
		}
		case 'row': {
			const { places } = table;
			const row = typeof request.row === 'number' ? request.row : nearestPlace(places ?? [], request.row).row;
			const at = places && row >= 0 && row < table.count ? [...places.subarray(3 * row, 3 * row + 3)] : null;
			return { kind: 'row', ask, row, place: reader.placeOf(table, about, row), at };
		}
		case 'written':
			return { kind: 'written', ask, bytes: reader.written(table, about) };
	}
}
