/** A small generator that shows a node at work, made from its definition: what it needs is put before it, and it is looked at. */
import type { GeneratorDocument, Graph, GraphNode } from '../engine/index.ts';
import { newDocument, newNode, withPorts, withWire } from '../engine/index.ts';
import type { AnyNode, GeometryInput, InputDefinition, OutputDefinition } from '../nodes/index.ts';
import type { ExampleRow } from './sources.ts';
import { outputOfSource, rowsOfSources, wiredTo } from './sources.ts';

export interface Example {
	document: GeneratorDocument;
	/** The id of the node that it is about. */
	subject: string;
}

/** The example of a node; null where it reads a file that only an artist has, or stands in bodies only. */
export function exampleOf(kind: AnyNode): Example | null {
	if (kind.inBodies) return null;
	const inputs = Object.entries(kind.inputs) as [string, InputDefinition][];
	if (inputs.some(([, input]) => input.kind === 'asset' && !input.when)) return null;
	const wires: Record<string, string[]> = {};
	for (const [name, input] of inputs) {
		const given = kind.example?.wires?.[name];
		const source = given ?? (wantsSource(input) ? sourceFor(kind, input) : null);
		if (source) wires[name] = [source].flat().map(outputOfSource);
	}
	const body = kind.example?.body;
	const subject: ExampleRow = [
		kind.id,
		'shown',
		{ ...kind.example?.settings, ...(body && { body: BODY }) },
		wires
	];
	const seen = seenBy(kind);
	const rows = [
		...rowsOfSources([...wiredTo(wires), ...seen.rows.flatMap((row) => wiredTo(row[3]))]),
		subject,
		...seen.rows
	];
	const graphs: Record<string, Graph> = body ? { [BODY]: graphOf(body).graph } : {};
	const { graph, ids } = graphOf(rows, graphs);
	// Curves and points are seen behind what is made of them; a mesh would lie in the same place.
	const [first, port] = wiredTo(wires)[0]?.split('.') ?? [];
	const isBehind = seen.shown === 'shown' && (port === 'curve' || port === 'points');
	return {
		subject: ids.get('shown')!,
		document: withPorts({
			...newDocument(`About ${kind.name}`),
			graphs: { ...graphs, main: graph },
			view: {
				shown: [ids.get(seen.shown)!],
				ghosts: isBehind ? [ids.get(first)!] : [],
				background: 'theme',
				...(seen.heat && { heat: [ids.get('shown')!, seen.heat] })
			}
		})
	};
}

/** The id of the body of an example. */
const BODY = 'example';

const wantsSource = (input: InputDefinition): boolean =>
	(input.kind === 'geometry' || input.kind === 'list') && !input.optional;

/** What an input is fed with, where the definition says nothing else. */
function sourceFor({ family, id }: AnyNode, input: InputDefinition): string {
	if (input.kind === 'list') return 'steps';
	switch ((input as GeometryInput).needs) {
		case 'mesh':
			return family === 'meshes' ? 'hut' : 'hill';
		case 'curves':
			return 'bend';
		case 'points':
			return 'row';
		case 'copies':
			return 'posts';
		default:
			if (family === 'deform') return 'stalk';
			if (family === 'copies') return id === 'place-copies' ? 'sown' : 'posts';
			return family === 'attributes' ? 'marked' : 'hill';
	}
}

/** What is looked at: the node itself, or something that its values are put to. */
function seenBy(kind: AnyNode): { rows: ExampleRow[]; shown: string; heat?: string } {
	const outputs = Object.entries(kind.outputs as Record<string, OutputDefinition>);
	const then = kind.example?.then;
	if (then) return { rows: [[then[0], 'seen', then[1], then[2]]], shown: 'seen' };
	if (outputs.some(([, { kind: carries }]) => carries === 'geometry')) return { rows: [], shown: 'shown' };
	const plotOf = (list: string): { rows: ExampleRow[]; shown: string } => ({
		rows: [
			['points-from-values', 'plot', { x: { formula: 'index * 0.4', streams: [] } }, { list }],
			['place-copies', 'plotted', {}, { points: 'plot.points', source: 'post.mesh' }]
		],
		shown: 'plotted'
	});
	// What gives nothing is looked at beside what it is about.
	if (!outputs.length) return plotOf('steps.list');
	const [port, { kind: carries }] = outputs[0];
	switch (carries) {
		case 'list':
			return plotOf(`shown.${port}`);
		case 'ramp':
			return {
				rows: [
					['shape-weight', 'shaped', {}, { weight: 'high.weight', ramp: `shown.${port}` }],
					['displace', 'raised', { amount: 1 }, { geometry: 'hill.geometry', weight: 'shaped.weight' }]
				],
				shown: 'raised'
			};
		default:
			return {
				rows: [['transform', 'ground', {}, { geometry: 'hill.geometry' }]],
				shown: 'ground',
				heat: port
			};
	}
}

/** A graph from rows, laid out from left to right. */
function graphOf(
	rows: readonly ExampleRow[],
	bodies: Readonly<Record<string, Graph>> = {}
): { graph: Graph; ids: Map<string, string> } {
	let graph: Graph = { nodes: [], wires: [], notes: [] };
	const ids = new Map<string, string>();
	const columns = new Map<string, number>();
	for (const [kind, short, settings = {}, wires = {}] of rows) {
		const before = wiredTo(wires).map((one) => columns.get(one.split('.')[0]) ?? 0);
		const column = before.length ? Math.max(...before) + 1 : 0;
		columns.set(short, column);
		const beside = [...columns.values()].filter((one) => one === column).length - 1;
		const made = newNode(graph, kind, [column * 250, beside * 170], settings);
		const node: GraphNode = {
			...made,
			// What is set at ports of a body, only the body knows.
			settings: { ...made.settings, ...(Object.keys(bodies).length && (settings as GraphNode['settings'])) },
			short,
			stream: `handbook ${short}`
		};
		ids.set(short, node.id);
		graph = { ...graph, nodes: [...graph.nodes, node] };
		for (const [input, sources] of Object.entries(wires))
			for (const source of [sources].flat()) {
				const [from, port] = source.split('.');
				graph = withWire(graph, { from: [ids.get(from)!, port], to: [node.id, input] });
			}
	}
	return { graph, ids };
}
