/** The names in formulas: where they stand, and formulas with other names in their places. */
import { parseFormula } from './parse-formula.ts';
import type { Tree } from './parse-formula.ts';

/** How many calls of `random` a formula has that have a stream of their own. */
export function countRandoms(tree: Tree): number {
	const below =
		tree.kind === 'call' || tree.kind === 'operator'
			? tree.args.reduce((sum, arg) => sum + countRandoms(arg), 0)
			: tree.kind === 'part'
				? countRandoms(tree.of)
				: 0;
	return below + (tree.kind === 'call' && tree.name === 'random' ? 1 : 0);
}

interface Name {
	name: string;
	from: number;
	to: number;
}
const namesKnown = new WeakMap<Tree, readonly Name[]>();

/** All names in a formula, with their places; found once for each tree. */
export function namesIn(tree: Tree): readonly Name[] {
	let names = namesKnown.get(tree);
	if (!names) namesKnown.set(tree, (names = findNames(tree)));
	return names;
}

function findNames(tree: Tree): Name[] {
	if (tree.kind === 'name') return [{ name: tree.name, from: tree.from, to: tree.to }];
	if (tree.kind === 'part') return findNames(tree.of);
	if (tree.kind === 'number') return [];
	const args = tree.kind === 'call' && tree.name === 'random' ? tree.args.slice(0, 2) : tree.args;
	return args.flatMap(findNames);
}

/** A formula with a short name replaced wherever it begins a dotted name (`wall.height` → `front.height`). */
export function renameInFormula(text: string, from: string, to: string): string {
	return replaceNames(text, from, to, (name) => name.startsWith(from + '.'));
}

/** A formula with a name of one or more parts replaced, wherever it stands or begins a longer one. */
export const renameDotted = (text: string, from: string, to: string): string =>
	replaceNames(text, from, to, (name) => name === from || name.startsWith(from + '.'));

/** A formula with a name replaced wherever it stands by itself, or as a vector of which a part is taken. */
export const renameName = (text: string, from: string, to: string): string =>
	replaceNames(
		text,
		from,
		to,
		(name) => name === from || (/^\.[xyz]$/.test(name.slice(from.length)) && name.startsWith(from))
	);

function replaceNames(text: string, from: string, to: string, isMeant: (name: string) => boolean): string {
	let tree: Tree;
	try {
		tree = parseFormula(text);
	} catch {
		return text;
	}
	const places = namesIn(tree)
		.filter(({ name }) => isMeant(name))
		.sort((a, b) => b.from - a.from);
	for (const place of places) text = text.slice(0, place.from) + to + text.slice(place.from + from.length);
	return text;
}
