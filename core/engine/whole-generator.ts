/** A whole generator as a body: its dials become settings of every use, its result what comes out. */
import { nodeKinds } from '../nodes/index.ts';
import { renameDotted } from '../varying/index.ts';
import { freeShort, mapFormulas, newNode, resultNode, withWire, withSettingOn } from './build.ts';
import { inputOf, outputsOf } from './connect.ts';
import { withNodeChanged } from './edits.ts';
import type { Dial, GeneratorDocument, Graph, GraphNode, RandomRange, Setting } from './document.ts';
import { VERSION, endsOf, isRange, withEveryNode, withGraph, withNodes, withoutItsKeys } from './document.ts';
import { inputKind } from './inputs/index.ts';
import { freeKey, isSame, readersOfDial, settingFrom, withoutDial } from './dials.ts';
import type { ShelfItem } from './shelf.ts';
import { bodyNameOf, portOf, usedFrom } from './bodies.ts';
import { withTaken } from './saved-settings.ts';
import { settingOf } from './settings-graph.ts';

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
	for (const { name, takes, node } of document.slots) {
		const kept = takes === 'image' ? null : withSlotInput(made, name, node);
		if (kept) made = kept;
		else leftOut.push(`The slot “${name}” holds what its maker put there.`);
	}
	for (const dial of handed) made = withInputFor(made, dial);
	// What is left of dials, as in bodies, holds the value that it has.
	for (const { key } of document.dials) made = withoutDial(made, key);
	made = withEveryNode(withOutput(made), ({ drafts: _drafts, ...node }) => node);
	const graphs: Record<string, Graph> = { ...made.graphs };
	const { main } = made.graphs;
	delete graphs.main;
	const body = Object.hasOwn(graphs, BODY) ? `${BODY}-${id}` : BODY;
	const presets = document.presets.map(({ name, values }) => ({
		name,
		values: Object.assign(
			{},
			...handed.map(({ key, value }) => valuesAtPorts(key, value, values[key] ?? value))
		) as Record<string, Setting>
	}));
	graphs[body] = {
		...main,
		name: document.name,
		...(presets.length && { presets }),
		shelf: { id, version }
	};
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
	if (kind === 'choice' || kind === 'text') return 'no wire carries a word';
	if (kind === 'material') return 'a material is set where it stands';
	if (kind === 'ramp') return 'a ramp is drawn where it stands';
	const readers = readersOfDial(document, key);
	if (readers.some(({ graph }) => graph !== 'main')) return 'a subgraph inside hears it';
	if (isRange(value))
		return readers.some(({ byFormula }) => byFormula)
			? 'it is a random range of which a formula speaks'
			: null;
	const isHeard = ({ node, setting, byFormula }: (typeof readers)[number]): boolean => {
		const of = document.graphs.main.nodes.find(({ id }) => id === node);
		const input = of && inputOf(of, setting);
		return byFormula || (!!input && inputKind(input).fits(kind, input).fits);
	};
	return readers.some(isHeard) ? null : 'no wire reaches what it drives';
}

/** What a dial’s value is at the ports of a use: both ends of a random range. Nothing where it is none any more. */
function valuesAtPorts(key: string, now: Setting, value: Setting): Record<string, Setting> {
	if (!isRange(now)) return isRange(value) ? {} : { [key]: value };
	if (!isRange(value) && typeof value !== 'number') return {};
	const [low, high] = isRange(value) ? endsOf(value) : [value, value];
	return { [`${key}From`]: low, [`${key}To`]: high };
}

/** An Input before all that a slot’s node fed: what arrives there goes on, or else what stood in the slot. */
function withSlotInput(document: GeneratorDocument, name: string, slot: string): GeneratorDocument | null {
	const { main } = document.graphs;
	const node = main.nodes.find(({ id }) => id === slot);
	if (!node) return null;
	const outputs = Object.entries(outputsOf(node));
	const geometric = new Set(outputs.filter(([, { kind }]) => kind === 'geometry').map(([port]) => port));
	const [port] = geometric;
	if (port === undefined || geometric.size > 1) return null;
	const made: GraphNode = {
		...newNode(main, 'input', [node.at[0] + 200, node.at[1]], { name: nameOfPort(name, main) }),
		short: freeShort(main, `${node.short}Slot`)
	};
	return withGraph(document, 'main', (graph) => ({
		...graph,
		nodes: [...graph.nodes, made],
		wires: [
			...graph.wires.map((wire) =>
				wire.from[0] === slot && wire.from[1] === port
					? { ...wire, from: [made.id, 'value'] as [string, string] }
					: wire
			),
			{ from: [slot, port], to: [made.id, 'otherwise'] }
		]
	}));
}

