/** Inputs of a repeat of which each pass takes one: values of a list, or elements of a geometry. */
import { NodeError } from '../../math/index.ts';
import type { Geometry, Kind, PartName } from '../../geometry/index.ts';
import { PART_NAMES, geometryOf, keepRows, partKind, tableOf } from '../../geometry/index.ts';
import type { List } from '../../nodes/index.ts';
import { gatherList } from '../../nodes/index.ts';
import { constant, constantYesNo, lengthOfList, plainElements, vector } from '../../varying/index.ts';
import type { Port } from '../document.ts';
import type { Arrival } from '../scope.ts';
import { isGeometry, isList, isVarying } from '../values.ts';
import type { Tools } from './body.ts';

/** What arrives at one such input, taken apart pass by pass. */
type Several =
	| { kind: 'values'; carries: Port['carries']; width: 1 | 3; data: Float64Array }
	| { kind: 'list'; list: List; key: string }
	| { kind: 'elements'; geometry: Geometry; part: PartName; of: Kind; count: number; key: string };

export interface Counted {
	passes: number;
	values: ReadonlyMap<string, Several>;
}

/** The order in which parts are looked for whose elements are taken one by one: the first that a geometry has. */
const ORDER: Readonly<Record<PartName, number>> = { points: 0, copies: 1, curves: 2, mesh: 3 };
const ONE_BY_ONE = [...PART_NAMES].sort((a, b) => ORDER[a] - ORDER[b]);

/** @param wanted how many passes; null for as many as the longest of them has values. */
export function countedAt(
	ports: readonly Port[],
	arrivals: ReadonlyMap<string, Arrival>,
	wanted: number | null,
	{ context }: Tools
): Counted {
	const counted = ports.filter(({ role, name }) => role === 'counted' && arrivals.has(name));
	const lengths = counted.map(({ name }) => lengthOf(arrivals.get(name)!)).filter((n) => n !== null);
	if (wanted === null && !lengths.length)
		throw new NodeError(
			'No list and no geometry arrives at an input that takes one of several in each pass. Connect one, or choose a number of passes.',
			{ input: 'until' }
		);
	const passes = wanted ?? Math.max(...lengths);
	const values = new Map<string, Several>();
	for (const { name, carries } of counted) {
		const { value, key } = arrivals.get(name)!;
		if (isGeometry(value)) values.set(name, elementsOf(value, key));
		else if (isList(value)) values.set(name, { kind: 'list', list: value, key });
		else if (isVarying(value)) {
			const width = carries === 'vector' || carries === 'colour' ? 3 : 1;
			const data = context().numbersOn(value, plainElements(Math.max(1, Math.min(passes, 100_000))), width);
			values.set(name, { kind: 'values', carries, width, data });
		}
	}
	return { passes, values };
}

function lengthOf({ value }: Arrival): number | null {
	if (isList(value)) return value.length;
	if (isVarying(value)) return lengthOfList(value);
	if (!isGeometry(value)) return null;
	const of = elementsOf(value, '');
	return of.kind === 'elements' ? of.count : 0;
}

function elementsOf(geometry: Geometry, key: string): Several {
	for (const part of ONE_BY_ONE) {
		const of = partKind(part).each;
		const count = of ? (tableOf(geometry, part, of)?.count ?? 0) : 0;
		if (of && count) return { kind: 'elements', geometry, part, of, count, key };
	}
	return { kind: 'elements', geometry, part: 'points', of: 'point', count: 0, key };
}

/** What of it goes into a pass: fewer values than passes begin again. Null where there is none. */
export function partOf(several: Several, pass: number): Arrival | null {
	switch (several.kind) {
		case 'values': {
			const { carries, width, data } = several;
			const i = width * (pass % (data.length / width));
			const value =
				carries === 'yesno'
					? constantYesNo(data[i] !== 0)
					: width === 3
						? vector(data[i], data[i + 1], data[i + 2])
						: constant(data[i]);
			return { value, key: value.hash };
		}
		case 'list': {
			const { list, key } = several;
			if (!list.length) return null;
			const place = pass % list.length;
			return { value: gatherList(list, [place]), key: `${key} ${place}` };
		}
		case 'elements': {
			const { geometry, part, of, count, key } = several;
			if (!count) return null;
			const row = pass % count;
			const { whole, materials } = geometry;
			const one = keepRows(geometry, part, of, Uint32Array.of(row));
			return { value: geometryOf({ whole, materials, [part]: one[part] }), key: `${key} ${row}` };
		}
	}
}
