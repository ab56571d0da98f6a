/** A generator as a document: its schema, and reading of files that may be old, new, broken or hostile. */
import { z } from 'zod';
import { NodeError } from '../math/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { EASINGS } from '../varying/index.ts';

// Zod's fast path calls `Function`, which the page's policy forbids.
z.config({ jitless: true });

export const FORMAT = 'embrell';
export const VERSION = 1;

const finite = z.number().refine(Number.isFinite);
const stream = z.string().min(1).max(64);
const name = z.string().max(200);
const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/);

/** A number that is random between two ends. With `base` it is shown as base ± variation, the variation to each side. */
const randomRange = z.union([
	z.object({ low: finite, high: finite, stream }),
	z.object({ base: finite, variation: finite, stream })
]);
const formulaSetting = z.object({
	formula: z.string().max(4000),
	streams: z.array(stream).max(200).default([])
});
const scalarSetting = z.union([finite, randomRange, formulaSetting]);
const unit = finite.min(0).max(1);
/** Numbers or colours at places from 0 to 1. */
const rampSetting = z.object({
	stops: z
		.array(
			z.object({
				at: unit,
				value: finite,
				colour: z.tuple([finite, finite, finite]).optional(),
				easing: z.enum(EASINGS),
				handles: z.tuple([unit, finite, unit, finite]).optional()
			})
		)
		.max(200)
});
/** A drawn curve: its control points in metres, with handles as steps away from them where it is a Bézier. */
const pathSetting = z.object({
	path: z
		.array(
			z.object({
				at: z.tuple([finite, finite, finite]),
				in: z.tuple([finite, finite, finite]).optional(),
				out: z.tuple([finite, finite, finite]).optional(),
				ends: z.boolean().optional()
			})
		)
		.max(5000)
});
const setting = z.union([
	scalarSetting,
	rampSetting,
	pathSetting,
	z.boolean(),
	z.string().max(20_000),
	z.tuple([scalarSetting, scalarSetting, scalarSetting])
]);

/** Never a name such as __proto__: it begins with a letter. */
const settingName = z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,60}$/);

const nodeSchema = z.object({
	id,
	kind: z.string().max(80),
	/** Version of the kind with which the node was made. */
	version: z.number().int().min(1).default(1),
	/** Unique in its graph; formulas refer to it. */
	short: z.string().regex(/^[\p{L}_][\p{L}\p{N}_]{0,60}$/u),
	title: name.optional(),
	at: z.tuple([finite, finite]),
	settings: z.record(settingName, setting).default({}),
	/** Inputs that the artist declared, with their values. */
	inputs: z
		.array(z.object({ name: z.string().regex(/^[\p{L}_][\p{L}\p{N}_]{0,60}$/u), value: finite }))
		.max(40)
		.optional(),
	/** Settings kept open on the node in the graph. */
	pinned: z.array(z.string().max(80)).max(80).optional(),
	bypassed: z.boolean().optional(),
	/** Names the node's own randomness, so that no two nodes share it. */
	stream
});
const wireSchema = z.object({
	from: z.tuple([id, z.string().max(80)]),
	to: z.tuple([id, z.string().max(80)])
});
const noteSchema = z.object({
	id,
	at: z.tuple([finite, finite]),
	text: z.string().max(5000),
	width: finite.optional()
});
const graphSchema = z.object({
	nodes: z.array(nodeSchema).max(5000),
	/** In order: where an input takes several wires, they arrive so. */
	wires: z.array(wireSchema).max(20_000),
	notes: z.array(noteSchema).max(2000).default([])
});
const assetSchema = z.object({ name, bytes: z.number().int().min(0) });
const viewSchema = z.object({
	shown: z.array(id).max(50).default([]),
	ghosts: z.array(id).max(50).default([]),
	/** An output (node and port) whose numbers colour what is shown. */
	heat: z.tuple([id, z.string().max(80)]).optional(),
	background: z.string().max(40).default('paper'),
	camera: z
		.object({ position: z.tuple([finite, finite, finite]), target: z.tuple([finite, finite, finite]) })
		.optional()
});

const documentSchema = z.object({
	format: z.literal(FORMAT),
	version: z.literal(VERSION),
	name,
	seed: z.number().int().min(0).max(4294967295),
	unit: z.literal('m'),
	dials: z.array(z.unknown()).max(0).default([]),
	slots: z.array(z.unknown()).max(0).default([]),
	graphs: z.object({ main: graphSchema }),
	ties: z.array(z.unknown()).max(0).default([]),
	presets: z.array(z.unknown()).max(0).default([]),
	kept: z.array(z.unknown()).max(0).default([]),
	assets: z.record(z.string().regex(/^[0-9a-f]{32}$/), assetSchema).default({}),
	view: viewSchema
});

