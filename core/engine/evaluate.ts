/**
 * Evaluation: pulled from the nodes that are looked at, cached by provenance. A node's key is a hash of its kind, its
 * settings and the keys of what flows into it, so that changing one setting runs that node and what hangs from it.
 */
import { Hasher, NodeError, Stopped, formatCount, plural } from '../math/index.ts';
import type { Fix } from '../math/index.ts';
import type { Asset, Bounds, Counts, Geometry, Part } from '../geometry/index.ts';
import {
	EMPTY,
	Memory,
	boundsOf,
	bytesOf,
	countsOf,
	isEmpty,
	makeCurves,
	makeMesh,
	makePoints,
	mergeGeometries,
	withMemory
} from '../geometry/index.ts';
import type { Ramp, Varying } from '../varying/index.ts';
import { constantNumber, nearestName, partsOf, run, singleElement } from '../varying/index.ts';
import type { AnyNode, InputDefinition, List } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import {
	Binder,
	GraphIndex,
	formulasOf,
	isGeometry,
	isList,
	isRampValue,
	isVarying,
	referencesIn,
	settingOf
} from './bind.ts';
import { inputsOf } from './connect.ts';
import { makeContext } from './context.ts';
import type { GeneratorDocument, Graph, GraphNode, Setting, Wire } from './document.ts';
import { isFormula, isPath, isRamp, isRange } from './document.ts';

export type Value = Geometry | Varying | List | Ramp;

/** What is known of a node's settings without its graph. A node object never changes, so this is found once. */
interface NodeFacts {
	/** A hash of the plain settings. */
	signature: string;
	/** Inputs whose setting is a random range or a formula. */
	varied: string[];
	hasFormulas: boolean;
}

/** What a node was evaluated from, and what came of it: while all of it is the same, no key need be made. */
interface Before {
	seed: number;
	wires: readonly Wire[];
	sources: readonly (NodeResult | undefined)[];
	result: NodeResult;
}

export interface NodeMessage {
	message: string;
	input?: string;
	fix?: Fix;
}

/** What came of a node. */
export interface NodeResult {
	readonly id: string;
	/** Names what made it; equal keys are equal results. */
	readonly key: string;
	/** `waiting`: something that it needs is missing or failed further up. */
	readonly state: 'fresh' | 'waiting' | 'error' | 'bypassed';
	readonly outputs: ReadonlyMap<string, Value>;
	readonly counts: Counts | null;
	readonly bounds: Bounds | null;
	readonly milliseconds: number;
	readonly warnings: readonly NodeMessage[];
	readonly error: NodeMessage | null;
	readonly bytes: number;
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
const NO_OUTPUTS: ReadonlyMap<string, Value> = new Map();

/** Evaluates generators, and remembers what it made. */
export class Evaluator {
	readonly memory: Memory;
	readonly #options: EvaluatorOptions;
	/** In the order of last use, the oldest first. */
	readonly #cache = new Map<string, NodeResult>();
	#cacheBytes = 0;
	/** When the node at hand is given up. */
	#latest = Infinity;
	#index: { graph: Graph; index: GraphIndex } | null = null;
	readonly #facts = new WeakMap<GraphNode, NodeFacts>();
	readonly #before = new WeakMap<GraphNode, Before>();

