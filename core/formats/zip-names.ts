/** The names of the files in a ZIP, from the directory at its end: what it holds is known before it is unpacked. */

const DIRECTORY_END = 0x06054b50;
const ENTRY = 0x02014b50;
/** Bytes at the end among which the directory's own end lies: 22, and a note of up to 65,535. */
const TAIL = 22 + 65_535;
/** A directory larger than this is not read. */
const LARGEST_DIRECTORY = 4_000_000;

interface Sliceable {
	readonly size: number;
	slice(from: number, to: number): { arrayBuffer(): Promise<ArrayBuffer> };
}

/** The names; none where it is not a ZIP, or one that cannot be understood. */
export async function namesInZip(file: Sliceable): Promise<string[]> {
	const start = Math.max(0, file.size - TAIL);
	const tail = new DataView(await file.slice(start, file.size).arrayBuffer());
	let end = tail.byteLength - 22;
	while (end >= 0 && tail.getUint32(end, true) !== DIRECTORY_END) end--;
	if (end < 0) return [];
	const [size, from] = [tail.getUint32(end + 12, true), tail.getUint32(end + 16, true)];
	if (size > LARGEST_DIRECTORY || from + size > file.size) return [];
	const directory = new DataView(await file.slice(from, from + size).arrayBuffer());
	const names: string[] = [];
	for (let at = 0; at + 46 <= directory.byteLength && directory.getUint32(at, true) === ENTRY;) {
		const length = directory.getUint16(at + 28, true);
		if (at + 46 + length > directory.byteLength) break;
		names.push(new TextDecoder().decode(new Uint8Array(directory.buffer, at + 46, length)));
		at += 46 + length + directory.getUint16(at + 30, true) + directory.getUint16(at + 32, true);
	}
	return names;
}
