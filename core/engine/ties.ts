/** Ties: two settings bound both ways, each by its own equation. The end that was moved last drives, once. */
import { NodeError } from '../math/index.ts';
import { inputOf } from './connect.ts';
import type { SettingIn } from './dials.ts';
import { boundedBy, dialOf } from './dials.ts';
import type { GeneratorDocument, GraphNode, Setting, Tie, TieEnd } from './document.ts';
import { isKeys, withoutItsKeys } from './document.ts';
import { areInverse, inverseOf, solved, whyNoEquation } from './equations.ts';
import { settingOf } from './settings-graph.ts';
import { endAt, nameAtEnd } from './vector-parts.ts';

/** Names an end among all. */
export const keyOfEnd = (end: TieEnd): string =>
	'dial' in end ? `dial ${end.dial}` : `${end.graph} ${end.node} ${end.setting} ${end.part ?? ''}`;

export const isSameEnd = (a: TieEnd, b: TieEnd): boolean => keyOfEnd(a) === keyOfEnd(b);

function nodeOfEnd(document: GeneratorDocument, end: TieEnd): GraphNode | null {
	if ('dial' in end || !Object.hasOwn(document.graphs, end.graph)) return null;
	return document.graphs[end.graph].nodes.find(({ id }) => id === end.node) ?? null;
}

/** What an end is called, as artists see it. */
export function nameOfEnd(document: GeneratorDocument, end: TieEnd): string {
	if ('dial' in end) return dialOf(document, end.dial)?.name ?? end.dial;
	const node = nodeOfEnd(document, end);
	const label = node && inputOf(node, end.setting)?.label;
	const part = end.part === undefined ? '' : ` ${'xyz'[end.part]}`;
	return `${label ?? end.setting}${part} of ${node?.short ?? '?'}`;
}

/** What stands at an end; undefined where it is not there. */
function settingAt(document: GeneratorDocument, end: TieEnd): Setting | undefined {
	if ('dial' in end) return dialOf(document, end.dial)?.value;
	const node = nodeOfEnd(document, end);
	const input = node && inputOf(node, end.setting);
	return input ? settingOf(node, end.setting, input) : undefined;
}

/** What stands at an end, of a vector in the part that it is. */
function oneAt(document: GeneratorDocument, end: TieEnd): Setting | undefined {
	const setting = settingAt(document, end);
	return 'part' in end && end.part !== undefined && Array.isArray(setting) ? setting[end.part] : setting;
}
const numberIn = (setting: Setting | undefined): number | null =>
	typeof setting === 'number' ? setting : null;

/** The number at an end; null where it is none, as with a formula or keys. */
export const numberAt = (document: GeneratorDocument, end: TieEnd): number | null =>
	numberIn(oneAt(document, end));
/** The number at an end that may have keys: the first of them. */
function firstNumberAt(document: GeneratorDocument, end: TieEnd): number | null {
	const one = oneAt(document, end);
	return numberIn(one === undefined ? one : withoutItsKeys(one));
}
/** Whether an end has keys: it moves the other. */
const isKeyedEnd = (document: GeneratorDocument, end: TieEnd): boolean => isKeys(oneAt(document, end) ?? 0);

/** Whether both ends are there. */
export const isWhole = (document: GeneratorDocument, { a, b }: Tie): boolean =>
	settingAt(document, a) !== undefined && settingAt(document, b) !== undefined;

/** What the other end is, from where something arrived, and what it becomes. */
export function across(tie: Tie, from: TieEnd): { to: TieEnd; equation: string } | null {
	if (isSameEnd(tie.a, from)) return { to: tie.b, equation: tie.toB };
	if (isSameEnd(tie.b, from)) return { to: tie.a, equation: tie.toA };
	return null;
}

/** Why an end cannot be tied; null where it can. */
function whyNotTied(document: GeneratorDocument, end: TieEnd): string | null {
	const setting = settingAt(document, end);
	if (setting === undefined) return 'One of the two settings is not there.';
	if (firstNumberAt(document, end) === null)
		return Array.isArray(setting)
			? `“${nameOfEnd(document, end)}” has three numbers: tie one of them.`
			: `“${nameOfEnd(document, end)}” is not a plain number: a formula, a random range or a word cannot be tied.`;
	if (
		'node' in end &&
		document.graphs[end.graph].wires.some(
			({ to }) => to[0] === end.node && (to[1] === end.setting || to[1] === nameAtEnd(end))
		)
	)
		return `“${nameOfEnd(document, end)}” is wired, so that nothing else sets it.`;
	return null;
}

