/** Stanford PLY, text and binary of both byte orders: points with colours, and faces. */
import { pollAt } from '../geometry/index.ts';
import { NodeError, formatCount } from '../math/index.ts';
import { Growing, MOST_IN_FILE, MOST_NAMED, geometryFrom, toLinear } from './polygons.ts';
import type { MeshRead } from './mesh-read.ts';

interface Property {
	name: string;
	type: string;
	/** The type of a list's length, where it is a list. */
	countType: string | null;
}
interface Element {
	name: string;
	count: number;
	properties: Property[];
}

const SIZES: Record<string, number> = {
	char: 1,
	int8: 1,
	uchar: 1,
	uint8: 1,
	short: 2,
	int16: 2,
	ushort: 2,
	uint16: 2,
	int: 4,
	int32: 4,
	uint: 4,
	uint32: 4,
	float: 4,
	float32: 4,
	double: 8,
	float64: 8
};

/** Names of a point's numbers that mean something else here. */
const OWN_NAMES: ReadonlySet<string> = new Set([
	'x',
	'y',
	'z',
	'nx',
	'ny',
	'nz',
	'red',
	'green',
	'blue',
	'alpha'
]);

function growingFor(all: Map<string, Growing<Float32Array>>, name: string): Growing<Float32Array> {
	let own = all.get(name);
	if (!own) all.set(name, (own = new Growing(Float32Array)));
	return own;
}

/** Reads a PLY. Throws NodeError with the place at fault. */
export function readPly(bytes: Uint8Array, name: string): MeshRead {
	const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65_536));
	const headEnd = /end_header[^\n]*\n/.exec(head);
	if (!headEnd) throw new NodeError(`${name} is cut off: its header never ends.`);
	const { format, elements } = readHeader(head.slice(0, headEnd.index), name);
	const from = headEnd.index + headEnd[0].length;
	const reader =
		format === 'ascii'
			? textReader(bytes, from, name)
			: binaryReader(bytes, from, format === 'binary_little_endian', name);
	const positions = new Growing(Float32Array),
		colours = new Growing(Float32Array);
	/** Other numbers of each point, by name. */
	const named = new Map<string, Growing<Float32Array>>();
	const starts = new Growing(Uint32Array),
		corners = new Growing(Uint32Array);
	starts.push(0);
	let hasColours = false;
	for (const element of elements) {
		if (element.count > MOST_IN_FILE)
			throw new NodeError(
				`${name} says it has ${formatCount(element.count)} of “${element.name}”; ${formatCount(MOST_IN_FILE)} are read at most.`
			);
		const at = (wanted: string[]) => wanted.map((one) => element.properties.findIndex((p) => p.name === one));
		const [x, y, z] = at(['x', 'y', 'z']);
		const [r, g, b] = at(['red', 'green', 'blue']);
		const list = element.properties.findIndex(
			(p) => p.name === 'vertex_indices' || p.name === 'vertex_index'
		);
		const isVertex = element.name === 'vertex';
		if (isVertex && (x < 0 || y < 0 || z < 0)) throw new NodeError(`${name} has points without x, y and z.`);
		if (isVertex) hasColours = r >= 0 && g >= 0 && b >= 0;
		const others = isVertex
			? element.properties.flatMap(({ name: own, countType }, k) =>
					countType || OWN_NAMES.has(own) || named.size >= MOST_NAMED
						? []
						: [{ k, into: growingFor(named, own) }]
				)
			: [];
		const row = new Float64Array(element.properties.length);
		for (let i = 0; i < element.count; i++) {
			pollAt(i);
			element.properties.forEach((property, k) => {
				if (!property.countType) return void (row[k] = reader.next(property.type, element.name, i));
				const length = reader.next(property.countType, element.name, i);
				if (!(length >= 0 && length <= 100_000))
					throw new NodeError(
						`${name}: ${element.name} ${formatCount(i + 1)} says it has ${formatCount(length)} corners.`
					);
				const isFace = element.name === 'face' && k === list;
				for (let m = 0; m < length; m++) {
					pollAt(m);
					const value = reader.next(property.type, element.name, i);
					if (isFace && length >= 3) corners.push(value < 0 ? 4294967295 : value);
				}
				if (isFace && length >= 3) starts.push(corners.length);
			});
			if (!isVertex) continue;
			positions.push(row[x]);
			positions.push(row[y]);
			positions.push(row[z]);
			for (const { k, into } of others) into.push(row[k]);
			if (hasColours) {
				const full = SIZES[element.properties[r].type] === 1 ? 255 : 1;
				for (const k of [r, g, b]) colours.push(toLinear(Math.max(0, Math.min(1, row[k] / full))));
			}
		}
	}
	const geometry = geometryFrom(
		{
			name,
			positions: positions.done(),
			starts: starts.done(),
			corners: corners.done(),
			colours: hasColours ? colours.done() : null,
			named: new Map([...named].map(([own, numbers]) => [own, { data: numbers.done(), width: 1 as const }]))
		},
		(face) => `face ${formatCount(face + 1)}`
	);
	return { geometry, warnings: [] };
}

