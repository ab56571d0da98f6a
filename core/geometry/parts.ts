/** What the parts of a geometry hold in memory. */
import type { Geometry } from './geometry.ts';
import { Ledger } from './ledger.ts';
import type { Table } from './table.ts';

/** Holds a geometry once more in the ledger, and all that it is made of. */
export function holdGeometry(ledger: Ledger, geometry: Geometry): object {
	ledger.hold(geometry, 0, () => partsIn(ledger, geometry));
	return geometry;
}

function partsIn(ledger: Ledger, { mesh, curves, points, copies, whole }: Geometry): object[] {
	const held: object[] = [];
	const array = (data: ArrayBufferView | null | undefined) => {
		if (data?.byteLength) held.push(ledger.holdArray(data));
	};
	const object = (thing: object | null | undefined) => {
		if (!thing) return;
		ledger.hold(thing);
		held.push(thing);
	};
	const table = (t: Table | null | undefined) => {
		if (!t) return;
		for (const column of t.columns.values()) {
			object(column);
			array(column.data);
		}
		array(t.ids);
	};
	if (mesh) {
		object(mesh.topology);
		array(mesh.topology.faceStarts);
		array(mesh.topology.cornerPoints);
		table(mesh.points);
		table(mesh.faces);
		table(mesh.corners);
		table(mesh.edges);
	}
	if (curves) {
		object(curves.starts);
		array(curves.starts);
		table(curves.points);
		table(curves.curves);
	}
	table(points?.points);
	if (copies) {
		table(copies.copies);
		for (const source of copies.sources) held.push(holdGeometry(ledger, source));
	}
	table(whole);
	return held;
}

/** Bytes that a geometry holds by itself, each array once, sources included. */
export function sizeOf(geometry: Geometry): number {
	const ledger = new Ledger({ limit: Infinity });
	holdGeometry(ledger, geometry);
	return ledger.held;
}
