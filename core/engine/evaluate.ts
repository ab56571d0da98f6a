/**
 * Evaluation: pulled from the nodes that are looked at, cached by provenance. A node's key is a hash of its kind, its
 * settings and the keys of what flows into it, so that changing one setting runs that node and what hangs from it. One
 * worklist over scopes and nodes, without recursion, however deep bodies lie in one another.
 */
import { Hasher, NodeError, Stopped, formatCount, inBrief } from '../math/index.ts';
import type { Asset, Bounds, Geometry } from '../geometry/index.ts';
import { Ledger, OutOfMemory, boundsOf, countsOf, firstUnsound, mergeGeometries } from '../geometry/index.ts';
import type { Varying } from '../varying/index.ts';
import type { AnyNode, Context } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { hearsTime } from './bodies.ts';
import { ResultCache } from './cache.ts';
import type { Body, Tools } from './composites/index.ts';
import { bodyOf, isFed, keyOfBody } from './composites/index.ts';
import { makeContext } from './context.ts';
import type { GeneratorDocument, GraphNode, Wire } from './document.ts';
import { EvaluatedColumns } from './evaluated-columns.ts';
import { factsOf, isVaried } from './facts.ts';
import type { Warn } from './inputs/index.ts';
import { Incomplete, MissingFile, Waiting } from './inputs/index.ts';
import { notesOnSharedRanges, resolveInputs, wiresPicked } from './resolve.ts';
import { bypassedFrom, failed, waiting, waitingFor } from './result.ts';
import type { NodeMessage, NodeResult } from './result.ts';
import { mainScope } from './scope.ts';
import type { Scope } from './scope.ts';
import { settingOf } from './settings-graph.ts';
import { Progress } from './progress.ts';
import { States } from './states.ts';
import { framesOf, momentAt } from './time.ts';
import { isGeometry, isVarying } from './values.ts';
import type { Value } from './values.ts';

/** What a node was evaluated from, and what came of it: while all of it is the same, no key need be made. */
interface Before {
	seed: number;
	wires: readonly Wire[];
	/** The keys of what flowed in. */
	sources: readonly string[];
	key: string;
}

export interface Evaluation {
	/** For every node that the targets hang from. */
	readonly results: ReadonlyMap<string, NodeResult>;
	/** The nodes that really ran, in order; the others came from the cache. Those in bodies with their path before them. */
	readonly ran: readonly string[];
}

