/** Which files are read, and by which node; known without reading one. */

export interface FileKind {
	/** The node that reads it. */
	node: 'import-svg' | 'weight-by-pattern' | 'import-mesh';
	ends: RegExp;
	/** As in “x.svg is a drawing”. */
	what: string;
}

const FILE_KINDS: readonly FileKind[] = [
	{ node: 'import-svg', ends: /\.svg$/i, what: 'a drawing' },
	{ node: 'weight-by-pattern', ends: /\.(png|jpe?g)$/i, what: 'a picture' },
	{ node: 'import-mesh', ends: /\.(obj|glb|ply|stl)$/i, what: 'a mesh' }
];

/** What a file is by its name: read by a node, a generator, or of no kind that is read. A ZIP may hold an OBJ too. */
export const fileKind = (name: string): FileKind | 'generator' | null =>
	FILE_KINDS.find(({ ends }) => ends.test(name)) ?? (/\.(json|zip)$/i.test(name) ? 'generator' : null);

/** Whether a file holds the materials of an OBJ, and nothing by itself. */
export const isMaterialLibrary = (name: string): boolean => /\.mtl$/i.test(name);
export const isArchive = (name: string): boolean => /\.zip$/i.test(name);

/** All kinds that are read, as a sentence. */
export const WHAT_IS_READ =
	'Embrell reads meshes (OBJ with its MTL, GLB, PLY, STL), drawings (SVG), pictures (PNG, JPEG) and generators (JSON, ZIP).';
