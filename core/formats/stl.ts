/** STL, text and binary. Corners at the same place become one point. */
import { pollAt } from '../geometry/index.ts';
import { NodeError, formatCount, mix } from '../math/index.ts';
import { Growing, geometryFrom } from './polygons.ts';
import type { MeshRead } from './mesh-read.ts';

/** Reads an STL. Throws NodeError with the place at fault. */
export function readStl(bytes: Uint8Array, name: string): MeshRead {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const count = bytes.length >= 84 ? view.getUint32(80, true) : -1;
	const startsAsText = /^\s*solid\b/.test(String.fromCharCode(...bytes.subarray(0, 80)));
	// A binary file may begin with “solid” too: its length tells.
	if (count >= 0 && 84 + 50 * count === bytes.length) return weld(binaryCorners(view, count), name);
	if (startsAsText && !bytes.subarray(0, 1000).includes(0))
		return weld(textCorners(new TextDecoder().decode(bytes), name), name);
	if (count < 0) throw new NodeError(`${name} is not an STL: it has only ${bytes.length} bytes.`);
	if (84 + 50 * count > bytes.length)
		throw new NodeError(
			`${name} is cut off or no STL: it says it has ${formatCount(count)} triangles, but holds bytes for ${formatCount(Math.floor((bytes.length - 84) / 50))}.`
		);
	return weld(binaryCorners(view, count), name);
}

function binaryCorners(view: DataView, count: number): Float32Array {
	const corners = new Float32Array(count * 9);
	for (let t = 0; t < count; t++) {
		pollAt(t);
		for (let k = 0; k < 9; k++) corners[9 * t + k] = view.getFloat32(84 + 50 * t + 12 + 4 * k, true);
	}
	return corners;
}

function textCorners(text: string, name: string): Float32Array {
	const corners = new Growing(Float32Array);
	const pattern = /\bvertex\s+(\S+)\s+(\S+)\s+(\S+)/g;
	for (let match = pattern.exec(text); match; match = pattern.exec(text))
		for (let k = 1; k <= 3; k++) {
			const x = Number(match[k]);
			if (!Number.isFinite(x))
				throw new NodeError(
					`${name}, line ${formatCount(text.slice(0, match.index).split('\n').length)}: “${match[k].slice(0, 30)}” stands where a number should.`
				);
			corners.push(x);
		}
	if (corners.length % 9)
		throw new NodeError(`${name} is cut off: its last triangle has only ${(corners.length % 9) / 3} points.`);
	if (corners.length && !/endsolid/.test(text))
		throw new NodeError(`${name} is cut off: “endsolid” is missing at its end.`);
	return corners.done();
}

/**
 * Known to nobody, so that nobody can make a file whose places all fall into one cell. It says how fast places are found,
 * never what comes out.
 */
const [SECRET] = crypto.getRandomValues(new Int32Array(1));

/** One point for each place. */
function weld(corners: Float32Array, name: string): MeshRead {
	const n = corners.length / 3;
	const bits = new Uint32Array(corners.buffer, corners.byteOffset, corners.length);
	const size = 1 << Math.min(26, 33 - Math.clz32(Math.max(8, n)));
	const heads = new Int32Array(size).fill(-1);
	const next = new Int32Array(n);
	const pointOf = new Uint32Array(n);
	const positions = new Growing(Float32Array);
	let points = 0;
	for (let i = 0; i < n; i++) {
		pollAt(i);
		for (let k = 0; k < 3; k++) if (bits[3 * i + k] === 0x80000000) bits[3 * i + k] = 0;
		const cell = mix(mix(mix(SECRET, bits[3 * i]), bits[3 * i + 1]), bits[3 * i + 2]) & (size - 1);
		let p = heads[cell];
		while (
			p >= 0 &&
			!(
				positions.data[3 * p] === corners[3 * i] &&
				positions.data[3 * p + 1] === corners[3 * i + 1] &&
				positions.data[3 * p + 2] === corners[3 * i + 2]
			)
		)
			p = next[p];
		if (p < 0) {
			p = points++;
			for (let k = 0; k < 3; k++) positions.push(corners[3 * i + k]);
			next[p] = heads[cell];
			heads[cell] = p;
		}
		pointOf[i] = p;
	}
	const starts = new Growing(Uint32Array),
		kept = new Growing(Uint32Array);
	starts.push(0);
	let flat = 0;
	for (let t = 0; t < n; t += 3) {
		pollAt(t / 3);
		const [a, b, c] = [pointOf[t], pointOf[t + 1], pointOf[t + 2]];
		if (a === b || b === c || a === c) {
			flat++;
			continue;
		}
		kept.push(a);
		kept.push(b);
		kept.push(c);
		starts.push(kept.length);
	}
	const geometry = geometryFrom(
		{ name, positions: positions.done(), starts: starts.done(), corners: kept.done() },
		(face) => `triangle ${formatCount(face + 1)}`
	);
	return { geometry, warnings: flat ? [`${formatCount(flat)} triangles without area were left out.`] : [] };
}
