/**
 * After a change: what was changed drives. What a dial has in hand hears it, a dial hears what it has in hand, and ties
 * carry a number on to their other ends, each once. A document that is opened, undone or exported is settled already.
 */
import { NodeError } from '../math/index.ts';
import { inputOf } from './connect.ts';
import type { SettingIn } from './dials.ts';
import {
	boundedBy,
	dialFrom,
	dialOf,
	isSame,
	settingFrom,
	withLinks,
	withoutLink,
	withoutStream
} from './dials.ts';
import type { Dial, GeneratorDocument, GraphNode, Setting, Tie, TieEnd } from './document.ts';
import { withEveryGraph, withEveryNode, withNodes } from './document.ts';
import { settingOf } from './settings-graph.ts';
import { withSettingOn } from './build.ts';
import { endAt, nameAtEnd } from './vector-parts.ts';
import { across, isSameEnd, isWhole, keyOfEnd, numberAt, settingWith } from './ties.ts';
import { solved } from './equations.ts';

const nodeIn = ({ graphs }: GeneratorDocument, graph: string, id: string): GraphNode | undefined =>
	Object.hasOwn(graphs, graph) ? graphs[graph].nodes.find((one) => one.id === id) : undefined;

/** The document with all that hangs from what was changed. The same object where nothing does. */
export function settled(after: GeneratorDocument, before: GeneratorDocument): GeneratorDocument {
	if (after === before) return after;
	const whole = withoutLoose(after, before);
	if (!whole.dials.length && !whole.ties.length) return whole;
	const ends = [...endsChanged(whole, before), ...whole.ties.flatMap((tie) => driverOf(tie, before) ?? [])];
	const queue = [...new Map(ends.map((end) => [keyOfEnd(end), end])).values()];
	return queue.length ? new Settling(whole, before).run(queue) : whole;
}

/** What dials have in hand holds what they say; links to dials that are not there go. The same object where all is so already. */
export function withDialsInHand(document: GeneratorDocument): GeneratorDocument {
	return withEveryNode(document, (node) => {
		const links = Object.entries(node.dials ?? {});
		if (!links.length) return node;
		const kept = links.filter(([, key]) => dialOf(document, key));
		let set = node;
		for (const [setting, key] of kept) {
			const next = settingFrom(dialOf(document, key)!, node, setting);
			if (!isSame(next, valueOf(set, setting))) set = withSettingOn(set, setting, next);
		}
		return kept.length === links.length && set === node ? node : withLinks(set, kept);
	});
}

/**
 * Ties of which an end is gone go, and slots without their nodes. So do links to dials that are gone, and those of nodes that
 * are new and hold something else, as where they were pasted from another generator.
 */
function withoutLoose(document: GeneratorDocument, before: GeneratorDocument): GeneratorDocument {
	const ties = document.ties
		.map((tie) => followed(tie, document, before))
		.filter((tie) => isWhole(document, tie));
	const isSameTies = ties.length === document.ties.length && ties.every((tie, i) => tie === document.ties[i]);
	const whole = withoutLooseSlots(isSameTies ? document : { ...document, ties });
	return withEveryGraph(whole, (graph, id) => {
		const old = Object.hasOwn(before.graphs, id) ? before.graphs[id] : null;
		const isAsBefore = graph === old && whole.dials === before.dials;
		if (isAsBefore || !graph.nodes.some(({ dials }) => dials)) return graph;
		const known = new Set(old?.nodes.map((node) => node.id));
		return withNodes(graph, (node) => {
			const links = Object.entries(node.dials ?? {});
			const kept = links.filter(([setting, key]) => {
				const dial = dialOf(whole, key);
				return (
					dial &&
					(known.has(node.id) ||
						isSame(withoutStream(settingFrom(dial, node, setting)), withoutStream(valueOf(node, setting))))
				);
			});
			return kept.length === links.length ? node : withLinks(node, kept);
		});
	});
}

