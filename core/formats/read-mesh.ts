/** Mesh files of any known kind, told apart by what they hold rather than by their name. */
import { NodeError } from '../math/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { boundsOf, derive, formatBytes } from '../geometry/index.ts';
import { readGlb } from './read-glb.ts';
import { readObj } from './obj.ts';
import type { MeshRead } from './mesh-read.ts';
import { readPly } from './ply.ts';
import { soundMesh } from './sound-mesh.ts';
import { readStl } from './stl.ts';

/** The largest file that is read. */
export const LARGEST_FILE = 256_000_000;

/** Reads a mesh file; the result is kept with its bytes. Throws NodeError with a sentence that says what is wrong and where. */
export function readMesh(file: { name: string; bytes: Uint8Array }): MeshRead {
	const { bytes, name } = file;
	return derive(bytes, 'mesh', () => {
		if (bytes.length === 0)
			throw new NodeError(`${name} has 0 bytes: there is nothing in it. Export it again.`);
		if (bytes.length > LARGEST_FILE)
			throw new NodeError(
				`${name} has ${formatBytes(bytes.length)}; at most ${formatBytes(LARGEST_FILE)} are read. Reduce the mesh first.`
			);
		const read = readerFor(name, bytes)(bytes, name);
		if (!read.geometry.mesh?.faces.count)
			throw new NodeError(
				`${name} has no faces. Embrell imports meshes made of faces; points alone and curves are not read from this kind of file.`
			);
		return soundMesh(read, name);
	});
}

/** What the size suggests about the unit: a thing of hundreds of metres was likely made in centimetres, and so on. */
export function proposeUnit(geometry: Geometry): 'm' | 'cm' | 'mm' {
	const bounds = boundsOf(geometry);
	if (!bounds) return 'm';
	const size = Math.max(...[0, 1, 2].map((k) => bounds.high[k] - bounds.low[k]));
	return size > 2000 ? 'mm' : size > 60 ? 'cm' : 'm';
}

/**
 * Which axis the shape suggests as up: the one on whose zero it stands, where that is plain; else y. A thing that lies
 * with its middle in the origin says nothing.
 */
export function proposeUp(geometry: Geometry): 'y' | 'z' {
	const bounds = boundsOf(geometry);
	if (!bounds) return 'y';
	const size = Math.max(...[0, 1, 2].map((k) => bounds.high[k] - bounds.low[k]));
	const stands = (k: number): boolean =>
		Math.abs(bounds.low[k]) <= 0.005 * size && bounds.high[k] > 0.02 * size;
	// What stands on z reaches below the zero of y; a flat thing that lies there does not.
	return stands(2) && bounds.low[1] < -0.01 * size ? 'z' : 'y';
}

function readerFor(name: string, bytes: Uint8Array): (bytes: Uint8Array, name: string) => MeshRead {
	const start = String.fromCharCode(...bytes.subarray(0, 512));
	if (start.startsWith('glTF')) return readGlb;
	if (/^ply\s/.test(start)) return readPly;
	const extension = name.toLowerCase().split('.').pop();
	if (extension === 'stl') return readStl;
	if (extension === 'glb')
		throw new NodeError(
			`${name} is not a GLB: it does not begin with “glTF”. Export it again as a binary glTF.`
		);
	if (extension === 'ply') throw new NodeError(`${name} is not a PLY: it does not begin with “ply”.`);
	if (extension === 'obj' || /^\s*(#|v |o |g |mtllib )/m.test(start)) {
		if (bytes.subarray(0, 4096).includes(0))
			throw new NodeError(`${name} is not an OBJ: it holds bytes that no text has.`);
		return readObj;
	}
	if (/^\s*solid/.test(start)) return readStl;
	throw new NodeError(`${name} is of a kind that is not read. Embrell reads OBJ, GLB, PLY and STL.`);
}
