/** A whole generator as a body: its dials become settings of every use, its result what comes out. */
import { nodeKinds } from '../nodes/index.ts';
import { renameDotted } from '../varying/index.ts';
import { freeShort, mapFormulas, newNode, resultNode, withWire } from './build.ts';
import { inputOf } from './connect.ts';
import type { Dial, GeneratorDocument, Graph, GraphNode } from './document.ts';
import { VERSION, isRange, withEveryNode, withGraph } from './document.ts';
import { inputKind } from './inputs/index.ts';
import { readersOfDial, withoutDial } from './dials.ts';
import type { ShelfItem } from './shelf.ts';
import { usedFrom } from './bodies.ts';

/** What the body is called by its id. */
const BODY = 'whole';

export interface Whole {
	item: ShelfItem;
	/** What does not go along, as sentences. */
	leftOut: readonly string[];
}

/** A generator as it goes onto the shelf, to be used as a node in others. */
export function wholeGenerator(
	document: GeneratorDocument,
	{ id, version }: Pick<ShelfItem, 'id' | 'version'>
): Whole {
	const leftOut: string[] = [];
	let made = document;
	const handed: Dial[] = [];
	for (const dial of document.dials) {
		const why = whyNoInput(document, dial);
		if (why) leftOut.push(`The dial “${dial.name}” stays inside as it is: ${why}.`);
		else handed.push(dial);
	}
	for (const { name } of document.slots) leftOut.push(`The slot “${name}” holds what its maker put there.`);
	for (const dial of handed) made = withInputFor(made, dial);
	// What is left of dials, as in bodies, holds the value that it has.
	for (const { key } of document.dials) made = withoutDial(made, key);
	made = withEveryNode(withOutput(made), ({ drafts: _drafts, ...node }) => node);
	const graphs: Record<string, Graph> = { ...made.graphs };
	const { main } = made.graphs;
	delete graphs.main;
	const body = Object.hasOwn(graphs, BODY) ? `${BODY}-${id}` : BODY;
	graphs[body] = { ...main, name: document.name, shelf: { id, version } };
	const used = usedFrom(graphs, [body]);
	return {
		item: {
			id,
			version,
			name: document.name,
			words: 'generator',
			written: VERSION,
			body,
			graphs: Object.fromEntries(used.map((one) => [one, graphs[one]]))
		},
		leftOut
	};
}

/** Why a dial cannot be a setting of a use; null where it can. */
function whyNoInput(document: GeneratorDocument, { key, kind, value }: Dial): string | null {
	if (isRange(value)) return 'it is a random range';
	if (kind === 'choice' || kind === 'text') return 'no wire carries a word';
	if (kind === 'ramp') return 'a ramp is drawn where it stands';
	const readers = readersOfDial(document, key);
	if (readers.some(({ graph }) => graph !== 'main')) return 'a subgraph inside hears it';
	const isHeard = ({ node, setting, byFormula }: (typeof readers)[number]): boolean => {
		const of = document.graphs.main.nodes.find(({ id }) => id === node);
		const input = of && inputOf(of, setting);
		return byFormula || (!!input && inputKind(input).fits(kind, input).fits);
	};
	return readers.some(isHeard) ? null : 'no wire reaches what it has in hand';
}

/** An Input in place of a dial: wired to what the dial has in hand, and spoken of where formulas spoke of the dial. */
function withInputFor(document: GeneratorDocument, dial: Dial): GeneratorDocument {
	const { key, kind, value, help, unit, min, max } = dial;
	const { main } = document.graphs;
	const isLimited = (kind === 'number' || kind === 'whole') && min !== undefined && max !== undefined;
	const made: GraphNode = {
		...newNode(main, 'input', [-400, 120 * main.nodes.length], {
			name: key,
			carries: kind,
			...(typeof value === 'number' && { default: value }),
			...(typeof value === 'boolean' && { defaultYes: value }),
			...(Array.isArray(value) && { defaultParts: value }),
			...(help && { says: help.slice(0, 500) }),
			...(unit && { unit: unit.slice(0, 8) }),
			...(isLimited && { limited: true, minimum: min, maximum: max })
		}),
		short: freeShort(main, key)
	};
	const links = main.nodes.flatMap((node) =>
		Object.entries(node.dials ?? {}).flatMap(([setting, of]) => {
			const input = of === key ? inputOf(node, setting) : undefined;
			const fits = input && inputKind(input).fits(kind as 'number', input).fits;
			return fits
				? [{ from: [made.id, 'value'] as [string, string], to: [node.id, setting] as [string, string] }]
				: [];
		})
	);
	return withGraph(document, 'main', (graph) => {
		const nodes = graph.nodes.map((node) => {
			const settings = mapFormulas(node, (text) => renameDotted(text, `dial.${key}`, `${made.short}.value`));
			return settings === node.settings ? node : { ...node, settings };
		});
		return links.reduce(withWire, { ...graph, nodes: [...nodes, made] });
	});
}

/** An Output in place of the result. */
function withOutput(document: GeneratorDocument): GeneratorDocument {
	const result = resultNode(document);
	if (!result) return document;
	return withGraph(document, 'main', (graph) => {
		const isResult = result.kind === 'result';
		const into = graph.wires.filter(({ to }) => isResult && to[0] === result.id);
		const port = (Object.entries(nodeKinds.get(result.kind)!.outputs) as [string, { kind: string }][]).find(
			([, { kind }]) => kind === 'geometry'
		)?.[0];
		const from = isResult
			? into[0]?.from
			: port === undefined
				? undefined
				: ([result.id, port] as [string, string]);
		const rest = isResult
			? {
					...graph,
					nodes: graph.nodes.filter((node) => node !== result),
					wires: graph.wires.filter(({ to }) => to[0] !== result.id)
				}
			: graph;
		const output = newNode(rest, 'output', [result.at[0], result.at[1]], {
			name: 'result',
			carries: 'geometry'
		});
		const made = { ...rest, nodes: [...rest.nodes, output] };
		return from ? withWire(made, { from, to: [output.id, 'value'] }) : made;
	});
}