function readHeader(head: string, name: string): { format: string; elements: Element[] } {
	let format = '';
	const elements: Element[] = [];
	for (const [i, line] of head.split('\n').entries()) {
		const parts = line.trim().split(/\s+/);
		const wrong = (what: string): never => {
			throw new NodeError(`${name}, line ${i + 1} of the header: ${what}.`);
		};
		if (parts[0] === 'format') format = parts[1];
		else if (parts[0] === 'element') {
			const count = Number(parts[2]);
			if (!Number.isInteger(count) || count < 0)
				wrong(`an element has “${parts[2] ?? ''}” where how many there are should stand`);
			if (elements.some(({ name }) => name === parts[1]))
				wrong(`a second element “${parts[1]}” stands there`);
			elements.push({ name: parts[1], count, properties: [] });
		} else if (parts[0] === 'property') {
			const list = parts[1] === 'list';
			const [countType, type, label] = list ? [parts[2], parts[3], parts[4]] : [null, parts[1], parts[2]];
			if (!Object.hasOwn(SIZES, type) || (countType && !Object.hasOwn(SIZES, countType)))
				wrong(`“${type ?? ''}” is not a type of number`);
			if (!elements.length) wrong('a property stands before any element');
			elements[elements.length - 1].properties.push({ name: label, type, countType });
		}
	}
	if (!['ascii', 'binary_little_endian', 'binary_big_endian'].includes(format))
		throw new NodeError(`${name} does not say a format that is read (“${format ?? ''}”).`);
	return { format, elements };
}

interface Reader {
	next(type: string, element: string, row: number): number;
}

const cutOff = (name: string, element: string, row: number): NodeError =>
	new NodeError(
		`${name} is cut off: it ends within ${element} ${formatCount(row + 1)}. Export or download it again.`
	);

function textReader(bytes: Uint8Array, from: number, name: string): Reader {
	let at = from;
	return {
		next(_type, element, row) {
			while (at < bytes.length && bytes[at] <= 32) at++;
			const start = at;
			while (at < bytes.length && bytes[at] > 32) at++;
			if (start === at) throw cutOff(name, element, row);
			const word = String.fromCharCode(...bytes.subarray(start, Math.min(at, start + 40)));
			const x = Number(word);
			if (x !== x && !/^[-+]?nan$/i.test(word))
				throw new NodeError(
					`${name}: “${word}” stands in ${element} ${formatCount(row + 1)} where a number should.`
				);
			return x;
		}
	};
}

function binaryReader(bytes: Uint8Array, from: number, little: boolean, name: string): Reader {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	let at = from;
	return {
		next(type, element, row) {
			const size = SIZES[type];
			if (at + size > bytes.length) throw cutOff(name, element, row);
			const o = at;
			at += size;
			switch (type) {
				case 'char':
				case 'int8':
					return view.getInt8(o);
				case 'uchar':
				case 'uint8':
					return view.getUint8(o);
				case 'short':
				case 'int16':
					return view.getInt16(o, little);
				case 'ushort':
				case 'uint16':
					return view.getUint16(o, little);
				case 'int':
				case 'int32':
					return view.getInt32(o, little);
				case 'uint':
				case 'uint32':
					return view.getUint32(o, little);
				case 'float':
				case 'float32':
					return view.getFloat32(o, little);
				default:
					return view.getFloat64(o, little);
			}
		}
	};
}
