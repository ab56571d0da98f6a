/** Some of the elements of a geometry, of whatever kind: their columns, their ids, and all that hangs from them. */
import type { Part } from './convert.ts';
import type { Geometry, Kind } from './geometry.ts';
import { partsOf } from './parts/index.ts';

/**
 * The geometry with some rows of one kind of element, in the order given. Of a mesh whose faces are kept only the points
 * that they use stay, of curves all of theirs; copies keep their sources.
 */
export function keepRows(geometry: Geometry, part: Part, kind: Kind, rows: Uint32Array): Geometry {
	const found = partsOf(geometry).find(({ name }) => name === part);
	const keep = found?.part.tables[kind]?.keep;
	if (!found || !keep) throw new Error(`Rows of ${kind} in ${part} cannot be kept by themselves.`);
	return { ...geometry, [part]: keep(found.own, rows) };
}