/** One step from an end: over a tie, or by the hand of a dial, which holds the same number as all that is in it. */
function stepsFrom(
	document: GeneratorDocument,
	ties: readonly Tie[],
	from: TieEnd
): { to: TieEnd; equation: string }[] {
	const steps = ties.flatMap((tie) => across(tie, from) ?? []);
	if ('dial' in from)
		for (const [graph, { nodes }] of Object.entries(document.graphs))
			for (const { id: node, dials } of nodes)
				for (const [setting, key] of Object.entries(dials ?? {}))
					if (key === from.dial) steps.push({ to: endAt(graph, node, setting), equation: 'x' });
	const hand = 'node' in from && nodeOfEnd(document, from)?.dials?.[nameAtEnd(from)];
	if (hand) steps.push({ to: { dial: hand }, equation: 'x' });
	return steps;
}

/** The way from one end to another: the ends, and the equation by which each was reached; null where none leads there. */
function wayBetween(
	document: GeneratorDocument,
	ties: readonly Tie[],
	from: TieEnd,
	to: TieEnd
): { end: TieEnd; equation: string }[] | null {
	const cameBy = new Map<string, { end: TieEnd; equation: string; before: TieEnd | null }>([
		[keyOfEnd(from), { end: from, equation: 'x', before: null }]
	]);
	for (const { end: at } of cameBy.values()) {
		if (isSameEnd(at, to)) {
			const way: { end: TieEnd; equation: string }[] = [];
			for (let end: TieEnd | null = at; end;) {
				const step: { end: TieEnd; equation: string; before: TieEnd | null } = cameBy.get(keyOfEnd(end))!;
				way.unshift(step);
				end = step.before;
			}
			return way;
		}
		for (const { to: next, equation } of stepsFrom(document, ties, at))
			if (!cameBy.has(keyOfEnd(next))) cameBy.set(keyOfEnd(next), { end: next, equation, before: at });
	}
	return null;
}

/** Why a tie cannot be made; null where it can. */
export function whyNoTie(document: GeneratorDocument, tie: Tie): string | null {
	const { a, b } = tie;
	if (isSameEnd(a, b)) return 'A setting cannot be tied to itself.';
	const others = document.ties.filter(({ id }) => id !== tie.id);
	if (others.some((one) => across(one, a) && across(one, b))) return 'These two are tied already.';
	const why =
		whyNotTied(document, a) ?? whyNotTied(document, b) ?? whyNoEquation(tie.toB) ?? whyNoEquation(tie.toA);
	if (why) return why;
	return whyNotSettling(document, others, tie);
}

/** A circle of ties must bring every number back to what it was, whichever way round. */
const whyNotSettling = (
	document: GeneratorDocument,
	others: readonly Tie[],
	{ a, b, toA, toB }: Tie
): string | null => whyNotRound(document, others, a, b, toB) ?? whyNotRound(document, others, b, a, toA);

/** One way round: from an end by an equation to another, and by other ties back. */
function whyNotRound(
	document: GeneratorDocument,
	others: readonly Tie[],
	first: TieEnd,
	next: TieEnd,
	there: string
): string | null {
	const back = wayBetween(document, others, next, first);
	if (!back) return null;
	const x = firstNumberAt(document, first) ?? 1;
	const isSettled = [x, x + 1, 2 * x + 0.5].every((from) => {
		try {
			const round = back.reduce((value, { equation }) => solved(equation, value), solved(there, from));
			return Math.abs(round - from) <= 1e-9 * Math.max(1, Math.abs(from));
		} catch {
			return false;
		}
	});
	if (isSettled) return null;
	const names = [first, ...back.map(({ end }) => end)].map((end) => nameOfEnd(document, end));
	return `That would close a circle which does not settle: ${names.join(' → ')}. Delete one of these ties, or change its equation.`;
}

/** Why a setting in the hand of a dial would close a circle of ties that does not settle; null where it would not. */
export function whyNotInHand(document: GeneratorDocument, at: SettingIn, key: string): string | null {
	const [setting, dial] = [endAt(at.graph, at.node, at.setting), { dial: key }];
	return whyNotSettling(document, document.ties, { id: '', a: dial, b: setting, toA: 'x', toB: 'x' });
}

/** A generator with a tie more, or with one changed. Throws a NodeError where it cannot be. */
export function withTie(document: GeneratorDocument, tie: Tie): GeneratorDocument {
	const why = whyNoTie(document, tie);
	if (why) throw new NodeError(why);
	const isThere = document.ties.some(({ id }) => id === tie.id);
	return {
		...document,
		ties: isThere ? document.ties.map((one) => (one.id === tie.id ? tie : one)) : [...document.ties, tie]
	};
}

export const withoutTie = (document: GeneratorDocument, id: string): GeneratorDocument => ({
	...document,
	ties: document.ties.filter((one) => one.id !== id)
});

