/**
 * An open generator at work: takes patches and questions, answers with reports and packets. It knows neither a page nor a
 * worker; `say` brings its answers to whoever asked.
 */
import { Stopped } from '../math/index.ts';
import type { Asset, Geometry, Table } from '../geometry/index.ts';
import { derive, digestOf, sizeOf } from '../geometry/index.ts';
import type { GeneratorDocument, NodeResult } from '../engine/index.ts';
import { Evaluator, bodyNameOf, cameraSeen, isGeometry, isVarying, withDrafts } from '../engine/index.ts';
import type { Step } from '../engine/evaluate.ts';
import * as varying from '../varying/index.ts';
import { Heat } from './heat.ts';
import { valueInWords } from './in-words.ts';
import { KeptFrames } from './kept-frames.ts';
import type { JobOptions, OpenedFile } from './job.ts';
import { camerasOf, exportDetails } from './job.ts';
import { UNSAID } from './look.ts';
import type { Answer, NodeReport, Request } from './messages.ts';
import type { Drawn } from './packets.ts';
import { Packer, boundsOfDrawn } from './packets.ts';
import { patched } from './patches.ts';
import type { Askable, Looked } from './questions.ts';
import { answerTo } from './questions.ts';
import { AT_WORK, BEAT, STOP } from './shared-words.ts';
import { TableReader } from './table-reader.ts';

export interface SessionOptions {
	/** Brings an answer to whoever asked. */
	say: (answer: Answer) => void;
	/** Columns in shared memory. */
	shared?: boolean;
	/** Bytes that may be held and worked with. */
	memory?: number;
	/** The longest that one node may take. */
	seconds?: number;
}

/** Results up to this many bytes get a digest at every evaluation. */
const DIGESTED = 50e6;
/** Milliseconds between two words on how far a node is. */
const BETWEEN_PROGRESS = 100;

export class Session {
	readonly evaluator: Evaluator;
	readonly #say: (answer: Answer) => void;
	readonly #memory: number;
	readonly #seconds: number;
	readonly #assets = new Map<string, Asset>();
	readonly #kept = new KeptFrames();
	#packer: Packer;
	readonly #reader: TableReader;
	#shared: Int32Array | null = null;
	#document: GeneratorDocument | null = null;
	#revision = 0;
	#isEvaluating = false;
	#lastProgress = 0;
	/** The graph that is edited, by its id, and what came of its nodes. */
	#edited: Looked = NOTHING;
	/** The same of the graph that the View shows. */
	#viewed: Looked = NOTHING;
	#heat: Heat | null = null;

	constructor({ say, shared = false, memory = 2e9, seconds = 120 }: SessionOptions) {
		this.#memory = memory;
		this.#seconds = seconds;
		this.#say = say;
		this.evaluator = new Evaluator({
			memory,
			shared,
			seconds,
			asset: (hash) => this.#assets.get(hash) ?? null,
			poll: () => this.#poll(),
			progress: (node, share) => this.#progress(node, share),
			begins: (node) => this.#begins(node),
			dropped: (key) => this.#kept.dropped(key)
		});
		this.#packer = new Packer(this.evaluator.ledger);
		this.#reader = new TableReader(this.evaluator.ledger);
	}

	/** Takes a request. What an artist can mend is answered; anything else is thrown. */
	take(request: Request): void {
		try {
			this.#answer(request);
		} catch (error) {
			if (!('ask' in request)) throw error;
			this.#say({ kind: 'refused', ask: request.ask, message: (error as Error).message });
		}
	}

