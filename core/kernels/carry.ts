/** Values of an attribute carried from one kind of element to another, in one of several ways. */
import type { Column, Geometry, Kind, Part } from '../geometry/index.ts';
import { WIDTH, allocateData, convertColumn, pollAt, relate } from '../geometry/index.ts';

export type Carry = 'mean' | 'sum' | 'least' | 'greatest' | 'first';

/**
 * @param how what becomes of several values on one element. Mean goes by role, as wherever values are read on other elements;
 * the others go part by part of a vector. Without any, the column's default.
 */
export function carried(
	geometry: Geometry,
	part: Part,
	source: Column,
	{ from, to, how }: { from: Kind; to: Kind; how: Carry }
): Column {
	if (from === to) return source;
	if (how === 'mean' || from === 'whole') return convertColumn(geometry, part, source, from, to);
	const { starts, items } = relate(geometry, part, from, to);
	const count = starts.length - 1;
	const width = WIDTH[source.type];
	// A sum of yes and no counts the yes.
	const type = how === 'sum' && source.type === 'bool' ? 'int' : source.type;
	const data = allocateData(type, count);
	const take = TAKE[how === 'first' || source.type === 'text' ? 'first' : how];
	for (let i = 0; i < count; i++) {
		pollAt(i);
		for (let k = 0; k < width; k++) {
			let value = source.default[k];
			for (let m = starts[i]; m < starts[i + 1]; m++) {
				const next = source.data[items[m] * width + k];
				value = m === starts[i] ? next : take(value, next);
			}
			data[i * width + k] = value;
		}
	}
	return { ...source, type, data, role: how === 'sum' && source.role === 'id' ? 'plain' : source.role };
}

const TAKE: Readonly<Record<Exclude<Carry, 'mean'>, (a: number, b: number) => number>> = {
	sum: (a, b) => a + b,
	least: (a, b) => (b < a ? b : a),
	greatest: (a, b) => (b > a ? b : a),
	first: (a) => a
};
