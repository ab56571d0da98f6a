/** A generator as a document: its schema, and what its settings may be. */
import { z } from 'zod';
import { EASINGS } from '../varying/index.ts';

// Zod's fast path calls `Function`, which the page's policy forbids.
z.config({ jitless: true });

export const FORMAT = 'embrell';
export const VERSION = 5;

const finite = z.number().refine(Number.isFinite);
const stream = z.string().min(1).max(400);
/** The stream of a use whose body draws the same numbers as if it stood outside: what was made of nodes keeps theirs. */
export const NO_STEP = '-';
/** What turns lines, or the direction of reading, is no part of a name: a list of names stays a list. */
const UNSEEN = /[\p{Cc}\u2028\u2029\u202a-\u202e\u2066-\u2069]+/gu;
export const nameSchema = z
	.string()
	.max(200)
	.transform((name) => name.replace(UNSEEN, ' '));
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
export const scalarSetting = z.union([finite, randomRange, formulaSetting]);
const unit = finite.min(0).max(1);
/** Numbers or colours at places from 0 to 1. */
export const rampSetting = z.object({
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
export const pathSetting = z.object({
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
export const textSetting = z.string().max(20_000);
/** What a dial of the kind material holds: one row of a Material node. */
export const materialSetting = z.object({
	material: z.object({
		name: textSetting,
		colour: z.tuple([finite, finite, finite]),
		roughness: unit,
		metallic: unit,
		twoSided: z.boolean()
	})
});
/** What one key holds. */
export const keyValue = z.union([
	finite,
	randomRange,
	rampSetting,
	z.boolean(),
	textSetting,
	z.tuple([finite, finite, finite])
]);
/** How a keyed setting goes on before its first key and after its last. */
const KEY_ENDS = ['hold', 'loop', 'on', 'back'] as const;
const keySchema = z.object({
	/** The frame; between two frames too. */
	at: finite,
	value: keyValue,
	/** How it goes on from here to the next key. */
	easing: z.enum(EASINGS),
	/** The two handles of a Bézier easing, as shares of the way along and of the way up. */
	handles: z.tuple([unit, finite, unit, finite]).optional()
});
const isNumber = (value: unknown): boolean => typeof value === 'number' && Number.isFinite(value);
/** Whether a key is as nearly all are: numbers, and nothing else. The schema would need fifty times as long to say so. */
function isPlainKey(key: unknown): boolean {
	if (typeof key !== 'object' || key === null || Object.keys(key).length !== 3) return false;
	const { at, value, easing } = key as Record<string, unknown>;
	const isPlain = isNumber(value) || (Array.isArray(value) && value.length === 3 && value.every(isNumber));
	return isNumber(at) && isPlain && EASINGS.some((one) => one === easing);
}
/** A setting that changes with time: what it is at frames, and how it goes from one to the next. */
const keysSetting = z.object({
	keys: z
		.array(z.union([z.custom<z.infer<typeof keySchema>>(isPlainKey), keySchema]))
		.min(1)
		.max(10_000),
	/** Left out: it holds. */
	before: z.enum(KEY_ENDS).optional(),
	after: z.enum(KEY_ENDS).optional()
});
/** One part of a vector: it may have keys of its own. */
const partSetting = z.union([scalarSetting, keysSetting]);
export const settingSchema = z.union([
	scalarSetting,
	rampSetting,
	pathSetting,
	materialSetting,
	keysSetting,
	z.boolean(),
	textSetting,
	z.tuple([partSetting, partSetting, partSetting])
]);

/** The frames of a generator. */
export const framesSchema = z.object({
	/** Frames a second. */
	rate: finite.min(0.01).max(1000),
	first: z.number().int().min(-1_000_000).max(1_000_000),
	last: z.number().int().min(-1_000_000).max(1_000_000)
});

/** Never a name such as __proto__: it begins with a letter. */
const settingName = z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,60}$/);

/** A setting, or one part of a vector. */
const settingPath = z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,60}(\.[xyz])?$/);

/** What formulas call a dial: `dial.key`. */
const DIAL_KEY = /^[a-zA-Z][a-zA-Z0-9]{0,60}$/;
export const dialKey = z.string().regex(DIAL_KEY);

const portSchema = z.object({
	name: settingName,
	carries: z.enum(['geometry', 'number', 'whole', 'yesno', 'vector', 'colour', 'value', 'list', 'ramp']),
	/** What stands there where nothing arrives. */
	default: z.union([finite, z.tuple([finite, finite, finite])]).optional(),
	min: finite.optional(),
	max: finite.optional(),
	unit: z.string().max(8).optional(),
	help: z.string().max(500).optional(),
	/**
	 * In a repeat. Inputs: what came out by the same name goes in again, the same in each pass (also where nothing is said),
	 * or one value a pass. Outputs: the last (also where nothing is said), all passes in one, or whether it ends.
	 */
	role: z.enum(['carried', 'same', 'counted', 'last', 'gathered', 'ends']).optional()
});

