/**
 * Evaluation: pulled from the nodes that are looked at, cached by provenance. A node's key is a hash of its kind, its
 * settings and the keys of what flows into it, so that changing one setting runs that node and what hangs from it. One
 * worklist over scopes and nodes, without recursion, however deep bodies lie in one another.
 */
import { Ledger, mergeGeometries } from '../geometry/index.ts';
import type { AnyNode, Context } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { hearsTime } from './bodies.ts';
import { ResultCache } from './cache.ts';
import type { Body, Tools } from './composites/index.ts';
import { bodyOf, isFed } from './composites/index.ts';
import type { GeneratorDocument, GraphNode, Wire } from './document.ts';
import { EvaluatedColumns } from './evaluated-columns.ts';
import { factsOf } from './facts.ts';
import { failureOf } from './failure.ts';
import type { Before } from './node-key.ts';
import { beforeOf, isAsBefore, keyOfNode } from './node-key.ts';
import type { WorkOptions } from './node-work.ts';
import { MOST_ELEMENTS, NodeWork, noteTaker, now } from './node-work.ts';
import { notesOnSharedRanges, wiresPicked } from './resolve.ts';
import { bypassedFrom, failed, waitingFor } from './result.ts';
import type { NodeMessage, NodeResult } from './result.ts';
import { mainScope } from './scope.ts';
import type { Scope } from './scope.ts';
import { States } from './states.ts';
import { framesOf } from './time.ts';

export interface Evaluation {
	/** For every node that the targets hang from. */
	readonly results: ReadonlyMap<string, NodeResult>;
	/** The nodes that really ran, in order; the others came from the cache. Those in bodies with their path before them. */
	readonly ran: readonly string[];
}

export interface EvaluatorOptions extends WorkOptions {
	/** Bytes that one evaluation may take, caches included. */
	memory?: number;
	/** Columns in shared memory. */
	shared?: boolean;
	/** Hears of the keys of results that are no longer kept. */
	dropped?: (key: string) => void;
	/** Hears which node of the main graph begins. */
	begins?: (node: string) => void;
}

/** A node that is being evaluated, or waits for what it needs. */
interface Task {
	readonly scope: Scope;
	readonly node: GraphNode;
	/** The wires whose sources are needed, and the one that is looked at next. */
	wires: readonly Wire[];
	next: number;
	/** Whether they are all of them: of a node that uses one of several wires, those that decide come first. */
	isPicked: boolean;
	/** The body at work, where the node has one, and the nodes in it that it asked for. */
	body: { steps: Body; key: string; since: number; notes: NodeMessage[] } | null;
	asked: { scope: Scope; nodes: string[] } | null;
	/** Scopes that it asked for, of which results are kept until it is done. */
	readonly inner: Scope[];
}

/** A use on the way into a body that is looked into: its node, and as the how-manieth time, from 0. */
export interface Step {
	readonly node: string;
	readonly place: number;
}

/** One evaluation at work. */
interface Run {
	readonly ran: string[];
	/** Keys of results that must stay. */
	readonly pinned: string[];
	readonly stack: Task[];
	readonly ended: ReadonlySet<string>;
	/** The way into the body that is looked into, and the scopes on it, as they are met. */
	readonly into: readonly Step[];
	readonly looked: Scope[];
}

export interface BeginOptions {
	/** In place of the document's own. */
	seed?: number;
	/** The frame that is looked at; the first where nothing is said. */
	frame?: number;
	/** Nodes of the main graph at which an earlier evaluation had to be ended. */
	ended?: readonly string[];
	/** The way into a body that is looked into: all of it is evaluated, when the use of it is. */
	into?: readonly Step[];
}

/** An evaluation at work. */
export interface Begun {
	/** Evaluates what nodes of the main graph hang from. */
	pull(targets: readonly string[]): Evaluation;
	/** The body that is looked into at work, with which pass or shape it is, of how many; null where it was not reached. */
	inside(): { scope: Scope; place: number; places: number } | null;
}

