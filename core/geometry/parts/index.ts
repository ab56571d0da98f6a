/** The parts of a geometry. A new one is a file here, a line in this list and a field of `Geometry`. */
import type { Geometry, Kind } from '../geometry.ts';
import type { Table } from '../table.ts';
import { copiesPart } from './copies.ts';
import { curvesPart } from './curves.ts';
import { meshPart } from './mesh.ts';
import type { PartKind } from './part.ts';
import { pointsPart } from './points.ts';

/** In the order in which a digest counts them, and in which messages name them. */
const PARTS = { mesh: meshPart, curves: curvesPart, points: pointsPart, copies: copiesPart };

export type PartName = keyof typeof PARTS;

export const PART_NAMES = Object.keys(PARTS) as readonly PartName[];

/** What a part says about itself, for whoever goes over all of them and does not care which it is. */
export const partKind = (name: PartName): PartKind<unknown> => PARTS[name] as PartKind<unknown>;

/** The parts that are there. */
export function partsOf(geometry: Geometry): { name: PartName; part: PartKind<unknown>; own: unknown }[] {
	const found: { name: PartName; part: PartKind<unknown>; own: unknown }[] = [];
	for (const name of PART_NAMES)
		if (geometry[name]) found.push({ name, part: partKind(name), own: geometry[name] });
	return found;
}

/** Whether there is anything that lies here itself, and is not shown by copies. */
export const hasOwnElements = (geometry: Geometry): boolean =>
	partsOf(geometry).some(({ part }) => !part.sources);

/** The parts whose elements stand somewhere, with the tables of these: points, and copies. */
export function placedIn(geometry: Geometry): { part: PartName; kind: Kind; table: Table }[] {
	return partsOf(geometry).flatMap(({ name, part, own }) => {
		const table = part.placed && part.tables[part.placed]!.read(own);
		return table ? [{ part: name, kind: part.placed!, table }] : [];
	});
}

/** Every table of points anew. */
export function withPoints(geometry: Geometry, make: (table: Table) => Table): Geometry {
	const parts = partsOf(geometry).map(({ name, part, own }) => {
		const points = part.placed === 'point' ? part.tables.point! : null;
		return [name, points ? points.write(own, make(points.read(own)!)) : own];
	});
	return { ...geometry, ...Object.fromEntries(parts) };
}