export const nodeSchema = z.object({
	id,
	kind: z.string().max(80),
	/** Version of the kind with which the node was made. */
	version: z.number().int().min(1).default(1),
	/** Unique in its graph; formulas refer to it. */
	short: z.string().regex(/^[\p{L}_][\p{L}\p{N}_]{0,60}$/u),
	title: nameSchema.optional(),
	at: z.tuple([finite, finite]),
	settings: z.record(settingName, settingSchema).default({}),
	/** Inputs that the artist declared, with their values. */
	inputs: z
		.array(z.object({ name: z.string().regex(/^[\p{L}_][\p{L}\p{N}_]{0,60}$/u), value: finite }))
		.max(40)
		.optional(),
	/** What goes in and out, where a node has ports of its own: as its body says. */
	ports: z.object({ inputs: z.array(portSchema).max(100), outputs: z.array(portSchema).max(100) }).optional(),
	/** Settings kept open on the node in the graph. */
	pinned: z.array(z.string().max(80)).max(80).optional(),
	/** Whole numbers that stand in for settings while something is dragged, by the names of the settings. */
	drafts: z.record(settingName, finite).optional(),
	/** Settings, and parts of vectors, that dials have in hand, with the key of each dial. */
	dials: z.record(settingPath, dialKey).optional(),
	bypassed: z.boolean().optional(),
	/** Names the node's own randomness, so that no two nodes share it. */
	stream
});
export const wireSchema = z.object({
	from: z.tuple([id, z.string().max(80)]),
	to: z.tuple([id, z.string().max(80)]),
	/** Places through which it is led on the graph's ground, from its output to its input. */
	bends: z
		.array(z.tuple([finite, finite]))
		.max(20)
		.optional()
});
export const noteSchema = z.object({
	id,
	at: z.tuple([finite, finite]),
	text: z.string().max(5000),
	width: finite.optional()
});
/** The id of a body: it begins with a letter, so that it is never a name such as __proto__. */
export const bodyId = z.string().regex(/^[A-Za-z][A-Za-z0-9_-]{0,39}$/);
export const MOST_BODIES = 1000;

