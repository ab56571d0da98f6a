/** A job: a generator opened, some of its settings overridden, evaluated, exported and reported on. The document stays as it is. */
import { NodeError } from '../math/index.ts';
import type { Bounds, Counts, Geometry } from '../geometry/index.ts';
import { areaOf, countPlacings, digestOf, edgesOf, lengthOf, volumeOf } from '../geometry/index.ts';
import type { CameraShot } from '../formats/index.ts';
import { unpackGenerator } from '../formats/index.ts';
import type { Begun, GeneratorDocument, NodeResult, Setting } from '../engine/index.ts';
import {
	DETAILS,
	Evaluator,
	atDetail,
	cameraSeen,
	isGeometry,
	openDocument,
	resultNode,
	settled,
	withGraph,
	withValue
} from '../engine/index.ts';
import type { ExportOptions } from './export.ts';
import { exportFiles } from './export.ts';

/** A generator as a job opens it. */
export interface OpenedFile {
	document: GeneratorDocument;
	assets: ReadonlyMap<string, Uint8Array>;
	/** What could not be read, as sentences. */
	leftOut: readonly string[];
}

/** Opens a generator from the bytes of its file. Throws NodeError. */
export function openFile(bytes: Uint8Array, name: string): OpenedFile {
	const { text, assets, leftOut } = unpackGenerator(bytes, name);
	const opened = openDocument(text);
	return { document: opened.document, assets, leftOut: [...leftOut, ...opened.leftOut] };
}

/** A setting that a job overrides: the node by its id. */
export interface Override {
	node: string;
	setting: string;
	value: Setting;
}

export interface JobOptions {
	/** In place of the document's own. */
	seed?: number;
	/** The first, where nothing is said. */
	frame?: number;
	/** One that has evaluated other frames of the same file, and remembers what they need. */
	evaluator?: Evaluator;
	overrides?: readonly Override[];
	/** Bytes that may be held and worked with. */
	memory?: number;
	/** The longest that one node may take. */
	seconds?: number;
	/** Asked all the while; may throw `Stopped`. */
	poll?: () => void;
}

/** What is told of one node. */
export interface NodeLine {
	node: string;
	kind: string;
	state: NodeResult['state'];
	counts: Counts | null;
	bounds: Bounds | null;
	/** Square metres of its faces, cubic metres where every edge has two of them, and metres of its curves; copies are not counted. */
	area: number | null;
	volume: number | null;
	length: number | null;
	milliseconds: number;
	warnings: readonly string[];
	error: string | null;
}

export interface JobReport {
	nodes: readonly NodeLine[];
	/** The digest of the result; null where there is none. */
	hash: string | null;
	/** How many things the result places. */
	objects: number;
	/** The result; null where there is none. */
	geometry: Geometry | null;
	/** What the generator's cameras see. */
	cameras: readonly CameraShot[];
	/** Writes the result as files, named by their endings. Null where there is no result. */
	write: ((options: ExportOptions) => { name: string; bytes: Uint8Array }[]) | null;
}

/** What evaluates a file, frame after frame. */
export const evaluatorFor = (
	{ document, assets }: Pick<OpenedFile, 'document' | 'assets'>,
	{ memory = 8e9, seconds = 600, poll }: JobOptions = {}
): Evaluator =>
	new Evaluator({
		memory,
		seconds,
		poll,
		asset: (hash) => {
			const bytes = assets.get(hash);
			return bytes ? { hash, bytes, name: document.assets[hash]?.name ?? hash } : null;
		}
	});

/** Evaluates what a generator shows when it is opened: its Result, or else the last node. Throws NodeError where it is empty. */
export function runJob({ document, assets }: OpenedFile, options: JobOptions = {}): JobReport {
	const { seed, frame, overrides = [], evaluator = evaluatorFor({ document, assets }, options) } = options;
	const target = resultNode(document);
	if (!target) throw new NodeError('The generator is empty: add a node and wire it to Result.');
	const overridden = overrides.reduce(
		(made, { node, setting, value }) =>
			settled(
				withGraph(made, 'main', (graph) => withValue(graph, node, setting, value)),
				made
			),
		document
	);
	const begun = evaluator.begin(overridden, { seed, frame });
	const { results } = begun.pull([target.id]);
	const made = results.get(target.id)!;
	const isThere = made.state === 'fresh' || made.state === 'bypassed';
	const geometry = isThere ? ([...made.outputs.values()].find(isGeometry) ?? null) : null;
	const nodes = [...results.values()].map((result) => evaluator.ledger.work(() => lineOf(result, document)));
	const cameras = camerasIn(overridden, begun);
	return {
		nodes,
		cameras,
		...(geometry
			? told(geometry, evaluator, { cameras, object: objectOf(document) })
			: { geometry, hash: null, objects: 0, write: null })
	};
}

