/**
 * Nodes that remember, and nodes that look at earlier frames. A fold goes from the first frame, or from the nearest one that
 * is remembered, frame by frame to the one at hand; what it hangs from is evaluated at each of them, in a scope of its own.
 */
import { Hasher, NodeError } from '../../math/index.ts';
import type { Context, Remembered } from '../../nodes/index.ts';
import { nodeKinds } from '../../nodes/index.ts';
import { bodyFacts, bodyNameOf, textOfNode } from '../bodies.ts';
import type { GeneratorDocument, GraphNode } from '../document.ts';
import { GraphIndex } from '../graph-index.ts';
import { referencesOf } from '../references.ts';
import { dialsSpokenOf } from '../settings-graph.ts';
import type { Scope } from '../scope.ts';
import { mainScope } from '../scope.ts';
import { framesOf, momentAt } from '../time.ts';
import type { Value } from '../values.ts';
import type { Body, Request, Tools } from './body.ts';
import { arrivalsAt, insideOf } from './inner.ts';

/** What nodes hang from, by their graph and id: found once for each state of a document, not at each frame. */
const digestsKnown = new WeakMap<GeneratorDocument, Map<string, string>>();

function upstreamDigest(document: GeneratorDocument, graphId: string, id: string): string {
	let known = digestsKnown.get(document);
	if (!known) digestsKnown.set(document, (known = new Map()));
	const name = `${graphId} ${id}`;
	let digest = known.get(name);
	if (digest === undefined) known.set(name, (digest = digestOf(document, graphId, id)));
	return digest;
}

/** All that a node hangs from at any frame, with its keys: by wires, and by the names in formulas. */
function digestOf(document: GeneratorDocument, graphId: string, id: string): string {
	const graph = document.graphs[graphId];
	const index = GraphIndex.of(graph);
	const references = referencesOf(graph);
	const reached = new Set([id]);
	const hasher = new Hasher();
	const dials = new Set<string>();
	for (const at of reached) {
		const node = index.byId.get(at);
		if (!node) continue;
		hasher.text(textOfNode(node));
		for (const wire of index.wiresIntoNode(at)) {
			hasher.text(JSON.stringify(wire));
			reached.add(wire.from[0]);
		}
		for (const { from, to } of references) if (to[0] === at) reached.add(from[0]);
		for (const [, key] of dialsSpokenOf(node)) dials.add(key);
		const body = bodyNameOf(node);
		if (body === null) continue;
		const facts = bodyFacts(document, body);
		hasher.text(facts.digest);
		for (const key of facts.dials) dials.add(key);
	}
	for (const key of [...dials].sort())
		hasher.text(JSON.stringify(document.dials.find((one) => one.key === key)?.value ?? null));
	return hasher.key();
}

/** The graph in which a scope lies. */
const graphOf = ({ bodies }: Scope): string => bodies.at(-1) ?? 'main';

/** What a fold of a node is told by: all that it hangs from, also outside of the bodies in which it stands. */
function lineOf(scope: Scope, node: GraphNode): string {
	const hasher = new Hasher()
		.number(scope.seed)
		.text(scope.path)
		.text(JSON.stringify(framesOf(scope.raw)));
	let [at, id]: [Scope | null, string] = [scope, node.id];
	while (at) {
		hasher.text(upstreamDigest(at.raw, graphOf(at), id));
		id = at.use?.node ?? '';
		at = at.outer;
	}
	return hasher.key();
}

export const keyOfFold = (scope: Scope, node: GraphNode): string => `${lineOf(scope, node)} ${scope.frame}`;

type Past = Context['past'][number];
type Asking<Result> = Generator<Request, Result, void>;

/** The same scope at another frame, with what arrives in it there. @param made takes the scopes that were made for it. */
function* scopeAt(scope: Scope, frame: number, made: Scope[]): Asking<Scope> {
	if (frame === scope.frame) return scope;
	const note = (one: Scope): Scope => (made.push(one), one);
	if (!scope.use) return note(mainScope(scope.raw, scope.seed, frame, true));
	if (scope.pass || scope.places > 1)
		throw new NodeError(
			'In a repeat, or in a body for each copy, nothing is remembered from frame to frame. Put this node outside of it, before or after.'
		);
	const outer = yield* scopeAt(scope.use.outer, frame, made);
	const user = outer.node(scope.use.node)!;
	yield* sourcesOf(outer, user);
	const same = user.settings.same === true;
	const inside = insideOf(outer, user, { same });
	return note(inside.scope({ arrivals: arrivalsAt(outer, user, inside.ports.inputs) }));
}

