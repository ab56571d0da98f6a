/** A use of a subgraph: its body evaluated with what arrives at the use's inputs. */
import { Hasher, NodeError } from '../../math/index.ts';
import { constant } from '../../varying/index.ts';
import { interfaceOf } from '../bodies.ts';
import type { GraphNode } from '../document.ts';
import { bodyFacts } from '../bodies.ts';
import { Incomplete } from '../inputs/index.ts';
import type { Arrival } from '../scope.ts';
import { Scope } from '../scope.ts';
import { isVarying } from '../values.ts';
import type { Value } from '../values.ts';
import type { Body } from './body.ts';

/** Subgraphs may lie in one another so deep. */
const DEEPEST = 200;

/** The body, whether it draws random numbers of its own, and then which use this is. */
export function keyOfSubgraph(scope: Scope, node: GraphNode): string {
	const { digest, draws } = bodyFacts(scope.document, nameOfBody(node));
	const hasher = new Hasher().text(digest).number(scope.seed);
	if (draws) hasher.text(scope.path).text(node.stream);
	return hasher.key();
}

const nameOfBody = (node: GraphNode): string => String(node.settings.body ?? '');

export function* subgraphBody(scope: Scope, node: GraphNode): Body {
	const body = nameOfBody(node);
	const graph = Object.hasOwn(scope.document.graphs, body) ? scope.document.graphs[body] : undefined;
	if (!graph || body === 'main')
		throw new NodeError(`The subgraph “${body.slice(0, 40)}” is not in this generator. Choose another.`, {
			input: 'body'
		});
	if (scope.bodies.includes(body))
		throw new NodeError(
			`A subgraph cannot contain itself: ${[...scope.bodies.slice(scope.bodies.indexOf(body)), body].join(' → ')}. Take one of these uses away.`,
			{ input: 'body' }
		);
	if (scope.bodies.length >= DEEPEST)
		throw new NodeError(
			`Subgraphs lie more than ${DEEPEST} deep in one another here. Take some of them apart.`
		);
	const ports = interfaceOf(graph);
	const arrivals = new Map<string, Arrival>();
	for (const { name, carries } of ports.inputs) {
		const arrival = arrivalAt(scope, node, name, carries);
		if (arrival) arrivals.set(name, arrival);
	}
	const inner = new Scope({
		document: scope.document,
		graph,
		seed: scope.seed,
		path: `${scope.path}/${node.stream}`,
		arrivals,
		bodies: [...scope.bodies, body]
	});
	yield { scope: inner, nodes: ports.outputs.map(({ node }) => node) };
	const outputs: Record<string, Value> = {};
	for (const { name, node: id } of ports.outputs) {
		const result = inner.results.get(id)!;
		const value = result.outputs.get('value');
		if (value === undefined) throw new NodeError(whyNot(inner, id));
		outputs[name] = value;
	}
	return outputs;
}

/** What arrives at a port of a use: by wire, or set there. */
function arrivalAt(scope: Scope, node: GraphNode, name: string, carries: string): Arrival | null {
	const wire = scope.index.wiresInto(node.id, name).at(-1);
	if (wire) {
		const value = scope.output(wire.from[0], wire.from[1]);
		const key = isVarying(value) ? value.hash : `${scope.results.get(wire.from[0])!.key} ${wire.from[1]}`;
		return { value, key };
	}
	if (carries === 'geometry' || carries === 'list' || carries === 'ramp') return null;
	const value = scope.settings.value(node, name);
	return { value, key: value.hash };
}

/** The first failure behind a node of a body, told with the name of the node in which it lies. */
function whyNot(inner: Scope, id: string): string {
	const seen = new Set<string>();
	for (let at: string | undefined = id; at && !seen.has(at);) {
		seen.add(at);
		const error: { message: string; waitsFor?: string } | null = inner.results.get(at)?.error ?? null;
		if (!error?.waitsFor)
			return `${inner.node(at)?.short ?? 'A node'} inside: ${error?.message ?? 'nothing came.'}`;
		at = error.waitsFor;
	}
	return 'A node inside waits for itself.';
}

/** An input of a body: what arrived at the use, or what stands there where nothing did. */
// eslint-disable-next-line require-yield -- it asks for nothing.
export function* inputBody(scope: Scope, node: GraphNode): Body {
	const name = String(node.settings.name ?? '');
	const arrival = scope.arrivals.get(name);
	if (arrival) return { value: arrival.value };
	if (node.settings.carries === 'number') return { value: constant(Number(node.settings.default ?? 0)) };
	throw new Incomplete(
		`Nothing arrives at “${name}” of this subgraph. Connect something to it where it is used.`,
		''
	);
}

/** An output of a body: what is wired to it. */
// eslint-disable-next-line require-yield -- it asks for nothing.
export function* outputBody(scope: Scope, node: GraphNode): Body {
	const wire = scope.index.wiresInto(node.id, 'value').at(-1);
	if (!wire)
		throw new Incomplete(`Connect what leaves the subgraph to “${String(node.settings.name)}”.`, 'value');
	return { value: scope.output(wire.from[0], wire.from[1]) };
}

export const keyOfInput = (scope: Scope, node: GraphNode): string =>
	scope.arrivals.get(String(node.settings.name ?? ''))?.key ?? 'nothing';