/** What the cameras of the main graph see; those that see nothing are left out. */
function camerasIn({ graphs }: GeneratorDocument, begun: Begun): CameraShot[] {
	const all = graphs.main.nodes.filter(({ kind, bypassed }) => kind === 'camera' && !bypassed);
	if (!all.length) return [];
	const { results } = begun.pull(all.map(({ id }) => id));
	return all.flatMap(({ id, short }) => {
		const seen = cameraSeen(results.get(id));
		return seen ? [{ name: short, ...seen }] : [];
	});
}

/** What a generator makes, as the node is called that is wired to its Result, where that is one. */
export function objectOf(document: GeneratorDocument, node = resultNode(document)?.id): string {
	const { nodes, wires } = document.graphs.main;
	const shortOf = (id: string | undefined) => nodes.find((one) => one.id === id)?.short ?? '';
	const into = wires.filter(({ to }) => to[0] === node);
	const isResult = nodes.some(({ id, kind }) => id === node && kind === 'result');
	return shortOf(isResult && into.length === 1 ? into[0].from[0] : node);
}

/** What the cameras of a generator see at a frame. */
export const camerasOf = (file: OpenedFile, options: JobOptions = {}): CameraShot[] =>
	camerasIn(file.document, evaluatorFor(file, options).begin(file.document, options));

/**
 * The result at each level of detail, each as files of its own, with the level in their names. Throws NodeError where a
 * level has no result.
 */
export function exportDetails(
	file: OpenedFile,
	options: JobOptions,
	wanted: ExportOptions
): { name: string; bytes: Uint8Array }[] {
	return DETAILS.flatMap((detail) => {
		const mark = `-detail-${detail}`;
		const { write, nodes } = runJob({ ...file, document: atDetail(file.document, detail) }, options);
		if (!write) {
			const failed = nodes.find(({ error }) => error);
			throw new NodeError(
				`At level of detail ${detail} there is no result.${failed ? ` ${failed.node}: ${failed.error}` : ''}`
			);
		}
		return write({ ...wanted, name: wanted.name + mark }).map(({ name, bytes }) => ({
			name: mark + name,
			bytes
		}));
	});
}

const told = (
	geometry: Geometry,
	{ ledger }: Evaluator,
	also: Pick<ExportOptions, 'cameras' | 'object'>
) => ({
	geometry,
	hash: ledger.work(() => digestOf(geometry)),
	objects: countPlacings(geometry),
	write: (options: ExportOptions) => ledger.work(() => exportFiles(geometry, { ...also, ...options }))
});

function lineOf(result: NodeResult, document: GeneratorDocument): NodeLine {
	const node = document.graphs.main.nodes.find(({ id }) => id === result.id)!;
	return {
		node: node.short,
		kind: node.kind,
		state: result.state,
		counts: result.counts,
		bounds: result.bounds,
		...sizesOf([...result.outputs.values()].find(isGeometry)),
		milliseconds: Math.round(result.milliseconds * 1000) / 1000,
		warnings: result.warnings.map(({ message }) => message),
		error: result.error?.message ?? null
	};
}

/** Sizes that others can check. */
function sizesOf(geometry: Geometry | undefined): Pick<NodeLine, 'area' | 'volume' | 'length'> {
	const mesh = geometry?.mesh;
	const isClosed = !!mesh?.faces.count && edgesOf(mesh.topology).uses.every((uses) => uses === 2);
	return {
		area: mesh ? areaOf(geometry) : null,
		volume: isClosed ? volumeOf(mesh) : null,
		length: geometry?.curves ? lengthOf(geometry) : null
	};
}