export type GeneratorDocument = z.infer<typeof documentSchema>;
export type GraphNode = z.infer<typeof nodeSchema>;
export type Wire = z.infer<typeof wireSchema>;
export type Note = z.infer<typeof noteSchema>;
export type Graph = z.infer<typeof graphSchema>;
export type Setting = z.infer<typeof setting>;
export type ScalarSetting = z.infer<typeof scalarSetting>;
export type RandomRange = z.infer<typeof randomRange>;
export type FormulaSetting = z.infer<typeof formulaSetting>;

export const isRange = (s: unknown): s is RandomRange =>
	typeof s === 'object' && s !== null && !Array.isArray(s) && ('low' in s || 'base' in s);
export const isFormula = (s: unknown): s is FormulaSetting =>
	typeof s === 'object' && s !== null && !Array.isArray(s) && 'formula' in s;
export const isRamp = (s: unknown): s is z.infer<typeof rampSetting> =>
	typeof s === 'object' && s !== null && 'stops' in s;
export const isPath = (s: unknown): s is z.infer<typeof pathSetting> =>
	typeof s === 'object' && s !== null && 'path' in s;
/** The lowest and highest value of a random range. */
export const endsOf = (range: RandomRange): [number, number] =>
	'low' in range ? [range.low, range.high] : [range.base - range.variation, range.base + range.variation];

/** A new stream's name. Sixty-four random bits, from the platform's source where there is one. */
export function newStream(): string {
	const words = new Uint32Array(2);
	const { crypto } = globalThis as unknown as { crypto: { getRandomValues(a: Uint32Array): void } };
	crypto.getRandomValues(words);
	return words[0].toString(36) + words[1].toString(36);
}

/** An empty generator. */
export function newDocument(title = 'Untitled generator'): GeneratorDocument {
	return {
		format: FORMAT,
		version: VERSION,
		name: title,
		seed: 1,
		unit: 'm',
		dials: [],
		slots: [],
		graphs: { main: { nodes: [], wires: [], notes: [] } },
		ties: [],
		presets: [],
		kept: [],
		assets: {},
		view: { shown: [], ghosts: [], background: 'paper' }
	};
}

export interface Opened {
	document: GeneratorDocument;
	/** What could not be read and was left out, as sentences. Empty for a sound file. */
	leftOut: string[];
}

/** The largest generator file, without assets. */
export const LARGEST_DOCUMENT = 20_000_000;
const DEEPEST_JSON = 40;

/** Reads a document from text. Opens as much as can be; throws NodeError where nothing can. */
export function openDocument(text: string): Opened {
	if (text.length > LARGEST_DOCUMENT)
		throw new NodeError(`The file has ${text.length} characters; at most ${LARGEST_DOCUMENT} are read.`);
	if (!text.trim()) throw new NodeError('The file is empty.');
	checkDepth(text);
	let raw: unknown;
	try {
		raw = JSON.parse(text);
	} catch (error) {
		throw new NodeError(`The file is no generator: it is not JSON (${(error as Error).message}).`);
	}
	return openRaw(raw);
}

/** The same from JSON that was already read. */
export function openRaw(raw: unknown): Opened {
	if (typeof raw !== 'object' || raw === null || (raw as { format?: unknown }).format !== FORMAT)
		throw new NodeError('The file is no generator: its “format” does not say “embrell”.');
	const { version } = raw as { version?: unknown };
	if (typeof version !== 'number') throw new NodeError('The file does not say which version it is.');
	if (version > VERSION)
		throw new NodeError(
			`The file is of version ${version}, made with a newer Embrell; this one reads up to ${VERSION}. Update, then open it again.`
		);
	const migrated = migrate(raw as Record<string, unknown>, version);
	const whole = documentSchema.safeParse(migrated);
	if (whole.success) return mend(whole.data, []);
	return salvage(migrated);
}

/** Steps from each version to the next; the list grows as the format does. */
const MIGRATIONS: ((document: Record<string, unknown>) => Record<string, unknown>)[] = [];

function migrate(document: Record<string, unknown>, version: number): Record<string, unknown> {
	for (let v = Math.max(1, Math.floor(version)); v < VERSION; v++) document = MIGRATIONS[v - 1](document);
	return { ...document, version: VERSION };
}

function checkDepth(text: string): void {
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
				throw new NodeError(`The file is nested more than ${DEEPEST_JSON} deep; no generator is.`);
		} else if (c === 125 || c === 93) depth--;
	}
}

