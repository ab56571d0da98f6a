/** Facts about a geometry: bounds, areas, lengths, and a digest of all it holds. */
import { Hasher, formatCount, plural } from '../math/index.ts';
import { bitsOf, pollAt, scratch } from './allocate.ts';
import { allTables } from './convert.ts';
import { faceAreas } from './derive.ts';
import { derive, together } from './kept.ts';
import type { Counts, Curves, Geometry, Kind, Material } from './geometry.ts';
import { positionsOf } from './geometry.ts';
import { PART_NAMES, partKind, partsOf } from './parts/index.ts';
import type { Asked, Bounds, SourceBoxes } from './reach.ts';
import { Box, includeBounds } from './reach.ts';
import type { Column, Table } from './table.ts';
import { WIDTH } from './table.ts';

export type { Bounds };

/** How many copies within copies are looked at one by one; beyond, the boxes of inner ones stand for their points. */
const MOST_INNER = 8e6;
/** How deep copies may lie within copies, as in the view. */
const DEEPEST = 16;

/** The box around every point, those of copies where they are shown; null when nothing is there. */
export function boundsOf(geometry: Geometry, depth = 0): Bounds | null {
	const make = () => {
		const box = new Box();
		let inner = 0;
		let at = depth;
		const asked = new Map<Column, Asked>();
		const inside: SourceBoxes = {
			boundsOf: (source) => (at < DEEPEST ? boundsOf(source, at + 1) : null),
			include(source, place, own) {
				at++;
				for (const { part, own: of } of partsOf(source)) {
					inner += part.counts(of).copies ?? 0;
					if (inner > MOST_INNER) includeBounds(boundsOf(source, at)!, place, own);
					else part.include(of, place, own, inside);
				}
				at--;
			},
			askedBefore(position) {
				let found = asked.get(position);
				if (!found) asked.set(position, (found = { looks: 0, extremes: null }));
				return found;
			}
		};
		for (const { part, own } of partsOf(geometry)) part.include(own, null, box, inside);
		return box.bounds();
	};
	// Boxes of positions are kept with them; only what shows others is worth keeping a box for.
	return partsOf(geometry).some(({ part }) => part.sources) ? derive(geometry, 'bounds', make) : make();
}

/** True for a geometry in which there is nothing at all. */
export const isEmpty = (geometry: Geometry): boolean =>
	partsOf(geometry).every(
		({ part, own }) => part.placed !== null && !part.tables[part.placed]!.read(own)?.count
	);

/** How many elements lie in a geometry itself; sources of copies are not looked into. */
export function countsOf(geometry: Geometry): Counts {
	const sums: Counts = { points: 0, faces: 0, curves: 0, copies: 0 };
	for (const { part, own } of partsOf(geometry))
		for (const [what, count] of Object.entries(part.counts(own))) sums[what as keyof Counts] += count;
	return sums;
}

/** The area of all faces in square metres; copies are not counted. */
export function areaOf(geometry: Geometry): number {
	let sum = 0;
	if (geometry.mesh) for (const area of faceAreas(geometry.mesh)) sum += area;
	return sum;
}

/** The key for what follows from the curves’ positions, where each begins, and which are closed. */
const pathsOf = (curves: Curves): object =>
	together(
		together(curves.points.columns.get('position')!, curves.starts),
		curves.curves.columns.get('closed')!
	);

/** For each point of the curves its distance along its curve in metres, and each curve's length. */
export function lengthsAlong(curves: Curves): { along: Float64Array; lengths: Float64Array } {
	return derive(pathsOf(curves), 'lengths along', () => {
		const p = positionsOf(curves);
		const closed = curves.curves.columns.get('closed')!.data;
		const along = scratch('double', p.length / 3);
		const lengths = scratch('double', curves.starts.length - 1);
		const between = (a: number, b: number) => {
			const x = p[3 * b] - p[3 * a],
				y = p[3 * b + 1] - p[3 * a + 1],
				z = p[3 * b + 2] - p[3 * a + 2];
			return Math.sqrt(x * x + y * y + z * z);
		};
		for (let c = 0; c < lengths.length; c++) {
			pollAt(c);
			const start = curves.starts[c],
				end = curves.starts[c + 1];
			let length = 0;
			for (let i = start + 1; i < end; i++) along[i] = length += between(i - 1, i);
			if (closed[c] && end - start > 1) length += between(end - 1, start);
			lengths[c] = length;
		}
		return { along, lengths };
	});
}