/** The equations of a new tie: the second end stays in the proportion in which it stands, and the other way round. */
export function proposedEquations(
	document: GeneratorDocument,
	a: TieEnd,
	b: TieEnd
): Pick<Tie, 'toB' | 'toA'> {
	const [x, y] = [firstNumberAt(document, a) ?? 0, firstNumberAt(document, b) ?? 0];
	const tidy = (value: number): number => Number(value.toPrecision(6));
	const isProportion = x !== 0 && y !== 0 && Number.isFinite(y / x) && Number.isFinite(x / y);
	// The shortest that leaves both as they stand: as soon as it is made, a tie moves its second end.
	const tried =
		x === y
			? ['x']
			: isProportion
				? [`${tidy(y / x)} * x`, `x / ${tidy(x / y)}`, `${y / x} * x`]
				: [`x + ${tidy(y - x)}`, `x + ${y - x}`];
	const toB = tried.find((equation) => solved(equation, x) === y) ?? tried[tried.length - 1];
	return { toB, toA: inverseOf(toB) ?? 'x' };
}

/** Whether the two equations of a tie disagree, as a sentence; null where they agree. */
export function disagreement(document: GeneratorDocument, tie: Tie): string | null {
	const x = firstNumberAt(document, tie.a) ?? 1;
	if (areInverse(tie.toB, tie.toA, x)) return null;
	const [a, b] = [nameOfEnd(document, tie.a), nameOfEnd(document, tie.b)];
	const shown = (value: number): string => String(Number(value.toPrecision(4)));
	try {
		const there = solved(tie.toB, x);
		return `The two disagree: ${a} at ${shown(x)} makes ${b} ${shown(there)}, and that would make ${a} ${shown(solved(tie.toA, there))}. Whichever is moved last drives.`;
	} catch {
		return 'The two disagree. Whichever is moved last drives.';
	}
}

/** A number as an end can hold it: whole where it is so, a dial within its bounds. */
function heldAt(document: GeneratorDocument, end: TieEnd, value: number): number {
	if ('dial' in end) {
		const dial = dialOf(document, end.dial);
		return dial ? (boundedBy(dial, value) as number) : value;
	}
	const node = nodeOfEnd(document, end);
	const input = node && inputOf(node, nameAtEnd(end));
	// Beyond its bounds it may stand: the node says so, and uses the nearest.
	return input?.kind === 'number' && input.whole ? Math.round(value) : value;
}

/** What is wrong with a tie as both ends stand, as a sentence; null where it holds. */
export function troubleOfTie(document: GeneratorDocument, tie: Tie): string | null {
	const [x, y] = [numberAt(document, tie.a), numberAt(document, tie.b)];
	const [a, b] = [nameOfEnd(document, tie.a), nameOfEnd(document, tie.b)];
	if (isKeyedEnd(document, tie.a) && isKeyedEnd(document, tie.b))
		return 'Both have keys: each goes its own way. Delete the keys of one.';
	if (isKeyedEnd(document, tie.a)) return `${b} follows the keys of ${a}.`;
	if (isKeyedEnd(document, tie.b)) return `${a} follows the keys of ${b}.`;
	if (x === null || y === null) return `${x === null ? a : b} is not a plain number now: it moves nothing.`;
	const shown = (value: number): string => String(Number(value.toPrecision(4)));
	const there = wantedBy(tie.toB, x),
		back = wantedBy(tie.toA, y);
	const isHeld = (wanted: number | null, value: number): boolean =>
		wanted !== null && Math.abs(wanted - value) <= 1e-9 * Math.max(1, Math.abs(wanted));
	if (isHeld(there, y) || isHeld(back, x)) return null;
	if (there === null || back === null) {
		const [of, value, equation, from] = there === null ? [b, x, tie.toB, a] : [a, y, tie.toA, b];
		return `No answer where ${from} is ${shown(value)}: ${equation}. ${of} stays as it was.`;
	}
	// Where it could not become what was asked, one end stands as near as it can.
	if (heldAt(document, tie.b, there) === y)
		return `${b} would be ${shown(there)}; it can only be ${shown(y)}.`;
	if (heldAt(document, tie.a, back) === x) return `${a} would be ${shown(back)}; it can only be ${shown(x)}.`;
	return `They do not agree: ${a} at ${shown(x)} would make ${b} ${shown(there)}, and it is ${shown(y)}. Move one of them, or change an equation.`;
}

/** What an equation says; null where it has no answer. */
function wantedBy(equation: string, x: number): number | null {
	try {
		return solved(equation, x);
	} catch {
		return null;
	}
}

/** What an end becomes when it is given a number. */
export function settingWith(document: GeneratorDocument, end: TieEnd, given: number): Setting | null {
	const setting = settingAt(document, end);
	if (setting === undefined || numberAt(document, end) === null) return null;
	const value = heldAt(document, end, given);
	if ('part' in end && end.part !== undefined && Array.isArray(setting))
		return setting.map((one, k) => (k === end.part ? value : one)) as Setting;
	return value;
}
