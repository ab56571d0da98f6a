/** A result as files. */
import type { Geometry } from '../geometry/index.ts';
import { writeGlb, writeObj } from '../formats/index.ts';

export interface ExportOptions {
	format: 'glb' | 'obj';
	/** Copies as meshes of their own. */
	flatten: boolean;
	attributes: { name: string; as: string }[];
	name: string;
}

/** The files of an export, each named by its ending. Throws NodeError. */
export function exportFiles(
	geometry: Geometry,
	{ format, flatten, attributes, name }: ExportOptions
): { name: string; bytes: Uint8Array }[] {
	if (format === 'glb') return [{ name: '.glb', bytes: writeGlb(geometry, { flatten, attributes, name }) }];
	const { obj, mtl } = writeObj(geometry, `${name}.mtl`);
	const encode = (text: string) => new TextEncoder().encode(text);
	return [
		{ name: '.obj', bytes: encode(obj) },
		{ name: '.mtl', bytes: encode(mtl) }
	];
}