export interface EvaluatorOptions {
	/** Bytes that one evaluation may take, caches included. */
	memory?: number;
	/** Columns in shared memory. */
	shared?: boolean;
	/** Finds the bytes of an imported file. */
	asset?: (hash: string) => Asset | null;
	/** Throws `Stopped` when it is time to stop. */
	poll?: () => void;
	/** Hears how far a node is. */
	progress?: (node: string, share: number) => void;
	/** Hears of the keys of results that are no longer kept. */
	dropped?: (key: string) => void;
	/** Hears which node of the main graph begins. */
	begins?: (node: string) => void;
	/** The longest that one node may take. */
	seconds?: number;
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

/** The most elements that one table may have. */
const MOST_ELEMENTS = 16_000_000;
const MOST_SECONDS = 120;
const MOST_NOTES = 20;

/** Evaluates generators, and remembers what it made. */
export class Evaluator {
	readonly ledger: Ledger;
	readonly #options: EvaluatorOptions;
	readonly #cache: ResultCache;
	readonly #columns: EvaluatedColumns;
	/** What nodes remember from frame to frame. */
	readonly states: States;
	readonly #progress = new Progress();
	/** The node of the main graph that is being evaluated. */
	#at = '';
	/** Whether it is evaluated for a body: how far the whole of it is, nobody knows. */
	#isInBody = false;
	/** Whether it is worked out what a node would make: nothing of it is done then. */
	#foresees = false;
	/** The node that goes through earlier frames, and how far it is: all that is evaluated meanwhile is for it. */
	#fold: { node: string; share: number } | null = null;
	/** When the node at hand is given up. */
	#latest = Infinity;
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
			poll: () => this.#poll(),
			relieve: (bytes) => this.#relieve(bytes)
		});
		this.#cache = new ResultCache(this.ledger, options.dropped);
		this.#columns = new EvaluatedColumns(this.ledger);
		this.states = new States(this.ledger);
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
		this.#fold = null;
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
		if (before && before.seed === scope.seed && scope.isMain && sameSources(before, wires, scope)) {
			const known = this.#known(before.key);
			if (known) return this.#told(known, scope, node, kind);
		}
		let key = '';
		const notes: NodeMessage[] = [];
		try {
			key = this.#keyOf(scope, node, kind, wires);
			// What is looked into is gone through again, even where what comes of it is known.
			const isLookedInto = !!kind.body && stepOn(run, scope, node) !== null;
			// With a formula, what stands further off may change the result, and a body may change; then the key decides.
			if (!facts.hasFormulas && !kind.body && !hearsTime(node, { wires }) && scope.isMain)
				this.#before.set(node, {
					seed: scope.seed,
					wires,
					sources: wires.map((wire) => scope.results.get(wire.from[0])!.key),
					key
				});
			const known = isLookedInto ? undefined : this.#known(key);
			if (known) return this.#told(known, scope, node, kind);
			if (scope.isMain) {
				this.#at = node.id;
				this.#options.begins?.(node.id);
			}
			run.ran.push(scope.isMain ? node.id : `${scope.name} ${node.id}`);
			if (kind.body) {
				const tools = this.#toolsFor(task, kind, notes);
				task.body = { steps: bodyOf(scope, node, tools), key, since: now(), notes };
				return null;
			}
			return this.#told(
				this.#work(() => this.#run(task, kind, key, notes)),
				scope,
				node,
				kind
			);
		} catch (error) {
			return this.#failure(node, kind, key, error as Error, notes, scope);
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
				this.#checkTime(body.since);
				const step = this.#work(() => body.steps.next());
				if (step.done) {
					// What was only gone through again stays what it was: nobody need draw it anew.
					const known = this.#known(body.key);
					const made =
						known ??
						this.#work(() => this.#publish(node, body.key, step.value, body.notes, body.since, 'fresh'));
					if (scope.isMain) this.#fold = null;
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
			if (scope.isMain) this.#fold = null;
			return this.#failure(node, kind, body.key, error as Error, body.notes, scope);
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
		const resolved = () => {
			if (!inputs) {
				inputs = resolveInputs(node, kind, { scope, asset: this.#options.asset }, warn);
				this.#checkEstimate(kind, inputs);
			}
			return inputs;
		};
		return {
			inputs: resolved,
			context: () => (context ??= this.#contextOf(scope, node, kind, resolved(), warn)),
			resolvedIn: (at) =>
				resolveInputs(at.node(node.id)!, kind, { scope: at, asset: this.#options.asset }, warn),
			contextIn: (at, own, past) => this.#contextOf(at, at.node(node.id)!, kind, own, warn, past),
			states: this.states,
			// However many frames it goes through, each has the time that a body may take.
			isAt: (share) => {
				task.body!.since = now();
				if (scope.isMain) this.#fold = { node: node.id, share };
			},
			warn,
			most: MOST_ELEMENTS
		};
	}

	#contextOf(
		scope: Scope,
		node: GraphNode,
		kind: AnyNode,
		inputs: Record<string, unknown>,
		warn: Warn,
		past?: Context['past']
	): Context {
		return makeContext({
			seed: scope.seed,
			path: scope.path,
			stream: node.stream,
			warn,
			columns: this.#columns,
			moment: momentAt(scope.raw, scope.frame),
			past,
			inputs,
			rangesOf: (name) => isVaried(settingOf(node, name, kind.inputs[name]), kind.inputs[name])
		});
	}

	/** Throws where a body takes too long. */
	#checkTime(since: number): void {
		const longest = this.#options.seconds ?? MOST_SECONDS;
		if (now() - since > 1000 * longest)
			throw new NodeError(
				`Its body took more than ${longest} seconds and was given up. Lower the counts, or how often it is evaluated.`
			);
	}

	/** A bypassed node hands its first geometry through. */
	#bypass(scope: Scope, node: GraphNode, kind: AnyNode): NodeResult {
		const from = bypassedFrom(node, scope.index, scope.results);
		if ('state' in from) return from;
		const known = this.#known(from.key);
		if (known) return known.id === node.id ? known : { ...known, id: node.id };
		try {
			return this.#work(() =>
				this.#publish(
					node,
					from.key,
					{
						[from.port]: from.geometries.length === 1 ? from.geometries[0] : mergeGeometries(from.geometries)
					},
					[],
					now(),
					'bypassed'
				)
			);
		} catch (error) {
			return this.#failure(node, kind, from.key, error as Error, [], scope);
		}
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

	#failure(
		node: GraphNode,
		kind: AnyNode,
		key: string,
		error: Error,
		notes: readonly NodeMessage[],
		scope: Scope
	): NodeResult {
		if (error instanceof Stopped) throw error;
		if (error instanceof Waiting) return waitingFor(node, error.node, scope.index);
		if (error instanceof Incomplete) return waiting(node, error.message, error.input);
		const noMemory = error instanceof OutOfMemory || error instanceof RangeError;
		const message =
			error instanceof NodeError
				? { message: error.message, input: error.input, fixes: error.fixes }
				: error instanceof RangeError
					? { message: 'This needs more memory than the machine gives. Lower the counts.' }
					: {
							message: `${kind.name} met a fault of ours, not of yours: ${error.message}. Undo the last change, and please report it.`
						};
		const result: NodeResult = { ...failed(node, message), key, warnings: notes };
		// A file that is missing may come: nothing else would change, and so it is tried again.
		if (key && !(error instanceof MissingFile)) this.#cache.keep(result);
		if (noMemory && this.#document) this.#tried.set(result, this.#document);
		return result;
	}

	/** The provenance key: the kind, the settings, and the keys of what flows in. */
	#keyOf(scope: Scope, node: GraphNode, kind: AnyNode, wires: readonly Wire[]): string {
		const { signature, varied } = factsOf(node);
		const hasher = new Hasher().text(signature);
		const wired = new Set<string>();
		for (const wire of wires) {
			const made = scope.output(wire.from[0], wire.from[1]);
			wired.add(wire.to[1]);
			hasher
				.text(wire.to[1])
				.text(isVarying(made) ? made.hash : `${scope.results.get(wire.from[0])!.key} ${wire.from[1]}`);
		}
		for (const name of varied)
			if (!wired.has(name)) hasher.text(name).text(scope.settings.value(node, name).hash);
		if (kind.body) hasher.text(keyOfBody(scope, node));
		if (hearsTime(node, { wires })) hasher.text(JSON.stringify(momentAt(scope.raw, scope.frame)));
		if (kind.seeded) hasher.number(scope.seed).text(scope.path).text(node.stream);
		return hasher.key();
	}

	/** Runs work of a node with its memory in the ledger, within the time that a node may take. */
	#work<Result>(work: () => Result): Result {
		this.#latest = now() + 1000 * (this.#options.seconds ?? MOST_SECONDS);
		try {
			return this.ledger.work(work);
		} finally {
			this.#latest = Infinity;
		}
	}

	#run({ scope, node, wires }: Task, kind: AnyNode, key: string, notes: NodeMessage[]): NodeResult {
		const warn = noteTaker(notes);
		const since = now();
		const inputs = resolveInputs(
			node,
			kind,
			{ scope, asset: this.#options.asset, ...(kind.picks && { wires }) },
			warn
		);
		const expected = this.#checkEstimate(kind, inputs);
		this.#isInBody = !scope.isMain;
		this.#progress.begin(kind.id, Math.max(expected, elementsIn(inputs)));
		const context = this.#contextOf(scope, node, kind, inputs, warn);
		const extra = new Map(
			(node.inputs ?? []).map((own): [string, Varying] => [own.name, scope.settings.value(node, own.name)])
		);
		const made = kind.run!(inputs as never, context, extra) as Record<string, Value>;
		const result = this.#publish(node, key, made, notes, since, 'fresh');
		if (!this.#isInBody) this.#progress.end();
		return result;
	}

	/** Works out what a node would make; what that takes is no progress of the node. */
	#foresee<Result>(work: () => Result): Result {
		this.#foresees = true;
		try {
			return work();
		} finally {
			this.#foresees = false;
		}
	}

	/** How many elements a node expects to make. Throws where it would be too much. */
	#checkEstimate(kind: AnyNode, inputs: Record<string, unknown>): number {
		const estimate = this.#foresee(() => kind.estimate?.(inputs as never) ?? null);
		if (!estimate) return 0;
		const { elements, of, lower, most = MOST_ELEMENTS, bytes = 0, seconds = 0 } = estimate;
		if (!(elements <= most))
			throw new NodeError(
				`This would make ${formatCount(elements)} ${of}; ${formatCount(most)} fit. ${lower}`
			);
		const longest = this.#options.seconds ?? MOST_SECONDS;
		if (!(seconds <= longest))
			throw new NodeError(
				`This would take about ${formatCount(seconds)} seconds; ${formatCount(longest)} are allowed. ${lower}`
			);
		this.ledger.check(bytes);
		return elements;
	}

	/** Checks what a node hands on, and keeps it. */
	#publish(
		node: GraphNode,
		key: string,
		made: Readonly<Record<string, Value>>,
		warnings: readonly NodeMessage[],
		since: number,
		state: 'fresh' | 'bypassed'
	): NodeResult {
		const outputs = new Map(Object.entries(made));
		const geometry = [...outputs.values()].find((value): value is Geometry => isGeometry(value));
		for (const value of outputs.values()) {
			const wrong = isGeometry(value) && firstUnsound(value, (column) => this.ledger.isHeld(column));
			if (wrong) throw new NodeError(wrong);
		}
		if (geometry && mayLieBeyond(geometry)) {
			const bounds = boundsOf(geometry);
			if (bounds && ![...bounds.low, ...bounds.high].every(Number.isFinite))
				throw new NodeError(
					'Some of it lies so far away that no number says where (beyond 10³⁸ m). Lower the sizes, scales or distances.'
				);
		}
		const { ledger } = this;
		let bounds: Bounds | null | undefined = geometry ? undefined : null;
		const result: NodeResult = {
			id: node.id,
			key,
			state,
			outputs,
			warnings,
			error: null,
			milliseconds: now() - since,
			counts: geometry ? countsOf(geometry) : null,
			// Worked out when somebody asks: while it plays, hardly anybody does.
			get bounds() {
				return bounds === undefined ? (bounds = ledger.work(() => boundsOf(geometry!))) : bounds;
			}
		};
		this.#cache.keep(result);
		return result;
	}

	/** Throws when it is time to stop, or when a node takes too long. */
	#poll(): void {
		this.#options.poll?.();
		if (this.#latest < Infinity && !this.#foresees)
			this.#options.progress?.(
				this.#fold?.node ?? this.#at,
				this.#fold?.share ?? (this.#isInBody ? 0 : this.#progress.ask())
			);
		if (now() > this.#latest)
			throw new NodeError(
				`This took more than ${this.#options.seconds ?? MOST_SECONDS} seconds and was given up. Lower the counts.`
			);
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

/** Takes what is said of a node; no more than a few things, and each once. */
function noteTaker(notes: NodeMessage[]): Warn {
	return (given, input, fixes) => {
		const message = inBrief(given);
		if (notes.length < MOST_NOTES && !notes.some((note) => note.message === message))
			notes.push({ message, input, fixes });
	};
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

/** Elements of the largest geometry that comes in. */
function elementsIn(inputs: Record<string, unknown>): number {
	let most = 0;
	for (const input of Object.values(inputs).flat()) {
		if (!isGeometry(input)) continue;
		const { points, faces, copies } = countsOf(input);
		most = Math.max(most, points, faces, copies);
	}
	return most;
}

function sameSources(before: Before, wires: readonly Wire[], { results }: Scope): boolean {
	if (before.wires.length !== wires.length) return false;
	for (let i = 0; i < wires.length; i++)
		if (before.wires[i] !== wires[i] || before.sources[i] !== results.get(wires[i].from[0])?.key)
			return false;
	return true;
}

/** Of many copies that lie in none, sound columns already say that all of it lies somewhere. */
const MANY_COPIES = 2000;
const mayLieBeyond = ({ copies }: Geometry): boolean =>
	!copies || copies.copies.count < MANY_COPIES || copies.sources.some((source) => source.copies);

const now = (): number => performance.now();
