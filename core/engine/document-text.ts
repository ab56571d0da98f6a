/** Documents as text, and back from files that may be old, new, broken or hostile. */
import { z } from 'zod';
import { NodeError, formatCount, inBrief, whatIsWrong } from '../math/index.ts';
import { nodeKinds, takesMany } from '../nodes/index.ts';
import { isRaw, withinReason } from './within-reason.ts';
import { withPorts } from './bodies.ts';
import { fitsDial } from './dials.ts';
import { whyNoFrames } from './time.ts';
import { withDialsInHand } from './settle.ts';
import { isWhole } from './ties.ts';
import { fits, inputOf, outputOf } from './connect.ts';
import { inputKind, takes } from './inputs/index.ts';
import { freeName } from './free-names.ts';
import { PARTS, cutPart, partName } from './vector-parts.ts';
import { withNewBackground, withNewNames, withoutKeptNames } from './migrate.ts';
import type { GeneratorDocument, Graph, GraphNode, Setting, Wire } from './document.ts';
import {
	FORMAT,
	MOST_BODIES,
	VERSION,
	bodyId,
	dialSchema,
	framesSchema,
	namedFramesSchema,
	documentSchema,
	keptSchema,
	lightSchema,
	nameSchema,
	newDocument,
	newStream,
	nodeSchema,
	noteSchema,
	presetSchema,
	settingSchema,
	slotSchema,
	tieSchema,
	viewSchema,
	wireSchema
} from './document.ts';

export interface Opened {
	document: GeneratorDocument;
	/** What could not be read and was left out, as sentences. Empty for a sound file. */
	leftOut: string[];
}

/** The largest generator file, without assets. */
const LARGEST_DOCUMENT = 20_000_000;
const DEEPEST_JSON = 40;

/** Reads a document from text. Opens as much as can be; throws NodeError where nothing can. */
export function openDocument(text: string): Opened {
	checkText(text, 'The file');
	if (!text.trim()) throw new NodeError('The file is empty.');
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch (error) {
		throw new NodeError(`The file is not a generator: it is not JSON (${(error as Error).message}).`);
	}
	return openRaw(raw);
}

/** Throws NodeError where a text is too large, or nested too deeply, to be a generator or a part of one. */
export function checkText(text: string, what: string): void {
	if (text.length > LARGEST_DOCUMENT)
		throw new NodeError(
			`${what} has ${formatCount(text.length)} characters; at most ${formatCount(LARGEST_DOCUMENT)} are read.`
		);
	checkDepth(text, what);
}

/** The same from JSON that was already read. */
export function openRaw(raw: unknown): Opened {
	if (typeof raw !== 'object' || raw === null || (raw as { format?: unknown }).format !== FORMAT)
		throw new NodeError('The file is not a generator: its “format” does not say “embrell”.');
	const { version } = raw as { version?: unknown };
	if (typeof version !== 'number') throw new NodeError('The file does not say which version it is.');
	if (version > VERSION)
		throw new NodeError(
			`The file is of version ${version}, made with a newer Embrell; this one reads up to ${VERSION}. Update, then open it again.`
		);
	const migrated = migrate(raw as Record<string, unknown>, version);
	const leftOut: string[] = [];
	const known = withKnownLooks(withinReason(migrated, leftOut), leftOut);
	const whole = documentSchema.safeParse(known);
	const { document } = whole.success ? mend(whole.data, leftOut) : salvage(known, leftOut);
	return { document, leftOut: leftOut.map(inBrief) };
}

/** Steps from each version to the next; the list grows as the format does. */
const MIGRATIONS: ((document: Record<string, unknown>) => Record<string, unknown>)[] = [
	// 2: one word for one matter. Kinds and inputs got new names; what they do is the same.
	(document) => withNewBackground(withNewNames(document, 1)),
	// 3: names that formulas keep for themselves.
	withoutKeptNames,
	// 4: a kind of node got another name.
	(document) => withNewNames(document, 3),
	// 5: an input got another name; parts of vectors by themselves, dials with keys and named frames are new.
	(document) => withNewNames(document, 4)
];

/** A light or a background that this version does not know: the usual one, and said. */
function withKnownLooks(document: Record<string, unknown>, leftOut: string[]): Record<string, unknown> {
	const view = document.view;
	if (typeof view !== 'object' || view === null) return document;
	const { background, light, ...rest } = view as Record<string, unknown>;
	const isKnown = background === undefined || viewSchema.shape.background.safeParse(background).success;
	if (!isKnown)
		leftOut.push(
			`The background “${String(background).slice(0, 40)}” is not known to this version; that of the theme is used.`
		);
	const isLight = light === undefined || lightSchema.safeParse(light).success;
	if (!isLight) leftOut.push('The light of the View could not be read; the usual one is used.');
	return {
		...document,
		view: {
			...rest,
			...(isKnown && background !== undefined && { background }),
			...(isLight && light !== undefined && { light })
		}
	};
}