const graphSchema = z.object({
	/** The name of a body. */
	name: nameSchema.optional(),
	nodes: z.array(nodeSchema).max(5000),
	/** In order: where an input takes several wires, they arrive so. */
	wires: z.array(wireSchema).max(20_000),
	notes: z.array(noteSchema).max(2000).default([]),
	/** Of a body that is a whole generator: its presets, as settings of its uses. */
	presets: z
		.array(z.object({ name: nameSchema, values: z.record(settingName, settingSchema) }))
		.max(500)
		.optional(),
	/** Of a body that lies on the artist's shelf: which it is there, and as of which version. */
	shelf: z
		.object({ id: z.string().regex(/^[A-Za-z0-9_-]{1,40}$/), version: z.number().int().min(1) })
		.optional()
});
const DIAL_KINDS = [
	'number',
	'whole',
	'yesno',
	'choice',
	'colour',
	'text',
	'vector',
	'ramp',
	'material'
] as const;
/** A setting that is handed to the generator's users. */
export const dialSchema = z.object({
	key: dialKey,
	name: nameSchema,
	kind: z.enum(DIAL_KINDS),
	/** A number may be a random range. */
	value: settingSchema,
	/** What it goes back to. */
	start: settingSchema,
	help: z.string().max(1000).optional(),
	unit: z.string().max(12).optional(),
	/** The ends of its slider. */
	low: finite.optional(),
	high: finite.optional(),
	/** What it can never pass. */
	min: finite.optional(),
	max: finite.optional(),
	step: finite.optional(),
	group: nameSchema.optional(),
	/** Presets and kept variations leave it as it is. */
	leftOut: z.boolean().optional(),
	/** A condition over other dials: it is shown only where that holds. */
	shownIf: z.string().max(4000).optional(),
	options: z
		.array(z.object({ id: z.string().max(80), label: nameSchema }))
		.max(200)
		.optional()
});
/** A setting, one part of it where it is a vector, or a dial. */
const tieEndSchema = z.union([
	z.object({ dial: dialKey }),
	z.object({
		graph: z.string().max(40),
		node: id,
		setting: settingName,
		part: z.number().int().min(0).max(2).optional()
	})
]);
/** Two settings bound both ways. In each equation `x` is the other end. */
export const tieSchema = z.object({
	id,
	a: tieEndSchema,
	b: tieEndSchema,
	/** What b is, of a. */
	toB: z.string().max(1000),
	/** What a is, of b. */
	toA: z.string().max(1000)
});
/** Whether values of dials are as nearly all are: plain numbers. The schema would need thirty times as long to say so. */
function isPlainValues(values: unknown): boolean {
	if (typeof values !== 'object' || values === null || Array.isArray(values)) return false;
	for (const [key, value] of Object.entries(values))
		if (!isNumber(value) || !DIAL_KEY.test(key)) return false;
	return true;
}
const dialValues = z.union([
	z.custom<Record<string, z.infer<typeof settingSchema>>>(isPlainValues),
	z.record(dialKey, settingSchema)
]);
/** A node in whose place users put a curve, a mesh or an image of their own. */
export const slotSchema = z.object({
	key: dialKey,
	name: nameSchema,
	takes: z.enum(['curve', 'mesh', 'image']),
	help: z.string().max(1000).optional(),
	/** A node of the main graph: what it makes stands there until a user brings something. */
	node: id
});
/** What stands in a slot: a kind of node, its settings, and what is wired to it. */
export const slotContentSchema = z.object({
	kind: z.string().max(80),
	settings: nodeSchema.shape.settings,
	wires: z.array(wireSchema).max(200).optional()
});
/** Dials as they were set once, with a name. */
export const presetSchema = z.object({
	id,
	name: nameSchema,
	says: z.string().max(2000).optional(),
	/** The digest of its picture among the assets. */
	picture: z
		.string()
		.regex(/^[0-9a-f]{32,64}$/)
		.optional(),
	values: dialValues,
	/** What stands in slots, where the preset holds that too. */
	slots: z.record(dialKey, slotContentSchema).optional()
});
/** A seed, with dials, that somebody liked. */
export const keptSchema = z.object({
	id,
	name: nameSchema,
	picture: z
		.string()
		.regex(/^[0-9a-f]{32,64}$/)
		.optional(),
	seed: z.number().int().min(0).max(4294967295),
	values: dialValues,
	/** The preset it was made from. */
	preset: id.optional(),
	/** The digest of what it was when it was kept. */
	hash: z.string().max(64).optional()
});

const assetSchema = z.object({ name: nameSchema, bytes: z.number().int().min(0) });
/** What lies behind the result in the View. */
export const BACKGROUNDS = ['theme', 'paper', 'dusk', 'grey', 'white', 'sky'] as const;
export type Background = (typeof BACKGROUNDS)[number];
/** The light of the View: it changes nothing that is exported. */
export const lightSchema = z.object({
	/** Degrees of the sun above the horizon. */
	height: finite.min(5).max(90),
	/** Degrees clockwise from the north, which lies towards −z. */
	direction: finite.min(0).max(360),
	shadow: z.boolean(),
	/** Stops: one more doubles the light. */
	exposure: finite.min(-4).max(4)
});
export const viewSchema = z.object({
	shown: z.array(id).max(50).default([]),
	ghosts: z.array(id).max(50).default([]),
	/** An output (node and port) whose numbers colour what is shown. */
	/** An output whose numbers colour what is shown: node and port; or, with no node, a formula of the elements shown. */
	heat: z.tuple([z.union([id, z.literal('')]), z.string().max(80)]).optional(),
	background: z.enum(BACKGROUNDS).default('theme'),
	light: lightSchema.optional(),
	camera: z
		.object({ position: z.tuple([finite, finite, finite]), target: z.tuple([finite, finite, finite]) })
		.optional()
});

/** How many of each a generator has at most. */
export const MOST = {
	dials: 500,
	slots: 100,
	ties: 2000,
	presets: 500,
	kept: 2000,
	namedFrames: 500
} as const;

/** Frames that have names, such as where a gust begins. */
export const namedFramesSchema = z
	.array(z.object({ at: z.number().int(), name: nameSchema }))
	.max(MOST.namedFrames);

