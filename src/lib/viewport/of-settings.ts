/** What the View draws of the selected node's settings: handles, the axes of a source, bounds of zones and reaches. */
import type { Graph, GraphNode, Setting } from '$core/engine/index';
import type { Bounds } from '$core/geometry/index';
import { isOf, settingOf } from '$core/engine/index';
import { nodeKinds } from '$core/nodes/index';
import type { ZoneShown } from './overlays';
import type { HandleMode, HandleValues } from './scene';

type Triple = [number, number, number];

/** A setting as three plain numbers; null where it is wired or varies. */
function plainTriple({ wires }: Graph, node: GraphNode, name: string): Triple | null {
	if (wires.some(({ to }) => to[0] === node.id && isOf(to[1], name))) return null;
	const setting: unknown = settingOf(node, name, nodeKinds.get(node.kind)!.inputs[name]);
	if (typeof setting === 'number') return [setting, setting, setting];
	return Array.isArray(setting) && setting.every((part) => typeof part === 'number')
		? (setting as Triple)
		: null;
}

export interface Handled {
	node: string;
	/** The setting that each way of handling writes. */
	settings: Partial<Record<HandleMode, string>>;
	values: HandleValues;
	/** What the place is counted from. */
	pivot: Triple;
}

/** The handles of a node whose place is set by plain numbers; null where it has none. */
export function handledOf(graph: Graph, node: GraphNode | null): Handled | null {
	const kind = node && nodeKinds.get(node.kind);
	if (!node || !kind?.handles || kind.handlesWhen?.(node.settings) === false) return null;
	// Settings that are hidden now have no handles either.
	const seen = (name: string | undefined) =>
		name && kind.inputs[name].when?.(node.settings) !== false ? name : undefined;
	const [move, rotate, scale, pivot] = (['move', 'rotate', 'scale', 'pivot'] as const).map((way) =>
		seen(kind.handles![way])
	);
	if (!move && !rotate && !scale) return null;
	const read = (name: string | undefined, otherwise: number) =>
		name ? plainTriple(graph, node, name) : ([otherwise, otherwise, otherwise] as Triple);
	const values = { move: read(move, 0), rotate: read(rotate, 0), scale: read(scale, 1) };
	if (!values.move || !values.rotate || !values.scale) return null;
	return {
		node: node.id,
		settings: { translate: move, rotate, scale },
		values: values as HandleValues,
		pivot: read(pivot, 0) ?? [0, 0, 0]
	};
}

/** What a setting is after its handle was dragged: places to the millimetre. */
export function afterHandle({ pivot }: Handled, mode: HandleMode, values: HandleValues): Setting {
	if (mode === 'rotate') return values.rotate as Setting;
	if (mode === 'scale') return values.scale as Setting;
	return values.move.map((x, k) => Number((x - pivot[k]).toFixed(3))) as Setting;
}

/** The source's axes, drawn as arrows while a node that places copies is selected; as long as the source is large. */
export function axesOf(
	{ wires }: Graph,
	node: GraphNode | null,
	boundsOf: (id: string) => Bounds | null | undefined
): { up: number[]; forward: number[]; size: number } | null {
	if (node?.kind !== 'place-copies') return null;
	const axis = (id: unknown): number[] => {
		const sign = String(id).startsWith('-') ? -1 : 1;
		return ['x', 'y', 'z'].map((letter) => (String(id).endsWith(letter) ? sign : 0));
	};
	const wire = wires.find(({ to }) => to[0] === node.id && to[1] === 'source');
	const box = wire && boundsOf(wire.from[0]);
	const size = box ? Math.max(0.2, ...[0, 1, 2].map((k) => box.high[k] - box.low[k])) * 1.15 : 1;
	return { up: axis(node.settings.up), forward: axis(node.settings.forward), size };
}

/** A setting as three plain numbers, 0 for what varies. */
function plain(node: GraphNode, name: string): Triple {
	const setting: unknown = settingOf(node, name, nodeKinds.get(node.kind)!.inputs[name]);
	if (typeof setting === 'number') return [setting, setting, setting];
	return (Array.isArray(setting) ? setting : [0, 0, 0]).map((part: unknown) =>
		typeof part === 'number' ? part : 0
	) as Triple;
}

/** The bounds that a selected node works within: of a zone, of a marker's reach, of what is near an object. */
export function zonesOf(
	graph: Graph,
	node: GraphNode | null,
	boundsOf: (id: string) => Bounds | null | undefined
): ZoneShown[] {
	const sourceOf = (port: string) =>
		graph.wires.filter(({ to }) => to[0] === node!.id && to[1] === port).map(({ from }) => from[0]);
	switch (node?.kind) {
		case 'weight-in-zone':
			return [zoneOf(node)];
		case 'marker':
			return reachOf(node);
		case 'follow-marker':
			return sourceOf('marker').flatMap((id) => {
				const marker = graph.nodes.find((one) => one.id === id);
				return marker?.kind === 'marker' ? reachOf(marker) : [];
			});
		case 'weight-near-object':
			return sourceOf('object').flatMap((id) => {
				const bounds = boundsOf(id);
				return bounds ? [nearness(node, bounds)] : [];
			});
		default:
			return [];
	}
}

const zoneOf = (node: GraphNode): ZoneShown => ({
	shape: String(node.settings.shape ?? 'sphere'),
	centre: plain(node, 'centre'),
	rotate: plain(node, 'rotation'),
	size: plain(node, 'size'),
	inner: plain(node, 'inner')[0],
	outer: plain(node, 'outer')[0]
});

/** How far a marker reaches, where it stands and, faintly, where it rests: what follows it lies there. */
function reachOf(marker: GraphNode): ZoneShown[] {
	const [reach] = plain(marker, 'reach');
	const about = (name: string): ZoneShown => ({
		shape: 'sphere',
		centre: plain(marker, name),
		rotate: [0, 0, 0],
		size: [0, 0, 0],
		inner: 0,
		outer: reach
	});
	const [here, rest] = [about('place'), about('rest')];
	const isAtRest = here.centre.every((x, k) => x === rest.centre[k]);
	return isAtRest ? [here] : [here, { ...rest, isFaint: true }];
}

/** About an object its bounds, grown by the distances up to which it weighs fully, and from which on not at all. */
function nearness(node: GraphNode, { low, high }: Bounds): ZoneShown {
	const size = low.map((x, k) => high[k] - x);
	return {
		shape: size.every((s) => s === 0) ? 'sphere' : 'box',
		centre: low.map((x, k) => (x + high[k]) / 2),
		rotate: [0, 0, 0],
		size,
		inner: plain(node, 'fullUpTo')[0],
		outer: plain(node, 'noneFrom')[0]
	};
}
