/** Which outputs may be wired to which inputs, with the reason where they may not. */
import type { AnyNode, InputDefinition, OutputDefinition, Unit, WireKind } from '../nodes/index.ts';
import type { Graph, GraphNode, Port } from './document.ts';
import { nodeKinds } from '../nodes/index.ts';
import { labelOfPort } from './port-names.ts';
import type { Fit } from './inputs/index.ts';
import { inputKind } from './inputs/index.ts';
import { cutPart, partInput } from './vector-parts.ts';

/** Checks the kinds at both ends of a wire. */
export const fits = (from: WireKind, to: InputDefinition): Fit => inputKind(to).fits(from, to);

/** The definition of an input of a node in a graph: its kind's, one that the artist declared, or one part of a vector. */
export function inputOf(node: GraphNode, port: string): InputDefinition | null {
	const kind = nodeKinds.get(node.kind);
	if (kind && Object.hasOwn(kind.inputs, port)) return kind.inputs[port];
	const cut = cutPart(port);
	if (cut) {
		const whole = inputOf(node, cut.whole);
		return whole?.kind === 'vector' ? partInput(whole, cut.part) : null;
	}
	if (kind?.ownPorts) {
		const found = portsOf(node).inputs.find(({ name }) => name === port);
		return found ? inputFrom(found) : null;
	}
	const own = kind?.ownInputs && node.inputs?.find((input) => input.name === port);
	return own
		? { kind: 'value', label: own.name, help: 'An input of your own.', default: own.value, varies: 'point' }
		: null;
}

/** The outputs of a node: its kind's, and those that stand on it. */
export function outputsOf(node: GraphNode): Readonly<Record<string, OutputDefinition>> {
	const kind = nodeKinds.get(node.kind);
	const own = (kind?.outputs ?? NO_OUTPUTS) as Record<string, OutputDefinition>;
	if (!kind?.ownPorts) return own;
	const ports = portsOf(node).outputs.map(({ name, carries, help = '' }): [string, OutputDefinition] => [
		name,
		{ kind: carries, label: labelOfPort(name), help }
	]);
	return { ...own, ...Object.fromEntries(ports) };
}
const NO_OUTPUTS = {};

/** An output of a node by its name. */
export function outputOf(node: GraphNode | undefined | null, port: string): OutputDefinition | null {
	const outputs = node ? outputsOf(node) : NO_OUTPUTS;
	return Object.hasOwn(outputs, port) ? (outputs as Record<string, OutputDefinition>)[port] : null;
}

/** What goes in and out of a node whose ports are its own. */
function portsOf(node: GraphNode): { inputs: readonly Port[]; outputs: readonly Port[] } {
	if (node.ports) return node.ports;
	const carries = String(node.settings.carries ?? 'geometry') as Port['carries'];
	const port: Port = { name: 'value', carries };
	if (node.kind === 'input') return { inputs: [], outputs: [port] };
	return { inputs: node.kind === 'output' ? [port] : [], outputs: [] };
}

/** What a port of a body is as an input of a node that uses it. */
function inputFrom({
	name,
	carries,
	default: start = 0,
	min,
	max,
	unit,
	help = '',
	role
}: Port): InputDefinition {
	const common = { label: labelOfPort(name), help: help || helpOf(role) };
	const [x, y, z] = Array.isArray(start) ? start : [start, start, start];
	switch (carries) {
		case 'geometry':
			return { ...common, kind: 'geometry', needs: 'anything', optional: true };
		case 'list':
			return { ...common, kind: 'list', optional: true };
		case 'ramp':
			return { ...common, kind: 'ramp', default: START_RAMP };
		case 'vector':
			return { ...common, kind: 'vector', default: [x, y, z], varies: 'point', unit: unit as Unit };
		case 'colour':
			return { ...common, kind: 'colour', default: [x, y, z], varies: 'point' };
		case 'value':
			return { ...common, kind: 'value', default: x, varies: 'point' };
		case 'yesno':
			return { ...common, kind: 'yesno', default: x !== 0, varies: 'point' };
		default: {
			const limits = { ...(min !== undefined && { min }), ...(max !== undefined && { max }) };
			const whole = carries === 'whole';
			return { ...common, kind: 'number', default: x, whole, varies: 'point', unit: unit as Unit, ...limits };
		}
	}
}