/** Lets go of scopes of other frames: however many frames a fold goes through, it holds those of one step. */
function* released(scope: Scope, made: Scope[]): Asking<void> {
	for (const one of made.splice(0)) yield { scope, nodes: [], done: { scope: one, keep: [] } };
}

/** Evaluates all from which a node hangs. */
function* sourcesOf(scope: Scope, node: GraphNode): Asking<void> {
	const nodes = new Set(scope.index.wiresIntoNode(node.id).map(({ from }) => from[0]));
	if (nodes.size) yield { scope, nodes: [...nodes] };
	for (
		let last = '', wanted = scope.settings.prepare(node);
		wanted !== null;
		wanted = scope.settings.prepare(node)
	) {
		// What was asked for and is not there is told of where the inputs are resolved.
		if (wanted === last) return;
		last = wanted;
		yield { scope, nodes: [wanted] };
	}
}

/** What the inputs of a node are at a frame. */
function* inputsAt(
	scope: Scope,
	node: GraphNode,
	frame: number,
	tools: Tools,
	made: Scope[]
): Asking<{ at: Scope; inputs: Record<string, unknown> }> {
	const at = yield* scopeAt(scope, frame, made);
	const own = at.node(node.id)!;
	yield* sourcesOf(at, own);
	return { at, inputs: at === scope ? tools.inputs() : tools.resolvedIn(at) };
}

export function* foldBody(scope: Scope, node: GraphNode, tools: Tools): Body {
	const fold = nodeKinds.get(node.kind)!.fold!;
	const { states } = tools;
	const { first } = framesOf(scope.raw);
	const line = lineOf(scope, node);
	// Before the first frame it is as it begins; between two it is as at the one before.
	const target = Math.max(first, Math.floor(scope.frame));
	const known = states.latest(line, target);
	let state: Remembered | null = known?.state ?? null;
	if (known) states.resumed++;
	else states.begun++;
	const made: Scope[] = [];
	const from = known ? known.frame + 1 : first;
	for (let frame = from; frame <= target; frame++) {
		tools.isAt((frame - from) / (target - from + 1));
		const { at, inputs } = yield* inputsAt(scope, node, frame, tools, made);
		const steps = state && fold.steps ? Math.max(1, Math.min(64, fold.steps(inputs as never))) : 1;
		const past: Past[] = [];
		for (let s = 1; s < steps; s++) {
			const between = frame - 1 + s / steps;
			const looked = yield* inputsAt(scope, node, between, tools, made);
			past.push({ moment: momentAt(scope.raw, between), inputs: looked.inputs });
		}
		const context = tools.contextIn(at, inputs, past);
		state = state
			? (fold.step(state, inputs as never, context) as Remembered)
			: (fold.start(inputs as never, context) as Remembered);
		states.keep(line, frame, state);
		yield* released(scope, made);
	}
	const inputs = tools.inputs();
	return fold.give(state, inputs as never, tools.contextIn(scope, inputs)) as Record<string, Value>;
}

export function* lookBackBody(scope: Scope, node: GraphNode, tools: Tools): Body {
	const kind = nodeKinds.get(node.kind)!;
	const now = tools.inputs();
	const { first } = framesOf(scope.raw);
	const frames = kind.looksBack!(now as never, momentAt(scope.raw, scope.frame));
	const past: Past[] = [];
	for (const wanted of frames) {
		const frame = Math.max(first, wanted);
		const { inputs } = yield* inputsAt(scope, node, frame, tools, []);
		past.push({ moment: momentAt(scope.raw, frame), inputs });
	}
	return kind.run!(now as never, tools.contextIn(scope, now, past), new Map()) as Record<string, Value>;
}