export const documentSchema = z.object({
	format: z.literal(FORMAT),
	version: z.literal(VERSION),
	name: nameSchema,
	seed: z.number().int().min(0).max(4294967295),
	unit: z.literal('m'),
	/** Left out: 24 a second, from 1 to 120. */
	frames: framesSchema
		.refine(({ first, last }) => first <= last, 'the last frame lies before the first')
		.optional(),
	namedFrames: namedFramesSchema.optional(),
	dials: z.array(dialSchema).max(MOST.dials).default([]),
	slots: z.array(slotSchema).max(MOST.slots).default([]),
	/** The main graph, and bodies by id. */
	graphs: z
		.object({ main: graphSchema })
		.catchall(graphSchema)
		.refine(
			(graphs) =>
				Object.keys(graphs).length <= MOST_BODIES + 1 &&
				Object.keys(graphs).every((id) => bodyId.safeParse(id).success),
			'the ids of subgraphs are letters, digits, _ and -'
		),
	ties: z.array(tieSchema).max(MOST.ties).default([]),
	presets: z.array(presetSchema).max(MOST.presets).default([]),
	/** The preset that was taken last. */
	preset: id.optional(),
	kept: z.array(keptSchema).max(MOST.kept).default([]),
	assets: z.record(z.string().regex(/^([0-9a-f]{32}|[0-9a-f]{64})$/), assetSchema).default({}),
	view: viewSchema
});

export type GeneratorDocument = z.infer<typeof documentSchema>;
export type GraphNode = z.infer<typeof nodeSchema>;
export type Dial = z.infer<typeof dialSchema>;
export type Tie = z.infer<typeof tieSchema>;
export type TieEnd = z.infer<typeof tieEndSchema>;
export type Preset = z.infer<typeof presetSchema>;
export type Slot = z.infer<typeof slotSchema>;
export type SlotContent = z.infer<typeof slotContentSchema>;
export type Kept = z.infer<typeof keptSchema>;
export type Wire = z.infer<typeof wireSchema>;
export type Note = z.infer<typeof noteSchema>;
export type Graph = z.infer<typeof graphSchema>;
export type Port = z.infer<typeof portSchema>;
export type Setting = z.infer<typeof settingSchema>;
export type Frames = z.infer<typeof framesSchema>;
export type KeysSetting = z.infer<typeof keysSetting>;
export type Key = KeysSetting['keys'][number];
export type PartSetting = z.infer<typeof partSetting>;
export type ScalarSetting = z.infer<typeof scalarSetting>;
export type RandomRange = z.infer<typeof randomRange>;
export type FormulaSetting = z.infer<typeof formulaSetting>;

export const isRange = (s: unknown): s is RandomRange =>
	typeof s === 'object' && s !== null && !Array.isArray(s) && ('low' in s || 'base' in s);
export const isFormula = (s: unknown): s is FormulaSetting =>
	typeof s === 'object' && s !== null && !Array.isArray(s) && 'formula' in s;
export const isRamp = (s: unknown): s is z.infer<typeof rampSetting> =>
	typeof s === 'object' && s !== null && 'stops' in s;
export const isKeys = (s: unknown): s is KeysSetting =>
	typeof s === 'object' && s !== null && !Array.isArray(s) && 'keys' in s;
/** Keys with other values. */
export const withKeyValues = (
	setting: KeysSetting,
	change: (value: Key['value']) => Setting
): KeysSetting => ({
	...setting,
	keys: setting.keys.map((key) => ({ ...key, value: change(key.value) as Key['value'] }))
});
/** A setting without its keys: what the first of them holds. */
export const withoutItsKeys = (setting: Setting): Setting =>
	isKeys(setting) ? setting.keys.reduce((a, b) => (b.at < a.at ? b : a)).value : setting;
export const isMaterial = (s: unknown): s is z.infer<typeof materialSetting> =>
	typeof s === 'object' && s !== null && 'material' in s;
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

/** The document with one of its graphs changed. The same object where nothing changes. */
export function withGraph(
	document: GeneratorDocument,
	id: string,
	make: (graph: Graph) => Graph
): GeneratorDocument {
	const before = document.graphs[id];
	const after = make(before);
	return after === before ? document : { ...document, graphs: { ...document.graphs, [id]: after } };
}

/** A graph with its nodes changed. The same object where none does. */
export function withNodes(graph: Graph, make: (node: GraphNode) => GraphNode): Graph {
	const nodes = graph.nodes.map(make);
	return nodes.some((node, i) => node !== graph.nodes[i]) ? { ...graph, nodes } : graph;
}

/** The document with all its graphs changed. The same object where none does. */
export const withEveryGraph = (
	document: GeneratorDocument,
	make: (graph: Graph, id: string) => Graph
): GeneratorDocument =>
	Object.keys(document.graphs).reduce(
		(made, id) => withGraph(made, id, (graph) => make(graph, id)),
		document
	);

/** The document with all its nodes changed, those of bodies too. */
export const withEveryNode = (
	document: GeneratorDocument,
	make: (node: GraphNode, graph: string) => GraphNode
): GeneratorDocument => withEveryGraph(document, (graph, id) => withNodes(graph, (node) => make(node, id)));

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
		view: { shown: [], ghosts: [], background: 'theme' }
	};
}