/** Evaluates generators, and remembers what it made. */
export class Evaluator {
	readonly ledger: Ledger;
	readonly #options: EvaluatorOptions;
	readonly #cache: ResultCache;
	readonly #columns: EvaluatedColumns;
	/** What nodes remember from frame to frame. */
	readonly states: States;
	readonly #work: NodeWork;
	readonly #before = new WeakMap<GraphNode, Before>();
	/** Keys of the results that whoever asked last may still look at. */
	#pinned: readonly string[] = [];
	/** The document of the last evaluation: what failed for want of memory is tried again with another. */
	#document: GeneratorDocument | null = null;
	#tried = new WeakMap<NodeResult, GeneratorDocument>();

	constructor(options: EvaluatorOptions = {}) {
		this.#options = options;
		this.ledger = new Ledger({
			limit: options.memory,
			shared: options.shared,
			poll: () => this.#work.poll(),
			relieve: (bytes) => this.#relieve(bytes)
		});
		this.#cache = new ResultCache(this.ledger, options.dropped);
		this.#columns = new EvaluatedColumns(this.ledger);
		this.states = new States(this.ledger);
		this.#work = new NodeWork(options, this.ledger, this.#columns);
	}

	/**
	 * Evaluates what the targets (ids of nodes) hang from, in their order.
	 * @param seed in place of the document's own.
	 * Throws only `Stopped`; everything an artist can mend stands in the results.
	 */
	evaluate(document: GeneratorDocument, targets: readonly string[], seed = document.seed): Evaluation {
		const { results, ran } = this.begin(document, { seed }).pull(targets);
		return { results, ran };
	}

	/** Begins an evaluation of which results are pulled bit by bit: what is looked at first, the rest after it. */
	begin(
		document: GeneratorDocument,
		{ seed = document.seed, frame = framesOf(document).first, ended = [], into = [] }: BeginOptions = {}
	): Begun {
		this.#document = document;
		const main = mainScope(document, seed, frame);
		const run: Run = { ran: [], pinned: [], stack: [], ended: new Set(ended), into, looked: [] };
		return {
			pull: (targets) => {
				const from = run.ran.length;
				try {
					this.#pull(run, main, targets);
				} catch (error) {
					for (const { inner } of run.stack.splice(0)) inner.forEach((scope) => this.#letGo(scope));
					run.pinned.splice(0).forEach((key) => this.#cache.unpin(key));
					throw error;
				}
				this.#settle(run);
				return { results: main.results, ran: run.ran.slice(from) };
			},
			inside: () => {
				const scope = into.length ? run.looked[into.length - 1] : null;
				return scope ? { scope, place: scope.use!.place, places: scope.places } : null;
			}
		};
	}

	/** What was pinned before is free again; what was pinned now stays until the next evaluation. */
	#settle(run: Run): void {
		const before = this.#pinned;
		if (before !== run.pinned) {
			this.#pinned = run.pinned;
			for (const key of before) this.#cache.unpin(key);
			this.#columns.endRound();
			this.states.endRound();
		}
		this.#cache.trim(() => this.ledger.held > this.ledger.limit / 2);
	}

	#pull(run: Run, main: Scope, targets: readonly string[]): void {
		const { stack } = run;
		this.#work.fold = null;
		for (const target of targets) {
			this.#need(run, main, target);
			while (stack.length) {
				this.#options.poll?.();
				this.#step(run, stack[stack.length - 1]);
			}
		}
	}

