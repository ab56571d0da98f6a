/** What all bodies have in common: which graph it is, what arrives in it, and what leaves it. */
import { NodeError } from '../../math/index.ts';
import type { BodyInterface } from '../bodies.ts';
import { bodyNameOf, interfaceOf } from '../bodies.ts';
import type { GraphNode, Port } from '../document.ts';
import { Incomplete } from '../inputs/index.ts';
import { NO_STEP, isRamp } from '../document.ts';
import { inputOf } from '../connect.ts';
import { settingOf } from '../settings-graph.ts';
import type { NodeResult } from '../result.ts';
import type { Arrival, Pass } from '../scope.ts';
import { Scope } from '../scope.ts';
import { isVarying } from '../values.ts';
import type { Value } from '../values.ts';

/** Bodies may lie in one another so deep. */
const DEEPEST = 200;

export interface Inside {
	readonly ports: BodyInterface;
	/** A scope in which the body is evaluated. */
	scope(of: ScopeOf): Scope;
}

export interface ScopeOf {
	arrivals: ReadonlyMap<string, Arrival>;
	/** Names it among the scopes of the same use, from 0. */
	place?: number;
	/** How many there will be. */
	places?: number;
	/** What is added to the path of random streams; nothing where all scopes of the use share them. */
	step?: string;
	pass?: Pass;
}

/**
 * The body of a node. Throws a NodeError where there is none, or where it lies in itself.
 * @param same whether all uses draw the same random numbers.
 */
export function insideOf(scope: Scope, node: GraphNode, { same = false } = {}): Inside {
	const body = bodyNameOf(node) ?? '';
	const { graphs } = scope.document;
	const graph = Object.hasOwn(graphs, body) ? graphs[body] : undefined;
	if (!body) throw new Incomplete('It has no body yet: choose a subgraph.', 'body');
	if (!graph || body === 'main')
		throw new NodeError(`The subgraph “${body}” is not in this generator. Choose another.`, {
			input: 'body'
		});
	if (scope.bodies.includes(body)) {
		const path = [...scope.bodies.slice(scope.bodies.indexOf(body)), body];
		throw new NodeError(
			`A subgraph cannot contain itself: ${path.map((one) => graphs[one].name || one).join(' → ')}. Delete one of these uses.`,
			{ input: 'body' }
		);
	}
	if (scope.bodies.length >= DEEPEST)
		throw new NodeError(
			`Subgraphs lie more than ${DEEPEST} deep in one another here. Take some of them apart.`
		);
	const path = same || node.stream === NO_STEP ? scope.path : `${scope.path}/${node.stream}`;
	const bodies = [...scope.bodies, body];
	return {
		ports: interfaceOf(graph),
		scope: ({ arrivals, place = 0, places = 1, step = '', pass }) =>
			new Scope({
				document: scope.document,
				raw: scope.raw,
				frame: scope.frame,
				graph,
				seed: scope.seed,
				path: step ? `${path}/${step}` : path,
				use: { outer: scope, node: node.id, place, places },
				arrivals,
				bodies,
				pass: pass ?? null
			})
	};
}

/** What arrives at the ports of a use, by wire or set there, by their names. */
export function arrivalsAt(scope: Scope, node: GraphNode, ports: readonly Port[]): Map<string, Arrival> {
	const arrivals = new Map<string, Arrival>();
	for (const { name, carries } of ports) {
		const arrival = arrivalAt(scope, node, name, carries);
		if (arrival) arrivals.set(name, arrival);
	}
	return arrivals;
}

function arrivalAt(scope: Scope, node: GraphNode, name: string, carries: string): Arrival | null {
	const wire = scope.index.wiresInto(node.id, name).at(-1);
	const isNumeric = carries !== 'geometry' && carries !== 'list' && carries !== 'ramp';
	if (wire) {
		const value = scope.output(wire.from[0], wire.from[1]);
		// A list that arrives where numbers are wanted is a value for each element.
		if (isNumeric) {
			const bound = scope.settings.value(node, name);
			return { value: bound, key: bound.hash };
		}
		const key = isVarying(value) ? value.hash : `${scope.results.get(wire.from[0])!.key} ${wire.from[1]}`;
		return { value, key };
	}
	if (carries === 'ramp') return rampAt(node, name);
	if (!isNumeric) return null;
	const value = scope.settings.value(node, name);
	return { value, key: value.hash };
}

/** A ramp that is set at a use. */
function rampAt(node: GraphNode, name: string): Arrival | null {
	const input = inputOf(node, name);
	const setting = input && settingOf(node, name, input);
	return isRamp(setting) ? { value: { kind: 'ramp', ...setting }, key: JSON.stringify(setting) } : null;
}

/** Something inside of a body failed, or misses something. */
export class FailedInside extends NodeError {
	/** Whether it only waits for something that may be connected. */
	readonly waits: boolean;

	constructor(message: string, waits: boolean) {
		super(message);
		this.waits = waits;
	}
}

/** What left a body by one of its outputs. Throws a FailedInside that names the node inside which failed. */
export function leaving(inner: Scope, id: string): Arrival {
	const result = inner.results.get(id)!;
	const value: Value | undefined = result.outputs.get('value');
	if (value === undefined) throw whyNot(inner, id);
	return { value, key: isVarying(value) ? value.hash : result.key };
}

/** The first failure behind a node of a body, told with the name of the node in which it lies. */
function whyNot(inner: Scope, id: string): FailedInside {
	const seen = new Set<string>();
	for (let at: string | undefined = id; at && !seen.has(at);) {
		seen.add(at);
		const result: NodeResult | undefined = inner.results.get(at);
		if (!result?.error?.waitsFor)
			return new FailedInside(
				`${inner.node(at)?.short ?? 'A node'} inside: ${result?.error?.message ?? 'nothing came.'}`,
				result?.state === 'waiting'
			);
		at = result.error.waitsFor;
	}
	return new FailedInside('A node inside waits for itself.', false);
}
