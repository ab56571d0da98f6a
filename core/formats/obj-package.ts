/** An OBJ and the MTL files beside it as one: the materials stand behind the faces, in the same text. */
import { NodeError } from '../math/index.ts';
import { entriesOf } from './package-file.ts';

const isObj = (path: string): boolean => /\.obj$/i.test(path) && !isHidden(path);
const isMtl = (path: string): boolean => /\.mtl$/i.test(path) && !isHidden(path);
/** What some systems put beside each file of an archive. */
const isHidden = (path: string): boolean => /(^|\/)(\.|__MACOSX\/)/.test(path);
const lastOf = (path: string): string => path.split('/').pop()!;

/** Whether an archive of such entries holds an OBJ, and is not a generator. */
export const holdsObj = (paths: readonly string[]): boolean =>
	paths.some(isObj) && !paths.includes('document.json');

/** The OBJ of an archive with its materials; null where the file is not an archive. Throws NodeError. */
export function unpackObj(bytes: Uint8Array, name: string): { name: string; bytes: Uint8Array } | null {
	if (!(bytes[0] === 0x50 && bytes[1] === 0x4b)) return null;
	const entries = entriesOf(bytes, name, (path) => isObj(path) || isMtl(path));
	const objects = [...entries.keys()].filter(isObj);
	if (!objects.length) throw new NodeError(`${name} is an archive without an OBJ.`);
	if (objects.length > 1)
		throw new NodeError(
			`${name} holds ${objects.length} OBJs: ${objects.slice(0, 3).map(lastOf).join(', ')}. Unpack it, and drop the one that is wanted with its MTL.`
		);
	const [path] = objects;
	const parts = [entries.get(path)!, ...[...entries].filter(([one]) => isMtl(one)).map(([, data]) => data)];
	const out = new Uint8Array(parts.reduce((sum, { length }) => sum + length + 1, 0));
	let at = 0;
	for (const part of parts) {
		out.set(part, at);
		at += part.length;
		out[at++] = 10;
	}
	return { name: lastOf(path), bytes: out };
}