/** Takes what is sound out of a broken document. */
function salvage(raw: Record<string, unknown>): Opened {
	const leftOut: string[] = [];
	const fresh = newDocument();
	const take = <T>(schema: z.ZodType<T>, from: unknown, what: string, otherwise: T): T => {
		const parsed = schema.safeParse(from);
		if (parsed.success) return parsed.data;
		if (from !== undefined) leftOut.push(`${what} could not be read (${firstIssue(parsed.error)}).`);
		return otherwise;
	};
	const rows = <T>(schema: z.ZodType<T>, from: unknown, what: (row: unknown, i: number) => string): T[] => {
		if (!Array.isArray(from)) return [];
		return from.slice(0, 20_000).flatMap((row, i) => {
			const parsed = schema.safeParse(row);
			if (parsed.success) return [parsed.data];
			leftOut.push(`${what(row, i)} was left out: ${firstIssue(parsed.error)}.`);
			return [];
		});
	};
	const main = ((raw.graphs as Record<string, unknown> | undefined)?.main ?? {}) as Record<string, unknown>;
	const nodes = (Array.isArray(main.nodes) ? main.nodes : []).slice(0, 5000).flatMap((row: unknown, i) => {
		const parsed = nodeSchema.safeParse(row);
		if (parsed.success) return [parsed.data];
		// Settings are tried one by one, so that one bad number does not cost the node.
		const given = (row ?? {}) as Record<string, unknown>;
		const settings: Record<string, Setting> = {};
		const entries =
			typeof given.settings === 'object' && given.settings ? Object.entries(given.settings) : [];
		const label = typeof given.short === 'string' ? given.short : `number ${i + 1}`;
		for (const [key, value] of entries) {
			const one = setting.safeParse(value);
			if (one.success) settings[key] = one.data;
			else leftOut.push(`The setting “${key}” of node ${label} was left out: ${firstIssue(one.error)}.`);
		}
		const again = nodeSchema.safeParse({
			...given,
			settings,
			at: Array.isArray(given.at) ? given.at : [i * 40, i * 40],
			stream: given.stream ?? newStream()
		});
		if (again.success) return [again.data];
		leftOut.push(`Node ${label} was left out: ${firstIssue(again.error)}.`);
		return [];
	});
	const document: GeneratorDocument = {
		...fresh,
		name: take(name, raw.name, 'The name', fresh.name),
		seed: take(documentSchema.shape.seed, raw.seed, 'The seed', fresh.seed),
		assets: take(documentSchema.shape.assets, raw.assets, 'The list of assets', {}),
		view: take(viewSchema, raw.view, 'What is shown in the View', fresh.view),
		graphs: {
			main: {
				nodes,
				wires: rows(wireSchema, main.wires, (_, i) => `Wire ${i + 1}`),
				notes: rows(noteSchema, main.notes, (_, i) => `Note ${i + 1}`)
			}
		}
	};
	return mend(document, leftOut);
}

const firstIssue = (error: z.ZodError): string => {
	const issue = error.issues[0];
	return `${issue.path.length ? issue.path.join('.') + ': ' : ''}${issue.message.toLowerCase()}`;
};

/** Takes out what refers to nothing, and makes names unique. */
function mend(document: GeneratorDocument, leftOut: string[]): Opened {
	const ids = new Set<string>();
	const shorts = new Set<string>();
	const graph = document.graphs.main;
	const nodes: GraphNode[] = [];
	for (const node of graph.nodes) {
		const kind = nodeKinds.get(node.kind);
		if (!kind) {
			leftOut.push(`Node ${node.short} was left out: there is no kind of node “${node.kind.slice(0, 60)}”.`);
			continue;
		}
		if (ids.has(node.id)) {
			leftOut.push(`Node ${node.short} was left out: another has the same id.`);
			continue;
		}
		ids.add(node.id);
		let short = node.short;
		for (let n = 2; shorts.has(short); n++) short = `${node.short}${n}`;
		if (short !== node.short) leftOut.push(`Two nodes were called ${node.short}; one is now ${short}.`);
		shorts.add(short);
		if (node.version > kind.version)
			leftOut.push(`Node ${short} was made with a newer version of “${kind.name}”; the result may differ.`);
		nodes.push(short === node.short ? node : { ...node, short });
	}
	const byId = new Map(nodes.map((node) => [node.id, node]));
	const wires = graph.wires.filter((wire) => {
		const from = byId.get(wire.from[0]),
			to = byId.get(wire.to[0]);
		const leaves = from && Object.hasOwn(nodeKinds.get(from.kind)!.outputs, wire.from[1]);
		const arrives =
			to &&
			(Object.hasOwn(nodeKinds.get(to.kind)!.inputs, wire.to[1]) ||
				to.inputs?.some((own) => own.name === wire.to[1]));
		if (leaves && arrives) return true;
		leftOut.push(
			`A wire to ${to?.short ?? 'a node'} (${wire.to[1].slice(0, 40)}) was left out: one of its ends is missing.`
		);
		return false;
	});
	const present = (list: string[]) => list.filter((one) => ids.has(one));
	const { heat, ...rest } = document.view;
	return {
		document: {
			...document,
			graphs: { main: { ...graph, nodes, wires } },
			view: {
				...rest,
				...(heat && ids.has(heat[0]) && { heat }),
				shown: present(document.view.shown),
				ghosts: present(document.view.ghosts)
			}
		},
		leftOut
	};
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