	#answer(request: Request): void {
		switch (request.kind) {
			case 'start':
				this.#shared = request.stop;
				this.#packer.close();
				this.#packer = new Packer(this.evaluator.ledger, request.name);
				break;
			case 'asset':
				this.#takeAsset(request.asset);
				break;
			case 'forget':
				for (const hash of request.assets) this.#forgetAsset(hash);
				break;
			case 'evaluate':
				this.#evaluate(request);
				break;
			default:
				this.#say(this.evaluator.ledger.work(() => answerTo(request, this.#askable())));
		}
	}

	/** An imported file counts in the ledger, with all that is read from it. */
	#takeAsset(asset: Asset): void {
		if (this.#assets.has(asset.hash)) return;
		this.#assets.set(asset.hash, asset);
		this.evaluator.ledger.hold(asset.bytes, asset.bytes.byteLength);
	}
	#forgetAsset(hash: string): void {
		const asset = this.#assets.get(hash);
		if (!asset) return;
		this.#assets.delete(hash);
		this.evaluator.ledger.letGo(asset.bytes);
	}

	/** What questions are answered from. */
	#askable(): Askable {
		return {
			document: this.#document,
			edited: this.#edited,
			viewed: this.#viewed,
			reader: this.#reader,
			geometryOf: (id) => this.#geometryOf(id),
			exportDetails: (wanted) => exportDetails(...this.#apart(), wanted),
			cameras: () => camerasOf(...this.#apart())
		};
	}

	/** The generator, to be evaluated apart from what is looked at, which stays as it is. */
	#apart(): [OpenedFile, JobOptions] {
		const assets = new Map([...this.#assets].map(([hash, { bytes }]) => [hash, bytes]));
		// What is looked at stays; the other levels take what is left.
		const memory = this.#memory - this.evaluator.ledger.held;
		const { frame } = this.#viewed;
		const options = { memory, seconds: this.#seconds, frame, poll: () => this.#poll() };
		return [{ document: this.#document!, assets, leftOut: [] }, options];
	}

	#evaluate(request: Extract<Request, { kind: 'evaluate' }>): void {
		const { revision } = request;
		const { shown, ghosts, heat, wireframe, into, inside, dragged, frame, camera } = {
			...UNSAID,
			...request.look
		};
		this.#revision = revision;
		this.#isEvaluating = true;
		const began = performance.now();
		try {
			this.#document = patched(this.#document, request.patch);
			// Where only time goes on, of large results only those are measured that are seen.
			const isPlaying = !Object.keys(request.patch).length && frame !== this.#viewed.frame;
			const report = (result: NodeResult): NodeReport =>
				reportOf(result, !isPlaying || shown.includes(result.id) || !isLarge(result));
			const document = dragged ? withDrafts(this.#document, dragged) : this.#document;
			const isDraft = document !== this.#document;
			const run = this.evaluator.begin(document, { ended: request.ended, into, frame });
			const isInside = inside && into.length > 0;
			const cameras = document.graphs.main.nodes.filter(({ id }) => id === camera).map(({ id }) => id);
			const first = run.pull([
				...cameras,
				...(isInside ? [into[0].node] : [...shown, ...ghosts, ...(heat?.[0] ? [heat[0]] : [])])
			]);
			const found = isInside ? (run.inside()?.scope.results ?? new Map<string, NodeResult>()) : first.results;
			const editedId = graphOn(document, into);
			const viewedId = isInside ? editedId : 'main';
			const before = this.#viewed.graph === viewedId ? this.#viewed.results : NOTHING.results;
			this.#viewed = { graph: viewedId, results: new Map([...before, ...found]), frame };
			if (viewedId === editedId) this.#edited = this.#viewed;
			// What comes now is no node's work.
			this.#begins('');
			const drawn = this.#drawn(found, shown, ghosts);
			const packet = this.#packer.pack(drawn, wireframe, this.#heatOf(heat, drawn));
			this.#say({
				kind: 'picture',
				revision,
				reports: [...found.values()].map(report),
				packet,
				bounds: boundsOfDrawn(drawn),
				seen: camera === null ? null : cameraSeen(first.results.get(camera)),
				draft: isDraft,
				ran: first.ran.length,
				seconds: (performance.now() - began) / 1000
			});
			if (Object.keys(request.patch).length) this.#kept.clear();
			const firstRan = first.ran.length;
			const rest = run.pull(document.graphs.main.nodes.map((node) => node.id));
			if (frame !== undefined && !isDraft) this.#kept.add(frame, rest.results.values());
			const looked = run.inside();
			const edited = into.length ? (looked?.scope.results ?? NOTHING.results) : rest.results;
			this.#edited = { graph: editedId, results: edited, frame, scope: looked?.scope };
			this.#viewed = viewedId === editedId ? this.#edited : { graph: 'main', results: rest.results, frame };
			const main = drawn.filter(({ ghost }) => !ghost);
			const whole = main.length === 1 ? main[0].geometry : null;
			this.#say({
				kind: 'reports',
				revision,
				hash: whole && !isDraft && sizeOf(whole) < DIGESTED ? digestOf(whole) : null,
				reports: [...edited.values()].map(report),
				viewed: viewedId === editedId ? null : [...rest.results.values()].map(report),
				inside: looked && { place: looked.place, places: looked.places },
				kept: this.#kept.runs(),
				ran: firstRan + rest.ran.length
			});
		} catch (error) {
			if (error instanceof Stopped) this.#say({ kind: 'stopped', revision });
			else this.#say({ kind: 'failed', revision, message: (error as Error).message });
		} finally {
			this.#isEvaluating = false;
			this.#begins('');
		}
	}

	/** A failed node leaves the last good picture standing: nothing is sent for it, and the page is told. */
	#drawn(
		results: ReadonlyMap<string, NodeResult>,
		shown: readonly string[],
		ghosts: readonly string[]
	): Drawn[] {
		return [
			...shown.map((node) => ({ node, ghost: false })),
			...ghosts.map((node) => ({ node, ghost: true }))
		].flatMap(({ node, ghost }) => {
			const geometry = results.has(node) && this.#geometryOf(node);
			return geometry ? [{ node, geometry, ghost }] : [];
		});
	}

	#heatOf(heat: readonly [string, string] | null, drawn: readonly Drawn[]): Heat | null {
		const value =
			heat && (heat[0] ? this.#viewed.results.get(heat[0])?.outputs.get(heat[1]) : valueOf(heat[1]));
		if (!value || !isVarying(value)) this.#heat = null;
		else if (this.#heat?.value !== value.hash) this.#heat = new Heat(value);
		const own = this.#heat;
		// Outputs are looked at from 0 to 1, formulas from the least to the greatest.
		const fitted = heat?.[0] ? [] : drawn.filter(({ ghost }) => !ghost).map(({ geometry }) => geometry);
		if (own) this.evaluator.ledger.work(() => own.fit(fitted));
		return this.#heat;
	}

	#geometryOf(id: string): Geometry | null {
		const outputs = this.#viewed.results.get(id)?.outputs;
		return outputs ? ([...outputs.values()].find(isGeometry) ?? null) : null;
	}

	#poll(): void {
		if (!this.#shared) return;
		Atomics.add(this.#shared, BEAT, 1);
		// A stop is meant for an evaluation: what is asked about its results is answered.
		if (this.#isEvaluating && Atomics.load(this.#shared, STOP) >= this.#revision) throw new Stopped();
	}

	#begins(node: string): void {
		// Only what goes on for a while is told of.
		this.#lastProgress = performance.now();
		if (!this.#shared) return;
		const place = this.#document?.graphs.main.nodes.findIndex(({ id }) => id === node) ?? -1;
		Atomics.store(this.#shared, AT_WORK, place + 1);
	}

	#progress(node: string, share: number): void {
		const now = performance.now();
		if (now - this.#lastProgress < BETWEEN_PROGRESS) return;
		this.#lastProgress = now;
		this.#say({ kind: 'progress', revision: this.#revision, node, share });
	}
}

const NOTHING: Looked = { graph: 'main', results: new Map() };

/** The graph to which a way of uses leads. */
function graphOn(document: GeneratorDocument, into: readonly Step[]): string {
	let graph = 'main';
	for (const { node: id } of into) {
		const node = document.graphs[graph]?.nodes.find((one) => one.id === id);
		graph = (node && bodyNameOf(node)) || graph;
	}
	return graph;
}

/** What a formula says of the elements that are shown; null where it says nothing. */
function valueOf(formula: string): varying.Varying | null {
	try {
		return varying.parseCondition(formula, []);
	} catch {
		return null;
	}
}

function reportOf(result: NodeResult, isBounded = true): NodeReport {
	const { id, state, counts, milliseconds, warnings, error, outputs } = result;
	const first = counts ? undefined : outputs.values().next().value;
	const value = first && !isGeometry(first) ? valueInWords(first).short : null;
	const values = valuesOf(outputs);
	const geometry = counts && [...outputs.values()].find(isGeometry);
	const shapes = geometry && geometry.copies ? geometry.copies.sources.length : 0;
	const hidden = geometry && geometry.copies ? hiddenIn(geometry.copies.copies) : 0;
	const told = {
		...{ id, state, counts, shapes, hidden, value, milliseconds, warnings, error },
		...(values && { values })
	};
	return isBounded ? { ...told, bounds: result.bounds } : told;
}

/** What each of several outputs is, where some of them are one value. */
function valuesOf(outputs: NodeResult['outputs']): NodeReport['values'] {
	const values = [...outputs].flatMap(([name, value]) => (isGeometry(value) ? [] : [[name, value] as const]));
	if (values.length < 2 || !values.some(([, value]) => isVarying(value) && value.constant)) return undefined;
	return values.map(([name, value]) => [name, valueInWords(value).short] as const);
}

/** How many copies are not shown; counted once for each table. */
function hiddenIn(copies: Table): number {
	const shown = copies.columns.get('shown');
	if (!shown) return 0;
	return derive(shown, 'hidden', () => {
		let hidden = 0;
		for (const one of shown.data) if (!one) hidden++;
		return hidden;
	});
}

/** Elements from which on measuring takes its time. */
const LARGE = 2000;
const isLarge = ({ counts }: NodeResult): boolean => (counts?.copies ?? 0) + (counts?.points ?? 0) > LARGE;
