/**
 * Nodes that remember, and nodes that look at earlier frames. A fold goes from the first frame, or from the nearest one that
 * is remembered, frame by frame to the one at hand; what it hangs from is evaluated at each of them, in a scope of its own.
 */
import { Hasher, NodeError } from '../../math/index.ts';
import type { Remembered } from '../../nodes/index.ts';
import { nodeKinds } from '../../nodes/index.ts';
import { bodyFacts, bodyNameOf } from '../bodies.ts';
import type { GeneratorDocument, GraphNode } from '../document.ts';
import { GraphIndex } from '../graph-index.ts';
import { dialsSpokenOf, formulaNames, formulaTexts } from '../settings-graph.ts';
import type { Scope } from '../scope.ts';
import { mainScope } from '../scope.ts';
import { framesOf, momentAt } from '../time.ts';
import type { Value } from '../values.ts';
import type { Body, Request, Tools } from './body.ts';
import { arrivalsAt, insideOf } from './inner.ts';

const texts = new WeakMap<GraphNode, string>();
function textOf(node: GraphNode): string {
	let text = texts.get(node);
	if (text === undefined) {
		const { id, kind, short, settings, inputs, bypassed, stream } = node;
		const version = nodeKinds.get(kind)?.version;
		texts.set(node, (text = JSON.stringify([id, kind, version, short, settings, inputs, bypassed, stream])));
	}
	return text;
}

/** All that a node hangs from at any frame, with its keys: by wires, and by the names in formulas. */
function upstreamDigest(document: GeneratorDocument, graphId: string, id: string): string {
	const graph = document.graphs[graphId];
	const index = GraphIndex.of(graph);
	const reached = new Set([id]);
	const hasher = new Hasher();
	const dials = new Set<string>();
	for (const at of reached) {
		const node = index.byId.get(at);
		if (!node) continue;
		hasher.text(textOf(node));
		for (const wire of index.wiresIntoNode(at)) {
			hasher.text(JSON.stringify(wire));
			reached.add(wire.from[0]);
		}
		for (const [, key] of dialsSpokenOf(node)) dials.add(key);
		const names = formulaNames(node).flatMap((name) => formulaTexts(node, name));
		if (names.length)
			for (const other of graph.nodes)
				if (names.some((text) => text.includes(other.short))) reached.add(other.id);
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

type Asking<Result> = Generator<Request, Result, void>;

/** The same scope at another frame, with what arrives in it there. */
function* scopeAt(scope: Scope, frame: number): Asking<Scope> {
	if (frame === scope.frame) return scope;
	if (!scope.use) return mainScope(scope.raw, scope.seed, frame, true);
	if (scope.pass || scope.places > 1)
		throw new NodeError(
			'In a repeat, or in a body for each copy, nothing is remembered from frame to frame. Put this node outside of it, before or after.'
		);
	const outer = yield* scopeAt(scope.use.outer, frame);
	const user = outer.node(scope.use.node)!;
	yield* sourcesOf(outer, user);
	const same = user.settings.same === true;
	const inside = insideOf(outer, user, { same });
	return inside.scope({ arrivals: arrivalsAt(outer, user, inside.ports.inputs) });
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
	tools: Tools
): Asking<{ at: Scope; inputs: Record<string, unknown> }> {
	const at = yield* scopeAt(scope, frame);
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
	for (let frame = known ? known.frame + 1 : first; frame <= target; frame++) {
		const { at, inputs } = yield* inputsAt(scope, node, frame, tools);
		const steps = state && fold.steps ? Math.max(1, Math.min(64, fold.steps(inputs as never))) : 1;
		const past: { moment: ReturnType<typeof momentAt>; inputs: Record<string, unknown> }[] = [];
		for (let s = 1; s < steps; s++) {
			const between = frame - 1 + s / steps;
			const looked = yield* inputsAt(scope, node, between, tools);
			past.push({ moment: momentAt(scope.raw, between), inputs: looked.inputs });
		}
		const context = tools.contextIn(at, inputs, past);
		state = state
			? (fold.step(state, inputs as never, context) as Remembered)
			: (fold.start(inputs as never, context) as Remembered);
		states.keep(line, frame, state);
	}
	const inputs = tools.inputs();
	return fold.give(state, inputs as never, tools.contextIn(scope, inputs)) as Record<string, Value>;
}

export function* lookBackBody(scope: Scope, node: GraphNode, tools: Tools): Body {
	const kind = nodeKinds.get(node.kind)!;
	const now = tools.inputs();
	const { first } = framesOf(scope.raw);
	const frames = kind.looksBack!(now as never, momentAt(scope.raw, scope.frame));
	const past: { moment: ReturnType<typeof momentAt>; inputs: Record<string, unknown> }[] = [];
	for (const wanted of frames) {
		const frame = Math.max(first, wanted);
		const { inputs } = yield* inputsAt(scope, node, frame, tools);
		past.push({ moment: momentAt(scope.raw, frame), inputs });
	}
	return kind.run!(now as never, tools.contextIn(scope, now, past), new Map()) as Record<string, Value>;
}