	constructor(options: EvaluatorOptions = {}) {
		this.#options = options;
		this.memory = new Memory(options.memory ?? 2e9, options.shared ?? false, () => this.#poll());
	}

	/** Bytes held by the cache. */
	get cachedBytes(): number {
		return this.#cacheBytes;
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
		const { order, circular } = this.#order(index, targets);
		for (const node of order) {
			this.#options.poll?.();
			const result = circular.has(node.id)
				? failed(node, {
						message: 'This node lies on a circle of wires or references. Take one of them away.'
					})
				: this.#evaluateNode(node, index, binder, results, seed, ran);
			results.set(node.id, result);
		}
		this.#evict(results);
		return { results, ran };
	}

	/** Nodes in an order in which each comes after all it depends on. No recursion: graphs may be long. */
	#order(index: GraphIndex, targets: readonly string[]): { order: GraphNode[]; circular: Set<string> } {
		const order: GraphNode[] = [];
		const state = new Map<string, 'open' | 'done'>();
		const circular = new Set<string>();
		const stack: { id: string; needs: string[]; next: number }[] = [];
		const open = (id: string) => {
			state.set(id, 'open');
			stack.push({ id, needs: this.#needsOf(id, index), next: 0 });
		};
		for (const target of targets) {
			if (!index.byId.has(target) || state.has(target)) continue;
			open(target);
			while (stack.length) {
				const top = stack[stack.length - 1];
				const need = top.needs[top.next++];
				if (need === undefined) {
					stack.pop();
					state.set(top.id, 'done');
					order.push(index.byId.get(top.id)!);
				} else if (!state.has(need)) open(need);
				else if (state.get(need) === 'open') circular.add(top.id);
			}
		}
		return { order, circular };
	}

	#factsOf(node: GraphNode): NodeFacts {
		let facts = this.#facts.get(node);
		if (facts) return facts;
		const kind = nodeKinds.get(node.kind);
		const hasher = new Hasher().text(node.kind).word(kind?.version ?? 0);
		const varied: string[] = [];
		for (const [name, input] of inputsOf(node)) {
			const setting = settingOf(node, name, input);
			if (isVaried(setting, input)) varied.push(name);
			else hasher.text(name).text(JSON.stringify(setting));
		}
		const hasFormulas =
			kind?.id === 'formula' ||
			Object.values(node.settings).some((setting) => formulasOf(setting).length > 0);
		facts = { signature: hasher.digest(), varied, hasFormulas };
		this.#facts.set(node, facts);
		return facts;
	}

	/** The nodes whose outputs a node needs: along wires, and behind the references of its formulas. */
	#needsOf(id: string, index: GraphIndex): string[] {
		const wires = index.intoNode.get(id) ?? NO_WIRES;
		if (!this.#factsOf(index.byId.get(id)!).hasFormulas)
			return wires.map((wire) => wire.from[0]).filter((need) => need !== id && index.byId.has(need));
		const needs = new Set((index.intoNode.get(id) ?? []).map((wire) => wire.from[0]));
		const node = index.byId.get(id)!;
		const seen = new Set<string>();
		const queue = Object.values(node.settings).flatMap((s) =>
			formulasOf(s).map((f) => ({ node, text: f.formula }))
		);
		if (nodeKinds.get(node.kind)?.id === 'formula' && typeof node.settings.formula === 'string')
			queue.push({ node, text: node.settings.formula });
		while (queue.length) {
			const { node: from, text } = queue.pop()!;
			for (const { node: other, setting } of referencesIn(text, from, index)) {
				const key = `${other.id} ${setting}`;
				if (seen.has(key)) continue;
				seen.add(key);
				for (const wire of index.wiresInto(other.id, setting)) needs.add(wire.from[0]);
				if (Object.hasOwn(other.settings, setting))
					for (const f of formulasOf(other.settings[setting])) queue.push({ node: other, text: f.formula });
			}
		}
		needs.delete(id);
		return [...needs].filter((need) => index.byId.has(need));
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
		if (node.bypassed) return this.#bypass(node, kind, index, results);
		const wired = (index.intoNode.get(node.id) ?? []).find((wire) => {
			const up = results.get(wire.from[0]);
			return !up || up.state === 'error' || up.state === 'waiting';
		});
		if (wired) {
			const up = index.byId.get(wired.from[0]);
			return waiting(node, `Waits for ${up?.short ?? 'a node'}.`);
		}
		const facts = this.#factsOf(node);
		const wires = index.intoNode.get(node.id) ?? NO_WIRES;
		const before = this.#before.get(node);
		if (before && before.seed === seed && sameSources(before, wires, results) && this.#touch(before.result))
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
			const known = this.#cache.get(key);
			if (known) {
				this.#touch(known);
				return keep(known.id === node.id ? known : { ...known, id: node.id });
			}
			ran.push(node.id);
			const result = this.#run(node, kind, key, index, binder, results, seed, notes);
			this.#remember(result);
			return keep(result);
		} catch (error) {
			if (error instanceof Waiting)
				return waiting(node, `Waits for ${index.byId.get(error.node)?.short ?? 'a node'}.`);
			if (error instanceof Incomplete) return waiting(node, error.message, error.input);
			if (error instanceof NodeError)
				return {
					...failed(node, { message: error.message, input: error.input, fix: error.fix }),
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

	/** Marks a result as used last. False where the cache has let it go. */
	#touch(result: NodeResult): boolean {
		const held = this.#cache.get(result.key);
		if (!held) return false;
		this.#cache.delete(result.key);
		this.#cache.set(result.key, held);
		return true;
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
		const warn = (message: string, input?: string, fix?: Fix) => {
			if (notes.length < 20 && !notes.some((note) => note.message === message))
				notes.push({ message, input, fix });
		};
		const start = now();
		this.#latest = start + 1000 * (this.#options.seconds ?? 120);
		const poll = () => this.#poll();
		this.memory.used = this.#cacheBytes;
		return withMemory(this.memory, () => {
			const inputs = this.#resolve(node, kind, index, binder, results, warn);
			this.#noteSharedRanges(node, kind, index, warn);
			const estimate = kind.estimate?.(inputs as never);
			if (estimate && !(estimate.elements <= MOST_ELEMENTS))
				throw new NodeError(
					`This would make ${formatCount(estimate.elements)} ${estimate.of}; ${formatCount(MOST_ELEMENTS)} fit. ${estimate.lower}`
				);
			const context = makeContext({
				seed,
				stream: node.stream,
				warn,
				poll,
				progress: (share) => this.#options.progress?.(node.id, share),
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
				bounds: geometry ? boundsOf(geometry) : null
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

	/** What `run` gets: every input resolved as its definition says. */
	#resolve(
		node: GraphNode,
		kind: AnyNode,
		index: GraphIndex,
		binder: Binder,
		results: ReadonlyMap<string, NodeResult>,
		warn: (message: string, input?: string, fix?: Fix) => void
	): Record<string, unknown> {
		const inputs: Record<string, unknown> = {};
		for (const [name, input] of Object.entries(kind.inputs) as [string, InputDefinition][]) {
			const wires = index.wiresInto(node.id, name);
			const setting = settingOf(node, name, input);
			switch (input.kind) {
				case 'geometry': {
					const found = wires.map((wire) => {
						const made = results.get(wire.from[0])?.outputs.get(wire.from[1]);
						if (made === undefined) throw new Waiting(wire.from[0]);
						if (!isGeometry(made))
							throw new NodeError(`“${input.label}” takes geometry; a value came.`, { input: name });
						return made;
					});
					if (!found.length && !input.optional)
						throw new Incomplete(`Connect ${needText(input.needs)} to “${input.label}”.`, name);
					const checked = found.map((geometry) => withNeeded(geometry, input.needs, input.label, name, warn));
					inputs[name] = input.many ? checked : (checked.at(-1) ?? null);
					break;
				}
				case 'list': {
					const wire = wires.at(-1);
					const made = wire && results.get(wire.from[0])?.outputs.get(wire.from[1]);
					if (!made && !input.optional) throw new Incomplete(`Connect a list to “${input.label}”.`, name);
					if (made && !isList(made))
						throw new NodeError(`“${input.label}” takes a list; one varying value has no length.`, {
							input: name
						});
					inputs[name] = made ?? null;
					break;
				}
				case 'ramp': {
					const wire = wires.at(-1);
					const made = wire && results.get(wire.from[0])?.outputs.get(wire.from[1]);
					inputs[name] = made && isRampValue(made) ? made : isRamp(setting) ? setting : input.default;
					break;
				}
				case 'path':
					inputs[name] = isPath(setting) ? setting.path : input.default.path;
					break;
				case 'choice':
					inputs[name] = input.options.some((option) => option.id === setting) ? setting : input.default;
					if (inputs[name] !== setting)
						warn(
							`“${input.label}” does not know the choice “${String(setting).slice(0, 40)}”; “${input.default}” is used.`,
							name
						);
					break;
				case 'text':
					inputs[name] = typeof setting === 'string' ? setting : '';
					break;
				case 'asset':
					if (setting && typeof setting === 'string') {
						const found = this.#options.asset?.(setting) ?? null;
						if (!found)
							throw new NodeError('The imported file is not here any more. Choose it again.', {
								input: name
							});
						inputs[name] = found;
					} else inputs[name] = null;
					break;
				default: {
					const plain = wires.length ? null : plainValue(setting, input);
					if (plain !== null) {
						inputs[name] = plain;
						break;
					}
					const value = binder.value(node, name, (message) => warn(message, name));
					inputs[name] =
						('varies' in input && input.varies) || input.kind === 'value' || input.kind === 'formula'
							? value
							: single(value, input, name, index, warn);
				}
			}
		}
		return inputs;
	}

	/** Points out a random range further up that is drawn once, where the artist plainly wanted one per copy. */
	#noteSharedRanges(
		node: GraphNode,
		kind: AnyNode,
		index: GraphIndex,
		warn: (message: string, input?: string) => void
	): void {
		if (kind.family !== 'copies' || kind.id === 'copies-to-mesh') return;
		const queue = index.wiresInto(node.id, 'source').map((wire) => wire.from[0]);
		const seen = new Set(queue);
		while (queue.length) {
			const up = index.byId.get(queue.pop()!);
			if (!up) continue;
			for (const [name, input] of inputsOf(up)) {
				if (
					(input.kind !== 'number' && input.kind !== 'vector') ||
					input.varies ||
					index.wiresInto(up.id, name).length
				)
					continue;
				const setting = settingOf(up, name, input);
				if (isRange(setting) || (Array.isArray(setting) && setting.some(isRange)))
					warn(
						`The random range of “${input.label}” in ${up.short} is drawn once: all copies show the same source. Vary the copies' own scale or rotation instead, or connect several sources.`,
						'source'
					);
			}
			for (const wire of index.intoNode.get(up.id) ?? [])
				if (!seen.has(wire.from[0])) {
					seen.add(wire.from[0]);
					queue.push(wire.from[0]);
				}
		}
	}

	/** A bypassed node hands its first geometry through. */
	#bypass(
		node: GraphNode,
		kind: AnyNode,
		index: GraphIndex,
		results: ReadonlyMap<string, NodeResult>
	): NodeResult {
		const inputs = Object.entries(kind.inputs) as [string, InputDefinition][];
		const into = inputs.find(([, input]) => input.kind === 'geometry');
		const out = Object.entries(kind.outputs as AnyNode['outputs']).find(
			([, output]) => (output as { kind: string }).kind === 'geometry'
		);
		const through =
			into && index.wiresInto(node.id, into[0]).map((wire) => ({ wire, up: results.get(wire.from[0]) }));
		if (!into || !out || !through?.length)
			return { ...waiting(node, 'Bypassed: it has nothing to hand through.'), state: 'waiting' };
		const blocked = through.find(({ up }) => !up || up.state === 'error' || up.state === 'waiting');
		if (blocked)
			return waiting(node, `Waits for ${index.byId.get(blocked.wire.from[0])?.short ?? 'a node'}.`);
		const geometries = through
			.map(({ wire, up }) => up!.outputs.get(wire.from[1]))
			.filter((v): v is Geometry => !!v && isGeometry(v));
		const geometry = geometries.length === 1 ? geometries[0] : mergeGeometries(geometries);
		const key = new Hasher()
			.text('bypassed')
			.text(through.map(({ wire, up }) => `${up!.key} ${wire.from[1]}`).join())
			.digest();
		return {
			id: node.id,
			key,
			state: 'bypassed',
			outputs: new Map([[out[0], geometry]]),
			warnings: [],
			error: null,
			bytes: 0,
			milliseconds: 0,
			counts: countsOf(geometry),
			bounds: boundsOf(geometry)
		};
	}

	#remember(result: NodeResult): void {
		this.#cache.set(result.key, result);
		this.#cacheBytes += result.bytes;
	}

	/** Takes the least recently used results out until the cache is within half of the memory. */
	#evict(results: ReadonlyMap<string, NodeResult>): void {
		const limit = this.memory.limit / 2;
		const fits = () => this.#cacheBytes <= limit && this.#cache.size <= 4000;
		if (fits()) return;
		const inUse = new Set([...results.values()].map((result) => result.key));
		for (const [key, result] of this.#cache) {
			if (fits()) break;
			if (inUse.has(key)) continue;
			this.#cache.delete(key);
			this.#cacheBytes -= result.bytes;
		}
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

/** Something upstream has not come. */
class Waiting extends Error {
	readonly node: string;
	constructor(node: string) {
		super();
		this.node = node;
	}
}

/** A node that is not wired up yet. */
class Incomplete extends Error {
	readonly input: string;
	constructor(message: string, input: string) {
		super(message);
		this.input = input;
	}
}

const now = (): number => performance.now();

const isVaried = (setting: Setting, input: InputDefinition): boolean =>
	isRange(setting) ||
	isFormula(setting) ||
	input.kind === 'formula' ||
	(Array.isArray(setting) && setting.some((part) => typeof part !== 'number'));

function needText(needs: string | undefined): string {
	return needs === 'mesh'
		? 'a mesh'
		: needs === 'curves'
			? 'a curve'
			: needs === 'points'
				? 'points'
				: needs === 'copies'
					? 'copies'
					: 'geometry';
}

const EMPTY_PARTS: Partial<Record<Part, () => Partial<Geometry>>> = {
	mesh: () => ({ mesh: makeMesh(new Float32Array(0), Uint32Array.of(0), new Uint32Array(0)) }),
	curves: () => ({ curves: makeCurves(new Float32Array(0), Uint32Array.of(0), new Uint8Array(0)) }),
	points: () => ({ points: makePoints(new Float32Array(0)) })
};

/** Makes sure that the part a node needs is there, or says what came instead. */
function withNeeded(
	geometry: Geometry,
	needs: string | undefined,
	label: string,
	input: string,
	warn: (message: string, input?: string, fix?: Fix) => void
): Geometry {
	if (!needs || needs === 'anything') return geometry;
	const part = needs as Part;
	const toMesh: Fix = { label: 'Insert “Copies to mesh”', insert: { node: 'copies-to-mesh', input } };
	const copies = geometry.copies?.copies.count ?? 0;
	if (geometry[part as 'mesh']) {
		if (part === 'mesh' && copies)
			warn(`${plural(copies, 'copy', 'copies')} left alone: “${label}” works on the mesh.`, input, toMesh);
		return geometry;
	}
	if (isEmpty(geometry)) return { ...geometry, ...(EMPTY_PARTS[part]?.() ?? EMPTY) };
	if (part === 'mesh' && copies)
		throw new NodeError(
			`“${label}” needs a mesh; ${plural(copies, 'copy', 'copies')} came. Make a mesh of them with “Copies to mesh”.`,
			{ input, fix: toMesh }
		);
	const came = geometry.mesh
		? 'a mesh'
		: geometry.curves
			? 'curves'
			: geometry.copies
				? plural(copies, 'copy', 'copies')
				: 'points';
	throw new NodeError(`“${label}” needs ${needText(needs)}; ${came} came.`, { input });
}

/** A plain setting that is one value for the node and within its bounds, without a detour over varying values; else null. */
function plainValue(setting: Setting, input: InputDefinition): unknown {
	if (('varies' in input && input.varies) || input.kind === 'formula' || input.kind === 'value') return null;
	if (input.kind === 'yesno') return typeof setting === 'boolean' ? setting : null;
	if (input.kind === 'number') {
		if (typeof setting !== 'number' || (input.whole && setting !== Math.floor(setting))) return null;
		return (input.min === undefined || setting >= input.min) &&
			(input.max === undefined || setting <= input.max)
			? setting
			: null;
	}
	if (typeof setting === 'number') return [setting, setting, setting];
	return Array.isArray(setting) && setting.every((part) => typeof part === 'number') ? setting : null;
}

/** One value for the whole node, within its bounds. */
function single(
	value: Varying,
	input: InputDefinition,
	name: string,
	index: GraphIndex,
	warn: (message: string, input?: string) => void
): unknown {
	if (!value.constant)
		for (const part of partsOf(value)) {
			if (part.op === 'attribute') {
				const near = nearestName(part.value as string, [
					...Object.keys(UNITLESS_NAMES),
					...[...index.byShort.keys()]
				]);
				throw new NodeError(
					`“${input.label}” is one value for the whole node, and no “${String(part.value)}” is known here.${near ? ` Did you mean “${near}”?` : ''}`,
					{
						input: name,
						fix: { label: `Make “${String(part.value)}” an input`, declare: String(part.value) }
					}
				);
			}
			if (part.op === 'element')
				throw new NodeError(
					`“${input.label}” is one value for the whole node, but “${String(part.value)}” differs from element to element.`,
					{ input: name }
				);
			if (part.op === 'list' && part.list!.length > (part.value as number))
				throw new NodeError(
					`“${input.label}” is one value for the whole node; a list of ${part.list!.length / (part.value as number)} came.`,
					{ input: name }
				);
		}
	if (input.kind === 'vector' || input.kind === 'colour') {
		const out = new Float64Array(3);
		run(value, singleElement(), 3, out, { warn: (message) => warn(message, name) });
		return [...out];
	}
	const out = new Float64Array(1);
	if (value.op === 'constant') out[0] = constantNumber(value);
	else run(value, singleElement(), 1, out, { warn: (message) => warn(message, name) });
	if (input.kind === 'yesno') return out[0] !== 0;
	let x = out[0];
	if (input.kind !== 'number') return x;
	if (input.whole) x = Math.floor(x + 0.5);
	if (input.min !== undefined && x < input.min) {
		warn(`“${input.label}” is ${tidy(x)}; ${tidy(input.min)} is the least, and is used.`, name);
		x = input.min;
	}
	if (input.max !== undefined && x > input.max) {
		warn(`“${input.label}” is ${tidy(x)}; ${tidy(input.max)} is the most, and is used.`, name);
		x = input.max;
	}
	return x;
}

const UNITLESS_NAMES = { pi: 0, tau: 0, golden: 0, goldenAngle: 0, seed: 0 };
const tidy = (x: number): string => String(Math.round(x * 1000) / 1000);

const nothing = { outputs: NO_OUTPUTS, counts: null, bounds: null, milliseconds: 0, warnings: [], bytes: 0 };
const failed = (node: GraphNode, error: NodeMessage): NodeResult => ({
	id: node.id,
	key: '',
	state: 'error',
	error,
	...nothing
});
const waiting = (node: GraphNode, message: string, input?: string): NodeResult => ({
	id: node.id,
	key: '',
	state: 'waiting',
	error: { message, input },
	...nothing
});
