/** The only maker of column memory. It charges a budget first, so that no setting can take all the memory there is. */
import { owner, ownerIfAny } from './owner.ts';

/** Throws when the current work should stop. Long loops call it every few thousand steps: see `pollAt`. */
export const poll = (): void => ownerIfAny()?.poll();

/** Throws NodeError unless the current budget has room for memory that is given back after use. */
export const checkScratch = (bytes: number): void => owner().check(bytes);

/** Counts memory that is made elsewhere, such as that of a module. Throws NodeError when it does not fit. */
export const charge = (bytes: number): void => owner().charge(bytes);

/** Polls at every 4,096th step of a loop. */
export function pollAt(step: number): void {
	if ((step & 4095) === 0) ownerIfAny()?.poll();
}

export interface ArrayKinds {
	float: Float32Array;
	double: Float64Array;
	int: Int32Array;
	index: Uint32Array;
	byte: Uint8Array;
}
const MAKERS = {
	float: Float32Array,
	double: Float64Array,
	int: Int32Array,
	index: Uint32Array,
	byte: Uint8Array
};
const KIND_OF = new Map<unknown, keyof ArrayKinds>(
	Object.entries(MAKERS).map(([kind, Maker]) => [Maker, kind as keyof ArrayKinds])
);

/** A zeroed array of `length` numbers for a column, charged to the current owner. Throws NodeError when it does not fit. */
export function allocate<Kind extends keyof ArrayKinds>(kind: Kind, length: number): ArrayKinds[Kind] {
	const Maker = MAKERS[kind];
	const bytes = length * Maker.BYTES_PER_ELEMENT;
	const own = owner();
	own.charge(bytes);
	own.poll();
	return (
		own.shared ? new Maker(new SharedArrayBuffer(bytes) as never) : new Maker(length)
	) as ArrayKinds[Kind];
}

/** The same for what is needed only while the work goes on: charged too, but never in shared memory. */
export function scratch<Kind extends keyof ArrayKinds>(kind: Kind, length: number): ArrayKinds[Kind] {
	const Maker = MAKERS[kind];
	const own = owner();
	own.charge(length * Maker.BYTES_PER_ELEMENT);
	return new Maker(length) as ArrayKinds[Kind];
}

/** The bits of single numbers: the same memory. */
export const bitsOf = (data: Float32Array): Int32Array =>
	new Int32Array(data.buffer, data.byteOffset, data.length);

/** A copy of an array that may become a column. */
export function copyOf<Data extends Float32Array | Float64Array | Int32Array | Uint32Array | Uint8Array>(
	data: Data
): Data {
	const copy = allocate(KIND_OF.get(data.constructor)!, data.length);
	setInPieces(copy, data);
	return copy as Data;
}

/** Numbers written between two polls: a page of memory is given to the program when it is first written to, which takes time. */
const PIECE = 1 << 20;

/** Scratch memory with one number everywhere, written a piece at a time. */
export function filled<Kind extends keyof ArrayKinds>(
	kind: Kind,
	length: number,
	value: number
): ArrayKinds[Kind] {
	const out = scratch(kind, length);
	for (let i = 0; i < length; i += PIECE) {
		ownerIfAny()?.poll();
		out.fill(value, i, Math.min(length, i + PIECE));
	}
	return out;
}

/** The first numbers of an array, as one of their own. */
export function firstOf<Data extends Float32Array | Float64Array | Int32Array | Uint32Array | Uint8Array>(
	data: Data,
	length: number
): Data {
	if (length === data.length) return data;
	const out = allocate(KIND_OF.get(data.constructor)!, length) as Data;
	setInPieces(out, data.subarray(0, length) as Data);
	return out;
}

/** Copies an array into another, a piece at a time, so that long ones can be stopped. */
export function setInPieces(
	target: Float32Array | Float64Array | Int32Array | Uint32Array | Uint8Array,
	source: Float32Array | Float64Array | Int32Array | Uint32Array | Uint8Array,
	at = 0
): void {
	for (let i = 0; i < source.length; i += PIECE) {
		ownerIfAny()?.poll();
		target.set(source.subarray(i, i + PIECE), at + i);
	}
}

/** Bytes as people read them. */
export function formatBytes(bytes: number): string {
	if (bytes < 1e3) return `${Math.round(bytes)} bytes`;
	if (bytes < 1e6) return `${Math.round(bytes / 1e3)} kB`;
	if (bytes < 1e9) return `${Math.round(bytes / 1e6)} MB`;
	return bytes < 1e15 ? `${(bytes / 1e9).toFixed(1)} GB` : 'far more than any machine has';
}
