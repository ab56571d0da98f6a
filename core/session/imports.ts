/** Which node reads which file, and the check that a file can be read before anything is changed. */
import { nodeKinds, proposeUnit, proposeUp, readMesh, readPicture, readSvg } from '../index.ts';

interface FileKind {
	/** The node that reads it. */
	node: string;
	ends: RegExp;
	/** As in “x.svg is a drawing”. */
	what: string;
	/** Reads it once; throws NodeError. Gives settings that the node should have. */
	check: (file: { name: string; bytes: Uint8Array }) => Record<string, string>;
}

const KINDS: readonly FileKind[] = [
	{
		node: 'import-svg',
		ends: /\.svg$/i,
		what: 'a drawing',
		check(file) {
			readSvg(file.bytes, file.name, 1);
			return {};
		}
	},
	{
		node: 'weight-by-pattern',
		ends: /\.(png|jpe?g)$/i,
		what: 'a picture',
		check(file) {
			readPicture(file, 'brightness');
			return { pattern: 'picture' };
		}
	},
	{
		node: 'import-mesh',
		ends: /(?:)/,
		what: 'a mesh',
		check(file) {
			const { geometry } = readMesh(file);
			// A GLB says both itself: metres, y up.
			const isGlb = /\.glb$/i.test(file.name);
			return isGlb ? {} : { unit: proposeUnit(geometry), up: proposeUp(geometry) };
		}
	}
];

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
	const kind = KINDS.find((one) => one.ends.test(file.name))!;
	if (wanted && wanted !== kind.node)
		throw new Error(
			kind.node === 'import-mesh'
				? `${file.name} is not of a kind that “${nodeKinds.get(wanted)!.name}” reads. Meshes are read by “Import mesh”.`
				: `${file.name} is ${kind.what}. It is read by “${nodeKinds.get(kind.node)!.name}”.`
		);
	return { node: kind.node, settings: kind.check(file) };
}