function migrate(document: Record<string, unknown>, version: number): Record<string, unknown> {
	for (let v = Math.max(1, Math.floor(version)); v < VERSION; v++) document = MIGRATIONS[v - 1](document);
	return { ...document, version: VERSION };
}

function checkDepth(text: string, what: string): void {
	let depth = 0;
	let inText = false;
	for (let i = 0; i < text.length; i++) {
		const c = text.charCodeAt(i);
		if (inText) {
			if (c === 92) i++;
			else if (c === 34) inText = false;
		} else if (c === 34) inText = true;
		else if (c === 123 || c === 91) {
			if (++depth > DEEPEST_JSON)
				throw new NodeError(`${what} is nested more than ${DEEPEST_JSON} deep; no generator is.`);
		} else if (c === 125 || c === 93) depth--;
	}
}

/** Takes what is sound out of a broken document. */
function salvage(raw: Record<string, unknown>, leftOut: string[]): Opened {
	const fresh = newDocument();
	const take = <T>(schema: z.ZodType<T>, from: unknown, what: string, otherwise: T): T => {
		const parsed = schema.safeParse(from);
		if (parsed.success) return parsed.data;
		if (from !== undefined) leftOut.push(`${what} could not be read (${whatIsWrong(parsed.error)}).`);
		return otherwise;
	};
	const rows = <T>(schema: z.ZodType<T>, from: unknown, what: (row: unknown, i: number) => string): T[] => {
		if (!Array.isArray(from)) return [];
		return from.slice(0, 20_000).flatMap((row, i) => {
			const parsed = schema.safeParse(row);
			if (parsed.success) return [parsed.data];
			leftOut.push(`${what(row, i)} was left out: ${whatIsWrong(parsed.error)}.`);
			return [];
		});
	};
	const graphs = isRaw(raw.graphs) ? raw.graphs : {};
	const graphOf = (id: string): Graph => {
		const from = isRaw(graphs[id]) ? graphs[id] : {};
		return {
			...(id !== 'main' && typeof from.name === 'string' && { name: from.name.slice(0, 200) }),
			nodes: nodesFrom(from.nodes, leftOut),
			wires: rows(wireSchema, from.wires, (_, i) => `Wire ${i + 1}`),
			notes: rows(noteSchema, from.notes, (_, i) => `Note ${i + 1}`)
		};
	};
	const bodies = Object.keys(graphs).filter((id) => id !== 'main' && bodyId.safeParse(id).success);
	const document: GeneratorDocument = {
		...fresh,
		name: take(nameSchema, raw.name, 'The name', fresh.name),
		seed: take(documentSchema.shape.seed, raw.seed, 'The seed', fresh.seed),
		...(typeof raw.preset === 'string' &&
			documentSchema.shape.preset.safeParse(raw.preset).success && { preset: raw.preset }),
		...framesFrom(raw.frames, leftOut),
		...(raw.namedFrames !== undefined && {
			namedFrames: take(namedFramesSchema, raw.namedFrames, 'The named frames', [])
		}),
		dials: rows(dialSchema, raw.dials, (_, i) => `Dial ${i + 1}`),
		slots: rows(slotSchema, raw.slots, (_, i) => `Slot ${i + 1}`),
		ties: rows(tieSchema, raw.ties, (_, i) => `Tie ${i + 1}`),
		presets: rows(presetSchema, raw.presets, (_, i) => `Preset ${i + 1}`),
		kept: rows(keptSchema, raw.kept, (_, i) => `Kept variation ${i + 1}`),
		assets: take(documentSchema.shape.assets, raw.assets, 'The list of assets', {}),
		view: take(viewSchema, raw.view, 'What is shown in the View', fresh.view),
		graphs: {
			main: graphOf('main'),
			...Object.fromEntries(bodies.slice(0, MOST_BODIES).map((id) => [id, graphOf(id)]))
		}
	};
	return mend(document, leftOut);
}

/** The frames of a document, as far as they can be so. */
function framesFrom(raw: unknown, leftOut: string[]): Pick<GeneratorDocument, 'frames'> {
	if (raw === undefined) return {};
	const read = framesSchema.safeParse(raw);
	const why = read.success ? whyNoFrames(read.data) : 'They are a rate, a first and a last one.';
	if (read.success && !why) return { frames: read.data };
	leftOut.push(`The frames were left out: ${why}`);
	return {};
}

