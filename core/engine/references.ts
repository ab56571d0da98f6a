/** Settings that follow others: who refers to whom, and how one is made to follow. */
import type { InputDefinition } from '../nodes/index.ts';
import { inputOf, inputsShown } from './connect.ts';
import type { Graph, GraphNode, Setting } from './document.ts';
import { GraphIndex, referencesIn } from './graph-index.ts';
import { isReferable } from './proposals.ts';
import { formulaNames, formulaTexts } from './settings-graph.ts';
import { cutPart, wholeOf } from './vector-parts.ts';
import { withValue } from './edits.ts';

/** A setting, by the id of its node and its own name. */
export type SettingPlace = readonly [node: string, setting: string];

/** Whether one setting may follow another; if not, why. `says` tells what would be. */
export type Following =
	{ isAllowed: true; formula: string; says: string } | { isAllowed: false; reason: string };

/** The settings that a setting refers to by its formulas. */
const referredBy = (node: GraphNode, name: string, index: GraphIndex): SettingPlace[] =>
	formulaTexts(node, name).flatMap((text) =>
		referencesIn(text, node, index, name).map((to): SettingPlace => [to.node.id, to.setting])
	);

/** A reference of one node to another: a setting that follows a setting. */
export interface Reference {
	from: SettingPlace;
	to: SettingPlace;
}

/** All references between nodes of a graph: `to` follows `from`. */
export function referencesOf(graph: Graph): Reference[] {
	const index = GraphIndex.of(graph);
	return graph.nodes.flatMap((node) =>
		formulaNames(node).flatMap((name) =>
			referredBy(node, name, index)
				.filter(([id]) => id !== node.id)
				.map((from): Reference => ({ from, to: [node.id, name] }))
		)
	);
}

/** The settings from one to another along references, both included; null where none leads there. */
function pathOfReferences(graph: Graph, from: SettingPlace, to: SettingPlace): SettingPlace[] | null {
	const index = GraphIndex.of(graph);
	const keyOf = ([id, name]: SettingPlace) => `${id} ${name}`;
	const cameFrom = new Map<string, SettingPlace | null>([[keyOf(from), null]]);
	const queue: SettingPlace[] = [from];
	for (const place of queue) {
		if (keyOf(place) === keyOf(to)) {
			const path: SettingPlace[] = [];
			for (let at: SettingPlace | null = place; at; at = cameFrom.get(keyOf(at))!) path.unshift(at);
			return path;
		}
		const node = index.byId.get(place[0]);
		if (!node || index.wiresInto(place[0], place[1]).length) continue;
		for (const next of referredBy(node, place[1], index)) {
			if (cameFrom.has(keyOf(next))) continue;
			cameFrom.set(keyOf(next), place);
			queue.push(next);
		}
	}
	return null;
}

const isVector = ({ kind }: InputDefinition): boolean => kind === 'vector' || kind === 'colour';
const unitOf = (input: InputDefinition): string => ('unit' in input && input.unit) || '';
const named = (unit: string): string => (unit === '°' ? 'degrees' : unit || 'no unit');

/** Whether `follower` may follow `leader`, what would stand there then, and what that means. */
export function mayFollow(graph: Graph, leader: SettingPlace, follower: SettingPlace): Following {
	const index = GraphIndex.of(graph);
	const from = index.byId.get(leader[0]),
		to = index.byId.get(follower[0]);
	const input = from && inputOf(from, leader[1]),
		target = to && inputOf(to, follower[1]);
	const refuse = (reason: string): Following => ({ isAllowed: false, reason });
	if (!from || !to || !input || !target) return refuse('One of the two is no longer there.');
	if (!isReferable(input)) return refuse(`“${input.label}” holds no number that could be followed.`);
	if (!isReferable(target)) return refuse(`“${target.label}” holds no number.`);
	if (index.wiresInto(to.id, follower[1]).length)
		return refuse(`A wire sets “${target.label}”. Disconnect it first.`);
	const whole = wholeOf(follower[1]);
	if (from === to && whole === wholeOf(leader[1])) return refuse('A setting cannot follow itself.');
	const circle = pathOfReferences(graph, [leader[0], wholeOf(leader[1])], [follower[0], whole]);
	if (circle)
		return refuse(
			`This would make a circle: ${[follower, ...circle]
				.map(([id, name]) => `${index.byId.get(id)!.short}.${name}`)
				.join(' → ')}.`
		);
	const name = from === to ? leader[1] : `${from.short}.${leader[1]}`;
	const cut = cutPart(follower[1]);
	const formula = isVector(input) && !isVector(target) ? `${name}.${'xyz'[cut?.part ?? 0]}` : name;
	const units = [unitOf(input), unitOf(target)];
	const differ =
		units[0] !== units[1] && units.some((unit) => unit === '°')
			? ` It is in ${named(units[0])}, and ${named(units[1])} ${units[1] ? 'are' : 'is'} wanted here.`
			: '';
	return {
		isAllowed: true,
		formula,
		says: `“${target.label}” of ${to.short} follows ${formula}.${differ}`
	};
}

/** `follower` set to follow `leader`, a whole vector at once; the same graph where it may not. */
export function withFollowing(graph: Graph, leader: SettingPlace, follower: SettingPlace): Graph {
	const following = mayFollow(graph, leader, follower);
	if (!following.isAllowed) return graph;
	const node = graph.nodes.find(({ id }) => id === follower[0])!;
	const isText = inputOf(node, follower[1])!.kind === 'formula';
	const setting: Setting = isText ? following.formula : { formula: following.formula, streams: [] };
	return withValue(graph, follower[0], follower[1], setting);
}

/** The settings that another may follow without a circle, those of its own node first. */
export function leadersFor(
	graph: Graph,
	follower: SettingPlace
): { place: SettingPlace; node: GraphNode; label: string }[] {
	const keyOf = ([id, name]: SettingPlace) => `${id} ${name}`;
	const index = GraphIndex.of(graph);
	// All that hang from the follower, found at once: each setting with those that refer to it.
	const readers = new Map<string, SettingPlace[]>();
	for (const node of graph.nodes)
		for (const name of formulaNames(node)) {
			if (index.wiresInto(node.id, name).length) continue;
			for (const to of referredBy(node, name, index))
				readers.set(keyOf(to), [...(readers.get(keyOf(to)) ?? []), [node.id, name]]);
		}
	const first: SettingPlace = [follower[0], wholeOf(follower[1])];
	const below = new Set([keyOf(first)]);
	const open: SettingPlace[] = [first];
	for (const place of open)
		for (const reader of readers.get(keyOf(place)) ?? [])
			if (!below.has(keyOf(reader))) {
				below.add(keyOf(reader));
				open.push(reader);
			}
	return [...graph.nodes]
		.sort((a, b) => Number(b.id === follower[0]) - Number(a.id === follower[0]))
		.flatMap((node) =>
			inputsShown(node)
				.filter(([name, input]) => isReferable(input) && !below.has(keyOf([node.id, name])))
				.map(([name, { label }]) => ({ place: [node.id, name] as const, node, label }))
		);
}