/** A tie whose ends went into another graph, as where a subgraph was made of their nodes or taken apart. */
function followed(tie: Tie, document: GeneratorDocument, before: GeneratorDocument): Tie {
	const follow = (end: TieEnd): TieEnd => {
		if ('dial' in end || nodeIn(document, end.graph, end.node)) return end;
		const graph = Object.keys(document.graphs).find(
			(id) => nodeIn(document, id, end.node) && !nodeIn(before, id, end.node)
		);
		return graph === undefined ? end : { ...end, graph };
	};
	const [a, b] = [follow(tie.a), follow(tie.b)];
	return a === tie.a && b === tie.b ? tie : { ...tie, a, b };
}

/** Slots whose nodes are there. The same document where all are. */
function withoutLooseSlots(document: GeneratorDocument): GeneratorDocument {
	const ids = new Set(document.graphs.main.nodes.map(({ id }) => id));
	const slots = document.slots.filter(({ node }) => ids.has(node));
	return slots.length === document.slots.length ? document : { ...document, slots };
}

/** A document as it is at a frame, of which the other ends of ties follow those that have keys. */
export function withTiesAt(at: GeneratorDocument, raw: GeneratorDocument): GeneratorDocument {
	const keyed = raw.ties
		.flatMap(({ a, b }) => [a, b])
		.filter((end) => numberAt(raw, end) === null && numberAt(at, end) !== null);
	return keyed.length ? new Settling(at, raw).run(keyed) : at;
}

/** The end of a tie that drives, as the tie is new or has another equation; null where it is as it was. */
function driverOf({ id, a, b, toA, toB }: Tie, { ties }: GeneratorDocument): TieEnd | null {
	let known = tiesById.get(ties);
	if (!known) tiesById.set(ties, (known = new Map(ties.map((one) => [one.id, one]))));
	const was = known.get(id);
	if (!was || was.toB !== toB) return a;
	return was.toA !== toA ? b : null;
}

const tiesById = new WeakMap<readonly Tie[], ReadonlyMap<string, Tie>>();

/** The dials and the settings that count which are others than before. */
function endsChanged(after: GeneratorDocument, before: GeneratorDocument): TieEnd[] {
	const ends: TieEnd[] = [];
	if (after.dials !== before.dials)
		for (const dial of after.dials) {
			const was = dialOf(before, dial.key);
			if (was && !isSame(was.value, dial.value)) ends.push({ dial: dial.key });
		}
	if (after.graphs === before.graphs) return ends;
	const tied = after.ties.flatMap(({ a, b }) => [a, b]);
	for (const [id, graph] of Object.entries(after.graphs)) {
		const old = before.graphs[id];
		if (!old || old === graph) continue;
		const known = new Map(old.nodes.map((node) => [node.id, node]));
		for (const node of graph.nodes) {
			const was = known.get(node.id);
			if (!was || was === node) continue;
			for (const setting of Object.keys(node.dials ?? {}))
				if (!isSame(valueOf(node, setting), valueOf(was, setting))) ends.push(endAt(id, node.id, setting));
			for (const end of tied)
				if (
					'node' in end &&
					end.graph === id &&
					end.node === node.id &&
					numberAt(after, end) !== numberAt(before, end)
				)
					ends.push(end);
		}
	}
	return ends;
}

function valueOf(node: GraphNode, setting: string): Setting {
	const input = inputOf(node, setting);
	return input ? settingOf(node, setting, input) : 0;
}

/** One change that is carried on. */
class Settling {
	#document: GeneratorDocument;
	readonly #before: GeneratorDocument;
	/** The ends that were set, each once. */
	readonly #done = new Set<string>();

	constructor(document: GeneratorDocument, before: GeneratorDocument) {
		this.#document = document;
		this.#before = before;
	}

	run(queue: TieEnd[]): GeneratorDocument {
		for (const end of queue) this.#done.add(keyOfEnd(end));
		for (const end of queue) {
			if ('dial' in end) this.#fromDial(end.dial, queue);
			else this.#fromSetting({ ...end, setting: nameAtEnd(end) }, queue);
			this.#overTies(end, queue);
		}
		return this.#document;
	}

