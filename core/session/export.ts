/** A result as files. */
import type { Geometry } from '../geometry/index.ts';
import { matrix, transformGeometry } from '../geometry/index.ts';
import { meshOfCopies } from '../kernels/mesh-of-copies.ts';
import type { CameraShot } from '../formats/index.ts';
import { AnimatedGlb, UsdaFile, writeGlb, writeObj, writePly } from '../formats/index.ts';

export interface ExportOptions {
	format: 'glb' | 'obj' | 'ply' | 'usda';
	/** Copies as meshes of their own. */
	flatten: boolean;
	attributes: { name: string; as: string }[];
	name: string;
	/** What one unit of an OBJ or PLY means, and its axis up; a GLB is in metres with y up by its standard. */
	unit?: ExportUnit;
	up?: 'y' | 'z';
	/** What was made, as its node is called: objects of a GLB bear that name. */
	object?: string;
	/** What cameras see; an OBJ and a PLY have none. */
	cameras?: readonly CameraShot[];
}

/** Metres to one of each unit. */
const UNITS = { m: 1, cm: 0.01, mm: 0.001 } as const;
export type ExportUnit = keyof typeof UNITS;

/** The files of an export, each named by its ending. Throws NodeError. */
export function exportFiles(
	geometry: Geometry,
	{ format, flatten, attributes, name, unit = 'm', up = 'y', cameras = [], object }: ExportOptions
): { name: string; bytes: Uint8Array }[] {
	if (format === 'glb')
		return [{ name: '.glb', bytes: writeGlb(geometry, { flatten, attributes, name, object, cameras }) }];
	if (format === 'usda') {
		const file = new UsdaFile({ rate: 1, attributes, name });
		file.add(flatten ? meshOfCopies(geometry) : geometry, 0, cameras);
		return [{ name: '.usda', bytes: file.bytes() }];
	}
	if (format === 'ply') return [{ name: '.ply', bytes: writePly(inUnit(geometry, unit, up)) }];
	const { obj, mtl } = writeObj(inUnit(geometry, unit, up), `${name}.mtl`);
	const encode = (text: string) => new TextEncoder().encode(text);
	return [
		{ name: '.obj', bytes: encode(obj) },
		{ name: '.mtl', bytes: encode(mtl) }
	];
}

/** A geometry as it stands in a file of another unit or with another axis up. */
function inUnit(geometry: Geometry, unit: ExportUnit, up: 'y' | 'z'): Geometry {
	if (unit === 'm' && up === 'y') return geometry;
	const size = 1 / UNITS[unit];
	return transformGeometry(
		geometry,
		matrix.affineFrom([0, 0, 0], [up === 'z' ? 90 : 0, 0, 0], [size, size, size])
	);
}

/** A file of all frames, to which they are added one after another. */
export interface MovingFile {
	ending: '.glb' | '.usda';
	add(geometry: Geometry, frame: number, cameras?: readonly CameraShot[]): void;
	bytes(): Uint8Array;
}

/**
 * A file that moves, in a format that can.
 * @param frames how many will come, at so many a second.
 */
export function movingFile(
	{ format, flatten, attributes, name, object }: ExportOptions,
	{ rate, frames }: { rate: number; frames: number }
): MovingFile {
	const made = (geometry: Geometry) => (flatten ? meshOfCopies(geometry) : geometry);
	if (format === 'usda') {
		const file = new UsdaFile({ rate, attributes, name });
		return {
			ending: '.usda',
			add: (geometry, frame, cameras) => file.add(made(geometry), frame, cameras),
			bytes: () => file.bytes()
		};
	}
	const glb = new AnimatedGlb({ step: 1 / rate, frames, attributes, name, object });
	return {
		ending: '.glb',
		add: (geometry, _, cameras) => glb.add(made(geometry), cameras),
		bytes: () => glb.bytes()
	};
}