const START_RAMP = {
	stops: [
		{ at: 0, value: 0, easing: 'linear' as const },
		{ at: 1, value: 1, easing: 'linear' as const }
	]
};
const helpOf = (role: Port['role']): string =>
	role === 'carried'
		? 'What goes into the first pass; what comes out by the same name goes into the next.'
		: role === 'counted'
			? 'One of these goes into each pass.'
			: '';

/** All inputs of a node, its own after its kind's. */
export function inputsOf(node: GraphNode): [string, InputDefinition][] {
	const kind = nodeKinds.get(node.kind) as AnyNode | undefined;
	const own = (kind?.ownInputs && node.inputs) || [];
	return [
		...(Object.entries(kind?.inputs ?? {}) as [string, InputDefinition][]),
		...(kind?.ownPorts ? portsOf(node).inputs : []).map((port): [string, InputDefinition] => [
			port.name,
			inputFrom(port)
		]),
		...own.map(({ name }): [string, InputDefinition] => [name, inputOf(node, name)!])
	];
}

/** The inputs that count as a node is set now: some belong to one choice only. */
export const inputsShown = (node: GraphNode): [string, InputDefinition][] =>
	inputsOf(node).filter(([, input]) => !input.when || input.when(node.settings));

/** Those of them that take what flows. */
export const inputsFitting = (node: GraphNode, kind: WireKind): [string, InputDefinition][] =>
	inputsShown(node).filter(([, input]) => fits(kind, input).fits);

/** Checks a wire in a graph: its ends, its kinds, and that no circle would arise. */
export function fitsInGraph(
	graph: Graph,
	from: readonly [string, string],
	to: readonly [string, string]
): Fit {
	const byId = new Map(graph.nodes.map((node) => [node.id, node]));
	const source = byId.get(from[0]);
	const target = byId.get(to[0]);
	const out = outputOf(source, from[1]);
	const input = target && inputOf(target, to[1]);
	if (!source || !target || !out || !input)
		return { fits: false, reason: 'One of the ends is no longer there.' };
	const path = pathBetween(graph, to[0], from[0]);
	if (path)
		return {
			fits: false,
			reason: `This would make a circle: ${[...path, to[0]].map((id) => byId.get(id)?.short).join(' → ')}.`
		};
	return fits(out.kind, input);
}

/** The outputs that an input may be wired to: of the right kind, not yet wired to it, and without making a circle. */
export function sourcesFor(graph: Graph, to: readonly [string, string]): { node: GraphNode; port: string }[] {
	const target = graph.nodes.find((node) => node.id === to[0]);
	const input = target && inputOf(target, to[1]);
	if (!input) return [];
	const below = new Set(downstream(graph, to[0]).keys());
	const wired = new Set(
		graph.wires
			.filter((wire) => wire.to[0] === to[0] && wire.to[1] === to[1])
			.map(({ from }) => from.join(' '))
	);
	return graph.nodes
		.filter((node) => !below.has(node.id))
		.flatMap((node) =>
			Object.entries(outputsOf(node))
				.filter(([port, output]) => !wired.has(`${node.id} ${port}`) && fits(output.kind, input).fits)
				.map(([port]) => ({ node, port }))
		);
}

/** The nodes along wires from one node to another, both included; null where no wires lead there. */
export function pathBetween(graph: Graph, from: string, to: string): string[] | null {
	const cameFrom = downstream(graph, from);
	if (!cameFrom.has(to)) return null;
	const path: string[] = [];
	for (let id: string | null = to; id !== null; id = cameFrom.get(id)!) path.unshift(id);
	return path;
}

/** Each node that hangs from one, that one included, with a node by which it is reached; the nearest first. */
function downstream(graph: Graph, from: string): Map<string, string | null> {
	const next = new Map<string, string[]>();
	for (const wire of graph.wires) {
		const list = next.get(wire.from[0]);
		if (list) list.push(wire.to[0]);
		else next.set(wire.from[0], [wire.to[0]]);
	}
	const cameFrom = new Map<string, string | null>([[from, null]]);
	const queue = [from];
	for (let at = 0; at < queue.length; at++)
		for (const id of next.get(queue[at]) ?? [])
			if (!cameFrom.has(id)) {
				cameFrom.set(id, queue[at]);
				queue.push(id);
			}
	return cameFrom;
}
