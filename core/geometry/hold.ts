/** What a geometry holds in memory. */
import type { Geometry } from './geometry.ts';
import { Ledger } from './ledger.ts';
import { partsOf } from './parts/index.ts';
import type { Table } from './table.ts';

/** Holds a geometry once more in the ledger, and all that it is made of. */
export function holdGeometry(ledger: Ledger, geometry: Geometry): object {
	ledger.hold(geometry, 0, () => heldBy(ledger, geometry));
	return geometry;
}

function heldBy(ledger: Ledger, geometry: Geometry): object[] {
	const held: object[] = [];
	const array = (data: ArrayBufferView | null) => {
		if (data?.byteLength) held.push(ledger.holdArray(data));
	};
	const object = (thing: object) => {
		ledger.hold(thing);
		held.push(thing);
	};
	const table = (t: Table | null) => {
		if (!t) return;
		for (const column of t.columns.values()) {
			object(column);
			array(column.data);
		}
		array(t.ids);
	};
	for (const { part, own } of partsOf(geometry)) {
		const shape = part.shape(own);
		if (shape) object(shape);
		part.arrays(own).forEach(array);
		for (const { read } of Object.values(part.tables)) table(read(own));
		for (const source of part.sources?.(own) ?? []) held.push(holdGeometry(ledger, source));
	}
	table(geometry.whole);
	return held;
}

/** Bytes that a geometry holds by itself, each array once, sources included. */
export function sizeOf(geometry: Geometry): number {
	const ledger = new Ledger({ limit: Infinity });
	holdGeometry(ledger, geometry);
	return ledger.held;
}
