/** What the values on wires hold in memory. */
import type { Ledger } from '../geometry/index.ts';
import { holdGeometry } from '../geometry/index.ts';
import type { Field, Varying } from '../varying/index.ts';
import { partsOf } from '../varying/index.ts';
import type { Value } from './values.ts';
import { isGeometry, isList, isVarying } from './values.ts';

/** Shorter arrays of values are not worth counting. */
const SMALL = 1024;

/** Holds a value once more. Gives what must be let go of in the end. */
export function holdValue(ledger: Ledger, value: Value): object[] {
	if (isGeometry(value)) return [holdGeometry(ledger, value)];
	if (isList(value)) return value.data.byteLength > SMALL ? [ledger.holdArray(value.data)] : [];
	return isVarying(value) ? holdVarying(ledger, value) : [];
}

/** Values that hold no memory worth counting, known by their last look. */
const holdNothing = new WeakSet<Varying>();

function holdVarying(ledger: Ledger, value: Varying): object[] {
	if (value.args.length === 0 && !value.list && !value.field) return [];
	if (holdNothing.has(value)) return [];
	const held: object[] = [];
	for (const { list, field } of partsOf(value)) {
		if (list && list.byteLength > SMALL) held.push(ledger.holdArray(list));
		if (field) held.push(...holdField(ledger, field));
	}
	if (!held.length) holdNothing.add(value);
	return held;
}

function holdField(ledger: Ledger, { data }: Field): object[] {
	return Object.values(data).flatMap((one) => {
		if (ArrayBuffer.isView(one)) return one.byteLength > SMALL ? [ledger.holdArray(one)] : [];
		return isGeometry(one) ? [holdGeometry(ledger, one)] : [];
	});
}
