/**
 * Evaluation: pulled from the nodes that are looked at, cached by provenance. A node's key is a hash of its kind, its
 * settings and the keys of what flows into it, so that changing one setting runs that node and what hangs from it.
 */
import { Hasher, NodeError, Stopped, formatCount } from '../math/index.ts';
import type { Asset, Geometry } from '../geometry/index.ts';
import { Memory, boundsOf, bytesOf, countsOf, withMemory } from '../geometry/index.ts';
import type { Varying } from '../varying/index.ts';
import type { AnyNode } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { Binder, GraphIndex, isGeometry, isList, isVarying, settingOf } from './bind.ts';
import { makeContext } from './context.ts';
import type { GeneratorDocument, Graph, GraphNode, Wire } from './document.ts';
import { ResultCache } from './cache.ts';
import type { NodeFacts } from './order.ts';
import { factsOf, isVaried, orderOf } from './order.ts';
import type { Warn } from './resolve.ts';
import { bypassed, failed, waiting, waitingFor } from './result.ts';
import type { NodeMessage, NodeResult, Value } from './result.ts';
import { Incomplete, Waiting, noteSharedRanges, resolveInputs } from './resolve.ts';

/** What a node was evaluated from, and what came of it: while all of it is the same, no key need be made. */
interface Before {
	seed: number;
	wires: readonly Wire[];
	sources: readonly (NodeResult | undefined)[];
	result: NodeResult;
}

export interface Evaluation {
	/** For every node that the targets hang from. */
	readonly results: ReadonlyMap<string, NodeResult>;
	/** The nodes that really ran, in order; the others came from the cache. */
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
	/** The longest that one node may take. */
	seconds?: number;
}

/** The most elements that one table may have. */
export const MOST_ELEMENTS = 16_000_000;

const NO_WIRES: readonly Wire[] = [];

/** Evaluates generators, and remembers what it made. */
export class Evaluator {
	readonly memory: Memory;
	readonly #options: EvaluatorOptions;
	readonly #cache: ResultCache;
	/** When the node at hand is given up. */
	#latest = Infinity;
	#index: { graph: Graph; index: GraphIndex } | null = null;
	readonly #before = new WeakMap<GraphNode, Before>();