/** What is sound of a list of nodes: settings are tried one by one, so that one bad number does not cost the node. */
function nodesFrom(given: unknown, leftOut: string[]): GraphNode[] {
	return (Array.isArray(given) ? given : []).slice(0, 5000).flatMap((row: unknown, i) => {
		const parsed = nodeSchema.safeParse(row);
		if (parsed.success) return [parsed.data];
		const from = isRaw(row) ? row : {};
		const settings: Record<string, Setting> = {};
		const label = typeof from.short === 'string' ? from.short : `number ${i + 1}`;
		for (const [key, value] of Object.entries(isRaw(from.settings) ? from.settings : {})) {
			const one = settingSchema.safeParse(value);
			if (one.success) settings[key] = one.data;
			else leftOut.push(`The setting “${key}” of node ${label} was left out: ${whatIsWrong(one.error)}.`);
		}
		const { drafts, dials, ...rest } = from;
		const isLinked = nodeSchema.shape.dials.safeParse(dials).success;
		if (!isLinked) leftOut.push(`Which settings of node ${label} are driven by dials could not be read.`);
		const isDraft = nodeSchema.shape.drafts.safeParse(drafts).success;
		if (!isDraft)
			leftOut.push(`The draft values of node ${label} were left out: they are whole numbers by setting.`);
		const again = nodeSchema.safeParse({
			...rest,
			...(isDraft && drafts !== undefined && { drafts }),
			...(isLinked && dials !== undefined && { dials }),
			settings,
			at: Array.isArray(from.at) ? from.at : [i * 40, i * 40],
			stream: from.stream ?? newStream()
		});
		if (again.success) return [again.data];
		leftOut.push(`Node ${label} was left out: ${whatIsWrong(again.error)}.`);
		return [];
	});
}

/** Takes out what refers to nothing, and makes names unique. */
function mend(document: GeneratorDocument, leftOut: string[]): Opened {
	const mapGraphs = (of: GeneratorDocument, make: (graph: Graph) => Graph): GeneratorDocument => ({
		...of,
		graphs: Object.fromEntries(
			Object.entries(of.graphs).map(([id, graph]) => [id, make(graph)])
		) as GeneratorDocument['graphs']
	});
	const named = mapGraphs(document, (graph) => ({ ...graph, nodes: soundNodes(graph.nodes, leftOut) }));
	// What goes in and out of a subgraph is known only when all bodies are read; wires are looked at after that.
	const ported = withPorts(named);
	const mended = {
		...ported,
		graphs: Object.fromEntries(
			Object.entries(ported.graphs).map(([id, graph]) => [
				id,
				{ ...graph, wires: soundWires(named.graphs[id].wires, graph.nodes, leftOut) }
			])
		) as GeneratorDocument['graphs']
	};
	const handed = soundHandedOut(mended, leftOut);
	const ids = new Set(handed.graphs.main.nodes.map(({ id }) => id));
	const present = (list: string[]) => list.filter((one) => ids.has(one));
	const { heat, ...rest } = document.view;
	return {
		document: {
			...handed,
			view: {
				...rest,
				...(heat && (heat[0] === '' || ids.has(heat[0])) && { heat }),
				shown: present(document.view.shown),
				ghosts: present(document.view.ghosts)
			}
		},
		leftOut
	};
}

/** Dials, ties, slots, presets and kept variations that refer to what is there; what dials have in hand holds what they say. */
function soundHandedOut(document: GeneratorDocument, leftOut: string[]): GeneratorDocument {
	const keys = new Set<string>();
	const own = <Row extends { key: string; name: string }>(rows: readonly Row[], what: string): Row[] =>
		rows.filter(({ key, name }) => {
			const isFree = !keys.has(`${what} ${key}`);
			keys.add(`${what} ${key}`);
			if (!isFree) leftOut.push(`The ${what} “${name}” was left out: another has the same key.`);
			return isFree;
		});
	const dials = own(document.dials, 'dial').flatMap((dial) => {
		const { name, value, start } = dial;
		const sound = [value, start].filter((one) => fitsDial(dial, one));
		if (sound.length === 2) return [dial];
		leftOut.push(
			`The dial “${name}” ${sound.length ? 'held something else than it takes; it begins anew' : 'was left out: it holds something else than it takes'}.`
		);
		return sound.map((one) => ({ ...dial, value: one, start: one }));
	});
	const nodes = new Set(document.graphs.main.nodes.map(({ id }) => id));
	const slots = own(document.slots, 'slot').filter(({ name, node }) => {
		if (!nodes.has(node)) leftOut.push(`The slot “${name}” was left out: its node is missing.`);
		return nodes.has(node);
	});
	const ids = new Set<string>();
	const once = <Row extends { id: string }>(rows: readonly Row[]): Row[] =>
		rows.filter(({ id }) => !ids.has(id) && ids.add(id));
	const made = { ...document, dials, slots, presets: once(document.presets), kept: once(document.kept) };
	const ties = once(made.ties).filter((tie) => {
		if (!isWhole(made, tie)) leftOut.push('A tie was left out: one of its ends is missing.');
		return isWhole(made, tie);
	});
	return withDialsInHand({ ...made, ties });
}

