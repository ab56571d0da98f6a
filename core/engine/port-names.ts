/** Names of the ports of bodies: as they are written, and as they are read. */
import { nodeKinds } from '../nodes/index.ts';
import { camelCase, freeName } from './free-names.ts';

/** What a port is called where people read it: `leafSize` is “Leaf size”. */
export function labelOfPort(name: string): string {
	const words = name.replace(
		/([a-z0-9])([A-Z])/g,
		(_, before: string, after: string) => `${before} ${after.toLowerCase()}`
	);
	return words.slice(0, 1).toUpperCase() + words.slice(1);
}

/** The name of a port from what an artist types: “Leaf size” is `leafSize`. Never one that the nodes which have bodies use. */
export function portName(typed: string, taken: ReadonlySet<string> = new Set()): string {
	const words = typed.split(/[^a-zA-Z0-9]+/).filter((one) => /[a-zA-Z]/.test(one));
	const wanted = camelCase(words) || 'input';
	const base = OWN_SETTINGS().has(wanted) ? `${wanted}Inside` : wanted;
	return freeName(base, (name) => taken.has(name));
}

/** Settings of the kinds of node that have bodies: no port may be called so. */
let ownSettings: ReadonlySet<string> | null = null;
const OWN_SETTINGS = (): ReadonlySet<string> =>
	(ownSettings ??= new Set(
		[...nodeKinds.values()]
			.filter((kind) => kind.body && Object.hasOwn(kind.inputs, 'body'))
			.flatMap((kind) => [...Object.keys(kind.inputs), ...Object.keys(kind.outputs)])
	));