	/** Puts a node on the worklist where it has no result yet. Whether it is on it now, or was already. */
	#need(run: Run, scope: Scope, id: string): 'done' | 'added' | 'open' {
		const node = scope.node(id);
		if (!node || scope.results.has(id)) return 'done';
		if (scope.open.has(id)) return 'open';
		scope.open.add(id);
		// Where something arrives at an input of a body, what stands there otherwise is not worked out.
		const wires = isFed(scope, node) ? [] : scope.index.wiresIntoNode(id);
		const picks = node.bypassed ? undefined : nodeKinds.get(node.kind)?.picks;
		run.stack.push({
			scope,
			node,
			wires: picks ? wires.filter(({ to }) => !picks.among.includes(to[1])) : wires,
			next: 0,
			isPicked: !picks,
			body: null,
			asked: null,
			inner: []
		});
		return 'added';
	}

	/** One step of the node that stands on top: evaluates what it needs next, or itself. */
	#step(run: Run, task: Task): void {
		const { scope, node } = task;
		const done = (result: NodeResult) => {
			run.stack.pop();
			scope.open.delete(node.id);
			scope.results.set(node.id, result);
			task.inner.splice(0).forEach((inner) => this.#close(run, inner));
			if (!result.key) return;
			this.#cache.pin(result.key);
			if (scope.isMain) run.pinned.push(result.key);
			else scope.pinned.set(node.id, result.key);
		};
		const circular = () =>
			done(
				failed(node, {
					message: 'This node lies on a circle of wires or references. Disconnect one of them.'
				})
			);
		if (!task.body) {
			while (task.next < task.wires.length) {
				const need = this.#need(run, scope, task.wires[task.next++].from[0]);
				if (need === 'added') return;
				if (need === 'open') return circular();
			}
			const wanted = factsOf(node).hasFormulas ? scope.settings.prepare(node) : null;
			if (wanted !== null) {
				const need = this.#need(run, scope, wanted);
				if (need === 'added') return;
				// Its result is there, but what the setting wants of it is not, or it hangs from this node.
				if (need === 'open') return circular();
			}
			if (!task.isPicked) {
				task.isPicked = true;
				task.wires = wiresPicked(node, nodeKinds.get(node.kind)!, scope);
				task.next = 0;
				return;
			}
			const begun = this.#begin(run, task);
			if (begun) return done(begun);
		}
		const made = this.#goOn(run, task);
		if (made) done(made);
	}

	/** Evaluates a node whose sources are done; null where its body must be evaluated first. */
	#begin(run: Run, task: Task): NodeResult | null {
		const { scope, node } = task;
		const kind = nodeKinds.get(node.kind);
		if (!kind) return failed(node, { message: `There is no kind of node “${node.kind}”.` });
		if (node.bypassed) return this.#bypass(scope, node, kind);
		if (scope.isMain && run.ended.has(node.id))
			return failed(node, {
				message: `${kind.name} did not answer for some seconds and was ended. Change it, or what comes in, and it is tried again.`
			});
		const { wires } = task;
		const blocked = wires.find((wire) => {
			const up = scope.results.get(wire.from[0]);
			return !up || up.state === 'error' || up.state === 'waiting';
		});
		if (blocked) return waitingFor(node, blocked.from[0], scope.index);
		const facts = factsOf(node);
		const before = this.#before.get(node);
		if (before && scope.isMain && isAsBefore(before, wires, scope)) {
			const known = this.#known(before.key);
			if (known) return this.#told(known, scope, node, kind);
		}
		let key = '';
		const notes: NodeMessage[] = [];
		try {
			key = keyOfNode(scope, node, kind, wires);
			// What is looked into is gone through again, even where what comes of it is known.
			const isLookedInto = !!kind.body && stepOn(run, scope, node) !== null;
			// With a formula, what stands further off may change the result, and a body may change; then the key decides.
			if (!facts.hasFormulas && !kind.body && !hearsTime(node, { wires }) && scope.isMain)
				this.#before.set(node, beforeOf(scope, wires, key));
			const known = isLookedInto ? undefined : this.#known(key);
			if (known) return this.#told(known, scope, node, kind);
			if (scope.isMain) {
				this.#work.at = node.id;
				this.#options.begins?.(node.id);
			}
			run.ran.push(scope.isMain ? node.id : `${scope.name} ${node.id}`);
			if (kind.body) {
				const tools = this.#toolsFor(task, kind, notes);
				task.body = { steps: bodyOf(scope, node, tools), key, since: now(), notes };
				return null;
			}
			return this.#told(
				this.#keep(this.#work.within(() => this.#work.run(task, kind, key, notes))),
				scope,
				node,
				kind
			);
		} catch (error) {
			return this.#failure(task, kind, { key, notes }, error as Error);
		}
	}

	/** A node with a body goes on: evaluates what the body asks for, or publishes what came of it. */
	#goOn(run: Run, task: Task): NodeResult | null {
		const { scope, node } = task;
		const kind = nodeKinds.get(node.kind)!;
		const body = task.body!;
		try {
			for (;;) {
				if (task.asked) {
					const { scope: inner, nodes } = task.asked;
					while (nodes.length) {
						const need = this.#need(run, inner, nodes[nodes.length - 1]);
						if (need === 'added') return null;
						nodes.pop();
					}
					task.asked = null;
				}
				this.#work.checkTime(body.since);
				const step = this.#work.within(() => body.steps.next());
				if (step.done) {
					// What was only gone through again stays what it was: nobody need draw it anew.
					const known = this.#known(body.key);
					const made =
						known ??
						this.#keep(
							this.#work.within(() =>
								this.#work.made(node, body.key, step.value, {
									warnings: body.notes,
									since: body.since,
									state: 'fresh'
								})
							)
						);
					if (scope.isMain) this.#work.fold = null;
					return this.#told(made, scope, node, kind);
				}
				const { scope: inner, nodes, done } = step.value;
				if (done && !run.looked.includes(done.scope)) {
					this.#letGo(done.scope, new Set(done.keep));
					const at = done.keep.length ? -1 : task.inner.indexOf(done.scope);
					if (at >= 0) task.inner.splice(at, 1);
				}
				if (inner !== scope && inner !== task.inner.at(-1)) task.inner.push(inner);
				task.asked = { scope: inner, nodes: [...nodes, ...this.#alsoNeeded(run, scope, inner)] };
			}
		} catch (error) {
			if (scope.isMain) this.#work.fold = null;
			return this.#failure(task, kind, body, error as Error);
		}
	}

	/** What of a body is wanted beside what its use asks for: all of the one that is looked into, the next use on the way there. */
	#alsoNeeded(run: Run, asking: Scope, inner: Scope): readonly string[] {
		// What is only asked for other frames, or is the asking scope itself, is not on the way.
		if (inner.use?.outer !== asking || inner.isAside) return [];
		const { outer, node, place } = inner.use;
		const depth = stepOn(run, outer, outer.node(node)!);
		if (depth === null) return [];
		const { place: wanted } = run.into[depth];
		const last = Math.min(wanted, inner.places - 1);
		if (place > last) return [];
		const before = run.looked[depth];
		run.looked.splice(depth, Infinity, inner);
		if (before) this.#letGo(before);
		if (place < last) return [];
		return depth + 1 < run.into.length
			? [run.into[depth + 1].node]
			: inner.index.graph.nodes.map(({ id }) => id);
	}

	/** Lets the results of a scope go, but for those of some nodes. */
	#letGo(scope: Scope, keep: ReadonlySet<string> | null = null): void {
		for (const [node, key] of scope.pinned) {
			if (keep?.has(node)) continue;
			this.#cache.unpin(key);
			scope.pinned.delete(node);
		}
		for (const node of scope.results.keys()) if (!keep?.has(node)) scope.results.delete(node);
	}

	/** A body is done: what is looked at stays until the next evaluation, the rest may go. */
	#close(run: Run, inner: Scope): void {
		if (!run.looked.includes(inner)) return this.#letGo(inner);
		run.pinned.push(...inner.pinned.values());
		inner.pinned.clear();
	}

	/** What a body may use beside its scope. */
	#toolsFor(task: Task, kind: AnyNode, notes: NodeMessage[]): Tools {
		const { scope, node } = task;
		const warn = noteTaker(notes);
		let inputs: Record<string, unknown> | null = null;
		let context: Context | null = null;
		const work = this.#work;
		const resolved = () => {
			if (!inputs) {
				inputs = work.inputsOf(task, kind, warn);
				work.checkEstimate(kind, inputs);
			}
			return inputs;
		};
		const here = (at: Scope) => ({ scope: at, node: at.node(node.id)!, wires: [] });
		return {
			inputs: resolved,
			context: () => (context ??= work.contextOf(task, kind, resolved(), warn)),
			resolvedIn: (at) => work.inputsOf(here(at), kind, warn),
			contextIn: (at, own, past) => work.contextOf(here(at), kind, own, warn, past),
			states: this.states,
			// However many frames it goes through, each has the time that a body may take.
			isAt: (share) => {
				task.body!.since = now();
				if (scope.isMain) work.fold = { node: node.id, share };
			},
			warn,
			most: MOST_ELEMENTS
		};
	}

	/** A bypassed node hands its first geometry through. */
	#bypass(scope: Scope, node: GraphNode, kind: AnyNode): NodeResult {
		const from = bypassedFrom(node, scope.index, scope.results);
		if ('state' in from) return from;
		const known = this.#known(from.key);
		if (known) return known.id === node.id ? known : { ...known, id: node.id };
		const { geometries, port, key } = from;
		try {
			const made = () => ({
				[port]: geometries.length === 1 ? geometries[0] : mergeGeometries(geometries)
			});
			const told = { warnings: [], since: now(), state: 'bypassed' } as const;
			return this.#keep(this.#work.within(() => this.#work.made(node, key, made(), told)));
		} catch (error) {
			return this.#failure({ scope, node }, kind, { key, notes: [] }, error as Error);
		}
	}

	#keep(result: NodeResult): NodeResult {
		this.#cache.keep(result);
		return result;
	}

	/** A failure, kept for as long as it would come out the same. */
	#failure(
		at: { scope: Scope; node: GraphNode },
		kind: AnyNode,
		told: { key: string; notes: readonly NodeMessage[] },
		error: Error
	): NodeResult {
		const { result, lasts } = failureOf(at, kind, told, error);
		if (lasts !== 'tried' && result.key) this.#cache.keep(result);
		if (lasts === 'document' && this.#document) this.#tried.set(result, this.#document);
		return result;
	}

	/** The result of a key. What failed for want of memory counts for the document for which it was tried. */
	#known(key: string): NodeResult | undefined {
		const known = this.#cache.take(key);
		const tried = known && this.#tried.get(known);
		return tried && tried !== this.#document ? undefined : known;
	}

	/** A result as this node's own, with what must be said of its place in the graph. */
	#told(result: NodeResult, scope: Scope, node: GraphNode, kind: AnyNode): NodeResult {
		const own = result.id === node.id ? result : { ...result, id: node.id };
		if (result.state !== 'fresh') return own;
		const notes = notesOnSharedRanges(node, kind, scope.index);
		return notes.length ? { ...own, warnings: [...own.warnings, ...notes] } : own;
	}

	/** Lets go of what can be made again, so that `bytes` more fit. */
	#relieve(bytes: number): void {
		const { ledger } = this;
		const isTooMuch = () => ledger.held + ledger.working + bytes > ledger.limit;
		this.#columns.trim(isTooMuch);
		this.#cache.trim(isTooMuch);
		this.states.trim(isTooMuch);
	}
}

/** The step on the way into what is looked into that a node of a scope is; null where it is none. */
function stepOn({ into, looked }: Run, scope: Scope, node: GraphNode): number | null {
	const depth = scope.bodies.length;
	// Of the passes on the way only the one that is looked into.
	const isOnTheWay =
		scope.isMain ||
		(looked[depth - 1] === scope && scope.use!.place === Math.min(into[depth - 1].place, scope.places - 1));
	return isOnTheWay && into[depth]?.node === node.id ? depth : null;
}