/** The nodes of kinds that there are, each with an id and a name of its own. */
function soundNodes(nodes: readonly GraphNode[], leftOut: string[]): GraphNode[] {
	const ids = new Set<string>();
	const shorts = new Set<string>();
	return nodes.flatMap((node) => {
		const kind = nodeKinds.get(node.kind);
		if (!kind) {
			leftOut.push(`Node ${node.short} was left out: there is no kind of node “${node.kind.slice(0, 60)}”.`);
			return [];
		}
		if (ids.has(node.id)) {
			leftOut.push(`Node ${node.short} was left out: another has the same id.`);
			return [];
		}
		ids.add(node.id);
		const short = freeName(node.short, (one) => shorts.has(one));
		if (short !== node.short) leftOut.push(`Two nodes were called ${node.short}; one is now ${short}.`);
		shorts.add(short);
		const inputs = soundOwnInputs({ ...node, short }, leftOut);
		const settings = soundSettings({ ...node, short }, leftOut);
		if (node.version > kind.version)
			leftOut.push(`Node ${short} was made with a newer version of “${kind.name}”; the result may differ.`);
		const isSound = short === node.short && settings === node.settings && inputs === node.inputs;
		return [isSound ? node : { ...node, short, settings, ...(inputs && { inputs }) }];
	});
}

/** The inputs that the artist declared, each with a name of its own. */
function soundOwnInputs({ inputs, short }: GraphNode, leftOut: string[]): GraphNode['inputs'] {
	const names = new Set<string>();
	const sound = inputs?.map((input) => {
		const name = freeName(input.name, (one) => names.has(one), input.name.slice(0, 56));
		names.add(name);
		if (name === input.name) return input;
		leftOut.push(`Two inputs of node ${short} were called ${input.name}; one is now ${name}.`);
		return { ...input, name };
	});
	return sound?.every((one, i) => one === inputs![i]) ? inputs : sound;
}

/** The settings of a node that are what its inputs take; what is left out begins anew. */
function soundSettings(node: GraphNode, leftOut: string[]): GraphNode['settings'] {
	const wrong = Object.keys(node.settings).filter((name) => {
		const input = inputOf(node, name);
		if (!input) return false;
		if (takes(input, node.settings[name])) return false;
		leftOut.push(
			`The setting “${input.label}” of node ${node.short} was left out: it takes ${inputKind(input).takes}, and something else stood there.`
		);
		return true;
	});
	if (!wrong.length) return node.settings;
	return Object.fromEntries(Object.entries(node.settings).filter(([name]) => !wrong.includes(name)));
}

/** The wires whose ends are there and fit, one for an input that takes one. */
function soundWires(wires: readonly Wire[], nodes: readonly GraphNode[], leftOut: string[]): Wire[] {
	const byId = new Map(nodes.map((node) => [node.id, node]));
	const taken = new Set<string>();
	return wires.filter(({ from, to }) => {
		const source = byId.get(from[0]),
			target = byId.get(to[0]);
		const output = outputOf(source, from[1]);
		const input = target && inputOf(target, to[1]);
		const wrong = (why: string): false => {
			leftOut.push(`A wire to ${target?.short ?? 'a node'} (${to[1].slice(0, 40)}) was left out: ${why}`);
			return false;
		};
		if (!output || !input) return wrong('one of its ends is missing.');
		const fit = fits(output.kind, input);
		if (!fit.fits) return wrong(fit.reason);
		const end = to.join(' ');
		const many = takesMany(input);
		const cut = cutPart(to[1]);
		const rivals = cut ? [cut.whole] : PARTS.map((part) => partName(to[1], part));
		if (rivals.some((name) => taken.has(`${to[0]} ${name}`)))
			return wrong('a vector is wired as a whole, or part by part.');
		if (taken.has(many ? `${from.join(' ')} ${end}` : end)) return wrong('another one comes in there.');
		taken.add(many ? `${from.join(' ')} ${end}` : end);
		return true;
	});
}

/** A document as text: stable in a diff, a line for each small thing. */
export function writeDocument(document: GeneratorDocument): string {
	return stringify(document, '') + '\n';
}

function stringify(value: unknown, indent: string): string {
	const flat = JSON.stringify(value);
	if (typeof value !== 'object' || value === null || flat.length <= 100) return flat;
	const inner = indent + '\t';
	if (Array.isArray(value))
		return `[\n${value.map((v) => inner + stringify(v, inner)).join(',\n')}\n${indent}]`;
	const rows = Object.entries(value)
		.filter(([, v]) => v !== undefined)
		.map(([k, v]) => `${inner}${JSON.stringify(k)}: ${stringify(v, inner)}`);
	return `{\n${rows.join(',\n')}\n${indent}}`;
}