/** What a slot is called as a port: a word that no other port has. */
const nameOfPort = (name: string, { nodes }: Graph): string =>
	freeKey(
		nodes.filter(({ kind }) => kind === 'input').map((node) => ({ key: portOf(node).name })),
		name,
		'slot'
	);

/** A random range as two Inputs: what it had in hand draws between them the numbers that it drew. */
function withEndsFor(document: GeneratorDocument, dial: Dial, range: RandomRange): GeneratorDocument {
	const [low, high] = endsOf(range);
	const { value: _range, ...rest } = dial;
	void _range;
	const ends = [
		['From', low],
		['To', high]
	] as const;
	const made = ends.reduce(
		(of, [end, value]) => withInputFor(of, { ...rest, key: `${dial.key}${end}`, value, start: value }),
		document
	);
	const [from, to] = made.graphs.main.nodes.slice(-2).map(({ short }) => `${short}.value`);
	const formula =
		dial.kind === 'whole' ? `floor(random(ceil(${from}), floor(${to}) + 1))` : `random(${from}, ${to})`;
	return withGraph(made, 'main', (graph) =>
		withNodes(graph, (node) => {
			const mine = Object.entries(node.dials ?? {}).filter(([, key]) => key === dial.key);
			if (!mine.length) return node;
			const drawn = mine.map(([name]): [string, Setting] => {
				const now = settingFrom(dial, node, name);
				return [name, { formula, streams: isRange(now) ? [now.stream] : [] }];
			});
			return drawn.reduce((made, [name, setting]) => withSettingOn(made, name, setting), node);
		})
	);
}

/** An Input in place of a dial: wired to what the dial has in hand, and spoken of where formulas spoke of the dial. */
function withInputFor(document: GeneratorDocument, given: Dial): GeneratorDocument {
	// A port begins with one value: of keys, the first.
	const dial = { ...given, value: withoutItsKeys(given.value) };
	const { key, kind, value, help, unit, min, max } = dial;
	if (isRange(value)) return withEndsFor(document, dial, value);
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
		// A result of several stays, as the node that brings them together.
		const goes = isResult && into.length < 2;
		const from = goes
			? into[0]?.from
			: port === undefined
				? undefined
				: ([result.id, port] as [string, string]);
		const rest = goes
			? {
					...graph,
					nodes: graph.nodes.filter((node) => node !== result),
					wires: graph.wires.filter(({ to }) => to[0] !== result.id)
				}
			: isResult
				? withNodeChanged(graph, result.id, () => {
						const { kind, version, settings } = newNode(graph, 'merge', result.at);
						return { kind, version, settings };
					})
				: graph;
		const output = newNode(rest, 'output', [result.at[0], result.at[1]], {
			name: 'result',
			carries: 'geometry'
		});
		const made = { ...rest, nodes: [...rest.nodes, output] };
		return from ? withWire(made, { from, to: [output.id, 'value'] }) : made;
	});
}

/** A preset of a whole generator, as settings of a use. */
type UsePreset = NonNullable<Graph['presets']>[number];

/** The presets of the generator that a node uses. */
export function presetsOfUse({ graphs }: GeneratorDocument, node: GraphNode): readonly UsePreset[] {
	const body = bodyNameOf(node);
	return (body !== null && Object.hasOwn(graphs, body) && graphs[body].presets) || [];
}

/** Which of them a use stands as; null where it is none of them. */
export const presetOfUse = (document: GeneratorDocument, node: GraphNode): UsePreset | null =>
	presetsOfUse(document, node).find(({ values }) =>
		Object.entries(values).every(([name, value]) => {
			const input = inputOf(node, name);
			return !input || isSame(settingOf(node, name, input), value);
		})
	) ?? null;

/** A use as one of those presets has it. */
export function withUsePreset(
	document: GeneratorDocument,
	graph: string,
	id: string,
	name: string
): GeneratorDocument {
	return withGraph(document, graph, (of) =>
		withNodes(of, (node) => {
			const preset = node.id === id && presetsOfUse(document, node).find((one) => one.name === name);
			return preset ? withTaken(node, preset.values) : node;
		})
	);
}