	constructor(options: EvaluatorOptions = {}) {
		this.#options = options;
		this.memory = new Memory(options.memory ?? 2e9, options.shared ?? false, () => this.#poll());
		this.#cache = new ResultCache(this.memory.limit / 2);
	}

	/** Bytes held by the cache. */
	get cachedBytes(): number {
		return this.#cache.bytes;
	}

	/**
	 * Evaluates what the targets (ids of nodes) hang from.
	 * @param seed in place of the document's own.
	 * Throws only `Stopped`; everything an artist can mend stands in the results.
	 */
	evaluate(document: GeneratorDocument, targets: readonly string[], seed = document.seed): Evaluation {
		const graph = document.graphs.main;
		if (this.#index?.graph !== graph) this.#index = { graph, index: new GraphIndex(graph) };
		const { index } = this.#index;
		const results = new Map<string, NodeResult>();
		const ran: string[] = [];
		const outputs = (node: string, port: string): Value => {
			const made = results.get(node)?.outputs.get(port);
			if (made === undefined) throw new Waiting(node);
			return made;
		};
		const binder = new Binder(index, seed, outputs);
		const { order, circular } = orderOf(index, targets);
		for (const node of order) {
			this.#options.poll?.();
			const result = circular.has(node.id)
				? failed(node, {
						message: 'This node lies on a circle of wires or references. Take one of them away.'
					})
				: this.#evaluateNode(node, index, binder, results, seed, ran);
			results.set(node.id, result);
		}
		this.#cache.evict(new Set([...results.values()].map((result) => result.key)));
		return { results, ran };
	}

	#evaluateNode(
		node: GraphNode,
		index: GraphIndex,
		binder: Binder,
		results: ReadonlyMap<string, NodeResult>,
		seed: number,
		ran: string[]
	): NodeResult {
		const kind = nodeKinds.get(node.kind);
		if (!kind) return failed(node, { message: `There is no kind of node “${node.kind}”.` });
		if (node.bypassed) return bypassed(node, kind, index, results);
		const wired = (index.intoNode.get(node.id) ?? []).find((wire) => {
			const up = results.get(wire.from[0]);
			return !up || up.state === 'error' || up.state === 'waiting';
		});
		if (wired) return waitingFor(node, wired.from[0], index);
		const facts = factsOf(node);
		const wires = index.intoNode.get(node.id) ?? NO_WIRES;
		const before = this.#before.get(node);
		if (
			before &&
			before.seed === seed &&
			sameSources(before, wires, results) &&
			this.#cache.take(before.result.key)
		)
			return before.result;
		const notes: NodeMessage[] = [];
		/** With a formula, what stands further off may change the result; then the key decides. */
		const keep = (result: NodeResult): NodeResult => {
			if (!facts.hasFormulas)
				this.#before.set(node, {
					seed,
					wires,
					sources: wires.map((wire) => results.get(wire.from[0])),
					result
				});
			return result;
		};
		try {
			const key = this.#keyOf(node, kind, facts, wires, binder, results, seed);
			const known = this.#cache.take(key);
			if (known) return keep(known.id === node.id ? known : { ...known, id: node.id });
			ran.push(node.id);
			const result = this.#run(node, kind, key, index, binder, results, seed, notes);
			this.#cache.keep(result);
			return keep(result);
		} catch (error) {
			if (error instanceof Waiting) return waitingFor(node, error.node, index);
			if (error instanceof Incomplete) return waiting(node, error.message, error.input);
			if (error instanceof NodeError)
				return {
					...failed(node, { message: error.message, input: error.input, fixes: error.fixes }),
					warnings: notes
				};
			if (error instanceof Stopped) throw error;
			if (error instanceof RangeError)
				return failed(node, { message: 'This needs more memory than the machine gives. Lower the counts.' });
			return failed(node, {
				message: `${kind.name} met a fault of ours, not of yours: ${(error as Error).message}. Undo the last change, and please report it.`
			});
		}
	}

	/** The provenance key: the kind, the settings, and the keys of what flows in. */
	#keyOf(
		node: GraphNode,
		kind: AnyNode,
		{ signature, varied }: NodeFacts,
		wires: readonly Wire[],
		binder: Binder,
		results: ReadonlyMap<string, NodeResult>,
		seed: number
	): string {
		const hasher = new Hasher().text(signature);
		const wired = new Set<string>();
		for (const wire of wires) {
			const up = results.get(wire.from[0])!;
			const made = up.outputs.get(wire.from[1]);
			if (made === undefined) throw new Waiting(wire.from[0]);
			wired.add(wire.to[1]);
			hasher.text(wire.to[1]).text(isVarying(made) ? made.hash : `${up.key} ${wire.from[1]}`);
		}
		for (const name of varied) if (!wired.has(name)) hasher.text(name).text(binder.value(node, name).hash);
		if (kind.seeded) hasher.number(seed).text(node.stream);
		return hasher.digest();
	}

	#run(
		node: GraphNode,
		kind: AnyNode,
		key: string,
		index: GraphIndex,
		binder: Binder,
		results: ReadonlyMap<string, NodeResult>,
		seed: number,
		notes: NodeMessage[]
	): NodeResult {
		const warn: Warn = (message, input, fixes) => {
			if (notes.length < 20 && !notes.some((note) => note.message === message))
				notes.push({ message, input, fixes });
		};
		const start = now();
		this.#latest = start + 1000 * (this.#options.seconds ?? 120);
		const poll = () => this.#poll();
		this.memory.used = this.#cache.bytes;
		return withMemory(this.memory, () => {
			const inputs = resolveInputs(node, kind, { index, binder, results, asset: this.#options.asset }, warn);
			noteSharedRanges(node, kind, index, warn);
			const estimate = kind.estimate?.(inputs as never);
			const most = estimate?.most ?? MOST_ELEMENTS;
			if (estimate && !(estimate.elements <= most))
				throw new NodeError(
					`This would make ${formatCount(estimate.elements)} ${estimate.of}; ${formatCount(most)} fit. ${estimate.lower}`
				);
			const context = makeContext({
				seed,
				stream: node.stream,
				warn,
				poll,
				progress: (share) => this.#options.progress?.(node.id, share),
				inputs,
				rangesOf: (name) => isVaried(settingOf(node, name, kind.inputs[name]), kind.inputs[name])
			});
			const extra = new Map(
				(node.inputs ?? []).map((own): [string, Varying] => [own.name, binder.value(node, own.name)])
			);
			const made = kind.run(inputs as never, context, extra) as Record<string, Value>;
			const outputs = new Map(Object.entries(made));
			const geometry = [...outputs.values()].find((value): value is Geometry => isGeometry(value));
			let bytes = 256;
			for (const value of outputs.values())
				bytes += isList(value) ? value.data.byteLength : isGeometry(value) ? bytesOf(value) : 200;
			const bounds = geometry ? boundsOf(geometry) : null;
			if (bounds && ![...bounds.low, ...bounds.high].every(Number.isFinite))
				throw new NodeError(
					'Some of it lies so far away that no number says where (beyond 10³⁸ m). Lower the sizes, scales or distances.'
				);
			const milliseconds = now() - start;
			return {
				id: node.id,
				key,
				state: 'fresh',
				outputs,
				warnings: notes,
				error: null,
				bytes,
				milliseconds,
				counts: geometry ? countsOf(geometry) : null,
				bounds
			};
		});
	}

	/** Throws when it is time to stop, or when a node takes too long. */
	#poll(): void {
		this.#options.poll?.();
		if (now() > this.#latest)
			throw new NodeError(
				`This took more than ${this.#options.seconds ?? 120} seconds and was given up. Lower the counts.`
			);
	}
}

function sameSources(
	before: Before,
	wires: readonly Wire[],
	results: ReadonlyMap<string, NodeResult>
): boolean {
	if (before.wires.length !== wires.length) return false;
	for (let i = 0; i < wires.length; i++)
		if (before.wires[i] !== wires[i] || before.sources[i] !== results.get(wires[i].from[0])) return false;
	return true;
}

const now = (): number => performance.now();
