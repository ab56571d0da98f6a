/** What the View draws over elements so that they can be told apart: their order, their directions, and groups of them. */
import type { Bounds, Geometry, Table } from '../geometry/index.ts';
import * as varying from '../varying/index.ts';
import { Growing, boundsOf, floats, pollAt, scratch, placedIn } from '../geometry/index.ts';
import { NodeError, quaternion } from '../math/index.ts';
import { tangentsOf } from '../kernels/resample-curves.ts';
import type { MarkName, Marks } from './messages.ts';

/** Elements of a table that are marked; of more, every so many. */
const MOST_MARKED = 20_000;
/** How long directions are drawn, of the size of the whole. */
const LENGTH = 0.03;

/** Marks of some sorts on a geometry. `group` is a condition of points and copies, such as an attribute’s name; it may be empty. */
export function marksOf(geometry: Geometry, wanted: readonly MarkName[], group: string): Marks {
	const long = sizeOf(boundsOf(geometry)) * LENGTH || LENGTH;
	return {
		lines: wanted.map((name) => ({ name, ends: MAKERS[name](geometry, long) })),
		...groupOf(geometry, group)
	};
}

function sizeOf(bounds: Bounds | null): number {
	if (!bounds) return 0;
	const [x, y, z] = [0, 1, 2].map((k) => bounds.high[k] - bounds.low[k]);
	return Math.sqrt(x * x + y * y + z * z);
}

const stepFor = (count: number): number => Math.max(1, Math.ceil(count / MOST_MARKED));

const MAKERS: Readonly<Record<MarkName, (geometry: Geometry, long: number) => Float32Array>> = {
	order: orderLines,
	normals: (geometry, long) => directionsOf(geometry, long, 'normal'),
	tangents: tangentLines,
	x: (geometry, long) => axisLines(geometry, long, [1, 0, 0]),
	y: (geometry, long) => axisLines(geometry, long, [0, 1, 0]),
	z: (geometry, long) => axisLines(geometry, long, [0, 0, 1])
};

/** From each point to the next, in the order in which they are counted; curves stay apart. */
function orderLines(geometry: Geometry): Float32Array {
	const ends = new Growing('float');
	for (const { part, table } of placedIn(geometry)) {
		const p = floats(table, 'position');
		const starts = part === 'curves' ? geometry.curves!.starts : [0, table.count];
		for (let c = 0; c + 1 < starts.length; c++)
			for (let i = starts[c]; i + 1 < starts[c + 1] && ends.length < 6 * MOST_MARKED; i++) {
				pollAt(i);
				for (let k = 0; k < 6; k++) ends.push(p[3 * i + k]);
			}
	}
	return Float32Array.from(ends.take());
}

/** A line from each of some elements along a direction. */
function linesAlong(table: Table, long: number, directionAt: (row: number, out: number[]) => void): number[] {
	const p = floats(table, 'position');
	const step = stepFor(table.count);
	const d = [0, 0, 0];
	const ends: number[] = [];
	for (let i = 0; i < table.count; i += step) {
		pollAt(i);
		directionAt(i, d);
		for (let k = 0; k < 3; k++) ends.push(p[3 * i + k]);
		for (let k = 0; k < 3; k++) ends.push(p[3 * i + k] + long * d[k]);
	}
	return ends;
}

function directionsOf(geometry: Geometry, long: number, name: string): Float32Array {
	const ends = placedIn(geometry).flatMap(({ part, kind, table }) => {
		try {
			const { data } = varying.elementsOf(geometry, part, kind).builtin(name);
			return linesAlong(table, long, (row, d) => {
				for (let k = 0; k < 3; k++) d[k] = data[3 * row + k];
			});
		} catch (error) {
			// These elements have none.
			if (error instanceof NodeError) return [];
			throw error;
		}
	});
	return Float32Array.from(ends);
}

function tangentLines({ curves }: Geometry, long: number): Float32Array {
	if (!curves) return new Float32Array(0);
	const tangents = tangentsOf(curves);
	return Float32Array.from(
		linesAlong(curves.points, long, (row, d) => {
			for (let k = 0; k < 3; k++) d[k] = tangents[3 * row + k];
		})
	);
}

/** Where an axis of its own points, for what has a rotation. */
function axisLines(geometry: Geometry, long: number, [x, y, z]: readonly number[]): Float32Array {
	const ends = placedIn(geometry).flatMap(({ table }) => {
		const turns = table.columns.get('orientation')?.data;
		if (!turns) return [];
		return linesAlong(table, long, (row, d) => {
			const o = 4 * row;
			quaternion.rotate(d, 0, turns[o], turns[o + 1], turns[o + 2], turns[o + 3], x, y, z);
		});
	});
	return Float32Array.from(ends);
}

/** Where the elements are that meet a condition. */
function groupOf(geometry: Geometry, group: string): Pick<Marks, 'dots' | 'found' | 'trouble'> {
	if (!group.trim()) return { dots: new Float32Array(0), found: 0, trouble: '' };
	const dots: number[] = [];
	let found = 0,
		trouble = '',
		isMet = false;
	for (const { part, kind, table } of placedIn(geometry)) {
		try {
			const meets = scratch('byte', table.count);
			varying.run(
				varying.parseCondition(group, table.columns.keys()),
				varying.elementsOf(geometry, part, kind),
				1,
				meets
			);
			isMet = true;
			const p = floats(table, 'position');
			for (let i = 0; i < table.count; i++) {
				pollAt(i);
				if (!meets[i]) continue;
				if (found++ < MOST_MARKED) dots.push(p[3 * i], p[3 * i + 1], p[3 * i + 2]);
			}
		} catch (error) {
			if (!(error instanceof NodeError || error instanceof varying.FormulaError)) throw error;
			trouble ||= error.message;
		}
	}
	return { dots: Float32Array.from(dots), found, trouble: isMet ? '' : trouble };
}