/** The length of all curves in metres. */
export function lengthOf(geometry: Geometry): number {
	let sum = 0;
	if (geometry.curves) for (const length of lengthsAlong(geometry.curves).lengths) sum += length;
	return sum;
}

/** A material as digests have always read it, in whatever order its fields were written. */
const asHashed = ({ name, colour, roughness, metallic: metal, twoSided }: Material): object => ({
	name,
	colour,
	roughness,
	metal,
	twoSided
});

/** A digest of everything a geometry holds, the same in every engine. Columns count by name, not by order. */
export function digestOf(geometry: Geometry): string {
	return derive(geometry, 'digest', () => {
		const hasher = new Hasher();
		const table = (name: string, t: Table | null) => {
			hasher.text(name).word(t ? t.count : -1);
			if (!t) return;
			for (const key of [...t.columns.keys()].sort()) {
				const c = t.columns.get(key)!;
				hasher.text(key).text(c.type).text(c.role).array(c.data, pollAt);
				if (c.words) c.words.forEach((word) => hasher.text(word));
			}
			if (t.ids) hasher.array(t.ids, pollAt);
		};
		for (const name of PART_NAMES) {
			const part = partKind(name);
			const own = geometry[name];
			const [first, ...others] = Object.values(part.tables);
			table(first.name, own && first.read(own));
			if (!own) continue;
			for (const array of part.arrays(own)) hasher.array(array, pollAt);
			for (const other of others) table(other.name, other.read(own));
			for (const source of part.sources?.(own) ?? []) hasher.text(digestOf(source));
		}
		hasher.text(JSON.stringify(geometry.materials.map(asHashed)));
		table('whole', geometry.whole);
		return hasher.digest();
	});
}

/**
 * What is wrong with the numbers of a geometry, as a sentence; null where all of them are finite.
 * @param isSound whether a column is known to be sound already.
 */
export function firstUnsound(geometry: Geometry, isSound: (column: Column) => boolean): string | null {
	for (const { kind, table } of allTables(geometry))
		for (const [name, column] of table.columns) {
			if (!(column.data instanceof Float32Array) || isSound(column)) continue;
			const count = derive(column, 'unsound', () =>
				countUnsound(column.data as Float32Array, WIDTH[column.type])
			);
			if (count)
				return `${formatCount(count)} of ${plural(table.count, NAMES[kind][0], NAMES[kind][1])} ${count === 1 ? 'has' : 'have'} a ${column.role === 'plain' ? `value “${name}”` : name} that no number says: beyond 10³⁸, or the outcome of a calculation without an answer. Lower the sizes, scales, strengths or distances.`;
		}
	return null;
}

const NAMES: Readonly<Record<Kind, readonly [string, string]>> = {
	point: ['point', 'points'],
	edge: ['edge', 'edges'],
	face: ['face', 'faces'],
	corner: ['corner', 'corners'],
	curve: ['curve', 'curves'],
	copy: ['copy', 'copies'],
	whole: ['geometry', 'geometries']
};

/** The bits of a number’s exponent; with all of them set, adding their lowest makes a sign. */
const EXPONENT = 0x7f800000,
	LOWEST = 0x00800000;

/** Of rows of `width` numbers those that are not all finite. */
function countUnsound(data: Float32Array, width: number): number {
	// All bits of the exponent are set where it is none. Four at a time, so that none waits for the one before.
	const bits = bitsOf(data);
	const whole = data.length - (data.length % 4);
	let none = 0;
	for (let i = 0; i < whole; i += 4) {
		pollAt(i);
		none |=
			((bits[i] & EXPONENT) + LOWEST) |
			((bits[i + 1] & EXPONENT) + LOWEST) |
			((bits[i + 2] & EXPONENT) + LOWEST) |
			((bits[i + 3] & EXPONENT) + LOWEST);
	}
	for (let i = whole; i < data.length; i++) none |= (bits[i] & EXPONENT) + LOWEST;
	if (none >= 0) return 0;
	let count = 0;
	for (let row = 0; row < data.length; row += width) {
		pollAt(row);
		let sum = 0;
		for (let k = row; k < row + width; k++) sum += data[k] - data[k];
		if (sum !== 0) count++;
	}
	return count;
}
