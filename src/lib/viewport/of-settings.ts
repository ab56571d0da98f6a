/** What the View draws of the selected node's settings: handles, the axes of a source, the bounds of a zone. */
import type { Bounds, Graph, GraphNode, Setting } from '$core/index';
import { isOf, nodeKinds, settingOf } from '$core/index';
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

/** The bounds of a zone, as far as they are plain numbers. */
export function zoneOf(node: GraphNode | null) {
	if (node?.kind !== 'weight-in-zone') return null;
	const { inputs } = nodeKinds.get(node.kind)!;
	const plain = (name: string): number[] => {
		const setting: unknown = settingOf(node, name, inputs[name]);
		if (typeof setting === 'number') return [setting, setting, setting];
		return Array.isArray(setting) ? setting.map((part) => (typeof part === 'number' ? part : 0)) : [0, 0, 0];
	};
	return {
		shape: String(node.settings.shape ?? 'sphere'),
		centre: plain('centre'),
		rotate: plain('rotation'),
		size: plain('size'),
		inner: plain('inner')[0],
		outer: plain('outer')[0]
	};
}
