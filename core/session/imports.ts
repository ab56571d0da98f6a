/** Which node reads which file, and the check that a file can be read before anything is changed. */
import { proposeUnit, proposeUp, readMesh, readPicture, readSvg } from '../formats/index.ts';
import { NodeError } from '../math/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import type { FileKind } from './file-kinds.ts';
import { WHAT_IS_READ, fileKind, isMaterialLibrary } from './file-kinds.ts';

/** Reads a file once; throws NodeError. Gives settings that the node should have. */
const CHECKS: Readonly<
	Record<FileKind['node'], (file: { name: string; bytes: Uint8Array }) => Record<string, string>>
> = {
	'import-svg'(file) {
		readSvg(file.bytes, file.name, 1);
		return {};
	},
	'weight-by-pattern'(file) {
		readPicture(file, 'brightness');
		return { pattern: 'picture' };
	},
	'import-mesh'(file) {
		const { geometry } = readMesh(file);
		// A GLB says both itself: metres, y up.
		const settings: Record<string, string> = {};
		return /\.glb$/i.test(file.name) ? settings : { unit: proposeUnit(geometry), up: proposeUp(geometry) };
	}
};

/** The kind of node that reads a file, and the settings that it should have. */
export interface Reading {
	node: string;
	settings: Record<string, string>;
}

/**
 * The kind of node for a file, and the settings that go with it.
 * @param wanted the kind of node that the file was given to; null for a file dropped on the graph.
 * Throws an error that names the node which does read the file.
 */
export function readingOf(file: { name: string; bytes: Uint8Array }, wanted: string | null): Reading {
	const kind = fileKind(file.name);
	if (isMaterialLibrary(file.name))
		throw new NodeError(`${file.name} holds the materials of an OBJ. Drop it together with the OBJ.`);
	if (kind === 'generator')
		throw new NodeError(`${file.name} is not read by a node: a generator is opened in the Library.`);
	if (!kind) throw new NodeError(`${file.name} is of a kind that is not read. ${WHAT_IS_READ}`);
	if (wanted && wanted !== kind.node)
		throw new NodeError(`${file.name} is ${kind.what}. It is read by “${nodeKinds.get(kind.node)!.name}”.`);
	return { node: kind.node, settings: CHECKS[kind.node](file) };
}
