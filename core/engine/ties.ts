/** Ties: two settings bound both ways, each by its own equation. The end that was moved last drives, once. */
import { NodeError } from '../math/index.ts';
import { inputOf } from './connect.ts';
import { dialOf } from './dials.ts';
import type { GeneratorDocument, GraphNode, Setting, Tie, TieEnd } from './document.ts';
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

/** The number at an end; null where it is none, as with a formula. */
export function numberAt(document: GeneratorDocument, end: TieEnd): number | null {
	const setting = settingAt(document, end);
	const one = 'part' in end && end.part !== undefined && Array.isArray(setting) ? setting[end.part] : setting;
	return typeof one === 'number' ? one : null;
}

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
	if (numberAt(document, end) === null)
		return Array.isArray(setting)
			? `“${nameOfEnd(document, end)}” has three numbers: tie one of them.`
			: `“${nameOfEnd(document, end)}” is no plain number: a formula, a random range or a word cannot be tied.`;
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

/** A circle of ties must bring every number back to what it was. */
function whyNotSettling(document: GeneratorDocument, others: readonly Tie[], tie: Tie): string | null {
	const back = wayBetween(document, others, tie.b, tie.a);
	if (!back) return null;
	const x = numberAt(document, tie.a)!;
	const isSettled = [x, x + 1, 2 * x + 0.5].every((from) => {
		try {
			const round = back.reduce((value, { equation }) => solved(equation, value), solved(tie.toB, from));
			return Math.abs(round - from) <= 1e-9 * Math.max(1, Math.abs(from));
		} catch {
			return false;
		}
	});
	if (isSettled) return null;
	const names = [tie.a, ...back.map(({ end }) => end)].map((end) => nameOfEnd(document, end));
	return `That would close a circle which does not settle: ${names.join(' → ')}. Take one of these ties away, or change its equation.`;
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
	const [x, y] = [numberAt(document, a) ?? 0, numberAt(document, b) ?? 0];
	const tidy = (value: number): number => Number(value.toPrecision(6));
	const ratio = tidy(y / x);
	const toB =
		x === y ? 'x' : x !== 0 && Number.isFinite(ratio) && ratio !== 0 ? `${ratio} * x` : `x + ${tidy(y - x)}`;
	return { toB, toA: inverseOf(toB) ?? 'x' };
}

/** Whether the two equations of a tie disagree, as a sentence; null where they agree. */
export function disagreement(document: GeneratorDocument, tie: Tie): string | null {
	const x = numberAt(document, tie.a) ?? 1;
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

/** What an end becomes when it is given a number. */
export function settingWith(document: GeneratorDocument, end: TieEnd, value: number): Setting | null {
	const setting = settingAt(document, end);
	if (setting === undefined || numberAt(document, end) === null) return null;
	if ('part' in end && end.part !== undefined && Array.isArray(setting))
		return setting.map((one, k) => (k === end.part ? value : one)) as Setting;
	return value;
}