	/** All that a dial has in hand. */
	#fromDial(key: string, queue: TieEnd[]): void {
		const dial = dialOf(this.#document, key)!;
		this.#document = withEveryNode(this.#document, (node, graph) => {
			const mine = Object.entries(node.dials ?? {}).filter(([, of]) => of === key);
			let set = node;
			for (const [setting] of mine) {
				const next = settingFrom(dial, node, setting);
				if (isSame(next, valueOf(set, setting))) continue;
				set = withSettingOn(set, setting, next);
				this.#reach(endAt(graph, node.id, setting), queue);
			}
			return set;
		});
	}

	/** The dial that has a setting in hand. */
	#fromSetting(at: SettingIn, queue: TieEnd[]): void {
		const node = nodeIn(this.#document, at.graph, at.node);
		const key = node?.dials?.[at.setting];
		const dial = key === undefined ? null : dialOf(this.#document, key);
		if (!node || !dial || this.#done.has(keyOfEnd({ dial: dial.key }))) return;
		const given = valueOf(node, at.setting);
		const value = dialFrom(dial, node, at.setting, given);
		// What the dial cannot be, as a formula, is no more in its hand.
		if (value === null) return void (this.#document = withoutLink(this.#document, at));
		if (!isSame(value, dial.value)) this.#putDial(dial, value);
		queue.push({ dial: dial.key });
		this.#done.add(keyOfEnd({ dial: dial.key }));
	}

	/** The other ends of its ties, and of those of its parts. */
	#overTies(end: TieEnd, queue: TieEnd[]): void {
		for (const tie of this.#document.ties) {
			for (const own of [tie.a, tie.b]) {
				if (!isPartOf(own, end)) continue;
				const { to, equation } = across(tie, own)!;
				const x = numberAt(this.#document, own);
				const driver = driverOf(tie, this.#before);
				const isNew = !!driver && isSameEnd(driver, own);
				// A part that stayed as it was carries nothing on, but over a tie that is new.
				const isAsBefore = x === numberAt(this.#before, own) && !isNew;
				if (x === null || isAsBefore || this.#done.has(keyOfEnd(to))) continue;
				try {
					this.#put(to, solved(equation, x), queue);
				} catch (error) {
					// An equation without an answer here leaves the other end where it is.
					if (!(error instanceof NodeError)) throw error;
				}
			}
		}
	}

	#put(end: TieEnd, value: number, queue: TieEnd[]): void {
		const setting = settingWith(this.#document, end, value);
		if (setting === null) return;
		// What holds it already carries nothing on.
		const held =
			'part' in end && end.part !== undefined && Array.isArray(setting) ? setting[end.part] : setting;
		if (held === numberAt(this.#document, end)) return void this.#done.add(keyOfEnd(end));
		if ('dial' in end) {
			const dial = dialOf(this.#document, end.dial)!;
			this.#putDial(dial, boundedBy(dial, setting));
		} else
			this.#document = withEveryNode(this.#document, (node, graph) =>
				graph === end.graph && node.id === end.node ? withSettingOn(node, end.setting, setting) : node
			);
		this.#reach(end, queue);
	}

	#putDial(dial: Dial, value: Setting): void {
		const { dials } = this.#document;
		this.#document = {
			...this.#document,
			dials: dials.map((one) => (one.key === dial.key ? { ...one, value } : one))
		};
	}

	#reach(end: TieEnd, queue: TieEnd[]): void {
		if (this.#done.has(keyOfEnd(end))) return;
		this.#done.add(keyOfEnd(end));
		queue.push(end);
	}
}

/** Whether an end is another one, or a part of it, or the whole of which it is a part. */
function isPartOf(own: TieEnd, of: TieEnd): boolean {
	if ('dial' in own || 'dial' in of) return keyOfEnd(own) === keyOfEnd(of);
	const isOne = own.graph === of.graph && own.node === of.node && own.setting === of.setting;
	return isOne && (own.part === of.part || of.part === undefined || own.part === undefined);
}
