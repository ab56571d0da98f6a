/** The page's side of the evaluation worker: one evaluation at a time, the newest edit next, and a Stop that works. */
import type { GeneratorDocument, Wire } from '$core/engine/index';
import type { Asset } from '$core/geometry/index';
import { hangsFrom, hangsFromSame, readAssets } from '$core/engine/index';
import type {
	Answer,
	AttributeInfo,
	FormulaLook,
	LookAsk,
	MarkName,
	Marks,
	Request,
	TableAsk,
	TableWindow,
	Why,
	WhyAsk
} from '$core/session/messages';
import type { Look } from '$core/session/look';
import type { ExportOptions } from '$core/session/export';
import { patchBetween } from '$core/session/patches';
import { AT_WORK, BEAT, STOP } from '$core/session/shared-words';

/** A page always knows its frame. */
export type PageLook = Look & { readonly frame: number };

export interface ClientEvents {
	answer(answer: Extract<Answer, { revision: number }>): void;
	/** The worker did not answer and was replaced; with the short name of the node it was at, where that is known. */
	restarted(node: string | null): void;
	busy(busy: boolean): void;
}

/** An evaluation that runs longer than this gives way to a newer edit. */
const GIVES_WAY = 700;
/** A worker that does not obey a stop for this long is ended. */
const OBEYS_WITHIN = 500;
/** So is one that says nothing of itself for this long, as in a library that cannot be asked. */
const SILENT_FOR = 10_000;
const LISTENS_EVERY = 500;

/** A worker that stands by, its script read and its loops compiled; made while the Library is looked at. */
let spare: Worker | null = null;
const newWorker = (): Worker =>
	new Worker(new URL('./evaluate.worker.ts', import.meta.url), { type: 'module' });

/** Makes a worker ready, where none stands by. */
export function warmWorker(): void {
	spare ??= newWorker();
}

export class EvaluationClient {
	readonly #events: ClientEvents;
	#worker!: Worker;
	#stop: Int32Array | null = null;
	#revision = 0;
	#running: { revision: number; since: number; document: GeneratorDocument; frame: number } | null = null;
	#pending: { document: GeneratorDocument; look: PageLook } | null = null;
	/** What was asked for last: asked for again where a worker was ended. */
	#last: { document: GeneratorDocument; look: PageLook } | null = null;
	#sent: GeneratorDocument | null = null;
	#assets = new Map<string, Asset>();
	/** Those that the worker has. */
	readonly #there = new Set<string>();
	#asked = 0;
	#waiting = new Map<number, { done: (answer: Answer) => void; failed: (error: Error) => void }>();
	#giveWay: ReturnType<typeof setTimeout> | undefined;
	#listening: ReturnType<typeof setInterval> | undefined;
	/** The nodes at which a worker was ended, each with all from which it hangs: it is tried again when one of them changes. */
	#ended = new Map<string, readonly unknown[]>();
	/** Nobody is there any more: nothing is begun, and what was asked is not answered. */
	#isClosed = false;
	#obeys: ReturnType<typeof setTimeout> | undefined;

	constructor(events: ClientEvents) {
		this.#events = events;
		this.#start();
	}

	#start(): void {
		this.#worker = spare ?? newWorker();
		spare = null;
		this.#stop =
			typeof SharedArrayBuffer !== 'undefined' && crossOriginIsolated
				? new Int32Array(new SharedArrayBuffer(12))
				: null;
		this.#worker.onmessage = ({ data }: MessageEvent<Answer>) => this.#hear(data);
		this.#sent = null;
		this.#post({ kind: 'start', stop: this.#stop, name: crypto.randomUUID().slice(0, 8) });
		this.#there.clear();
	}

	/** The worker has the files that a document reads, and no others. */
	#bringAssets(document: GeneratorDocument): void {
		const wanted = new Set(readAssets(document));
		for (const hash of wanted) {
			const asset = this.#assets.get(hash);
			if (!asset || this.#there.has(hash)) continue;
			this.#there.add(hash);
			this.#post({ kind: 'asset', asset });
		}
		const gone = [...this.#there].filter((hash) => !wanted.has(hash));
		if (!gone.length) return;
		for (const hash of gone) this.#there.delete(hash);
		this.#post({ kind: 'forget', assets: gone });
	}

	#post(request: Request): void {
		this.#worker.postMessage(request);
	}

	/** A file is at hand: the worker gets it as soon as something reads it. */
	addAsset(asset: Asset): void {
		this.#assets.set(asset.hash, asset);
	}

	/** All that it was handed. */
	assets(): Iterable<Asset> {
		return this.#assets.values();
	}

	hasAsset(hash: string): boolean {
		return this.#assets.has(hash);
	}

	/** Evaluates a document; while another evaluation runs, only the newest waits. */
	evaluate(document: GeneratorDocument, look: PageLook): void {
		if (this.#isClosed) return;
		this.#pending = { document, look };
		if (!this.#running) return this.#next();
		clearTimeout(this.#giveWay);
		this.#giveWay = setTimeout(
			() => this.#pending && this.stop(),
			Math.max(0, GIVES_WAY - (performance.now() - this.#running.since))
		);
	}

	/** Stops what runs. The worker is replaced where it does not obey. */
	stop(): void {
		const running = this.#running;
		if (!running) return;
		if (this.#stop) Atomics.store(this.#stop, STOP, running.revision);
		clearTimeout(this.#obeys);
		this.#obeys = setTimeout(
			() => this.#running?.revision === running.revision && this.#replace(),
			OBEYS_WITHIN
		);
	}

	/** Ends the worker, and starts another one that leaves out the node at which this one hung. */
	#replace(): void {
		const running = this.#running!;
		const place = this.#stop ? Atomics.load(this.#stop, AT_WORK) : 0;
		const node = running.document.graphs.main.nodes[place - 1];
		if (node) this.#ended.set(node.id, hangsFrom(running.document, node.id, running.frame));
		this.#worker.terminate();
		this.#running = null;
		this.#start();
		this.#refuseAll('The evaluation was stopped.');
		this.#events.restarted(node?.short ?? null);
		// Without a node to leave out, the same would only hang again.
		if (node) this.#pending ??= this.#last;
		this.#next();
	}

	/** What was asked gets no answer any more. */
	#refuseAll(why: string): void {
		for (const { failed } of this.#waiting.values()) failed(new Error(why));
		this.#waiting.clear();
	}

	/** Replaces a worker that says nothing of itself for too long. */
	#listen(): void {
		clearInterval(this.#listening);
		const shared = this.#stop;
		if (!shared) return;
		// Before its first word it may still be loading, which is no fault of a node.
		const atFirst = Atomics.load(shared, BEAT);
		let heard = atFirst;
		let since = performance.now();
		this.#listening = setInterval(() => {
			const beat = Atomics.load(shared, BEAT);
			if (beat !== heard) {
				heard = beat;
				since = performance.now();
			} else if (beat !== atFirst && performance.now() - since > SILENT_FOR) this.#replace();
		}, LISTENS_EVERY);
	}

	#next(): void {
		const next = this.#pending;
		if (!next) {
			clearInterval(this.#listening);
			return this.#events.busy(false);
		}
		this.#pending = null;
		this.#last = next;
		const revision = ++this.#revision;
		this.#running = { revision, since: performance.now(), document: next.document, frame: next.look.frame };
		this.#listen();
		this.#events.busy(true);
		this.#bringAssets(next.document);
		const patch = patchBetween(this.#sent, next.document);
		this.#sent = next.document;
		for (const [id, nodes] of this.#ended)
			if (!hangsFromSame(nodes, hangsFrom(next.document, id, next.look.frame))) this.#ended.delete(id);
		this.#post({ kind: 'evaluate', revision, patch, ended: [...this.#ended.keys()], look: next.look });
	}

	#hear(answer: Answer): void {
		if ('ask' in answer) {
			const waiting = this.#waiting.get(answer.ask);
			this.#waiting.delete(answer.ask);
			if (answer.kind === 'refused') waiting?.failed(new Error(answer.message));
			else waiting?.done(answer);
			return;
		}
		this.#events.answer(answer);
		if (answer.kind === 'progress' || answer.kind === 'picture') return;
		if (answer.revision !== this.#running?.revision) return;
		this.#running = null;
		clearTimeout(this.#giveWay);
		this.#next();
	}

	#ask(make: (ask: number) => Request): Promise<Answer> {
		if (this.#isClosed) return Promise.reject(new Error('The generator was left.'));
		const ask = ++this.#asked;
		return new Promise((done, failed) => {
			this.#waiting.set(ask, { done, failed });
			this.#post(make(ask));
		});
	}

	/** The files of an export, and how large they are together. @param weigh only how large they would be. */
	async exportNode(
		node: string,
		options: ExportOptions,
		{ details = false, weigh = false } = {}
	): Promise<{ files: { name: string; bytes: Uint8Array }[]; weight: number }> {
		const answer = await this.#ask((ask) => ({ kind: 'export', ask, node, options, details, weigh }));
		return answer.kind === 'exported' ? answer : { files: [], weight: 0 };
	}

	async attributes(node: string): Promise<AttributeInfo[]> {
		const answer = await this.#ask((ask) => ({ kind: 'attributes', ask, node }));
		return answer.kind === 'attributes' ? answer.attributes : [];
	}

	/** What flows on a wire, in words. */
	async peek(wire: Wire): Promise<string> {
		const answer = await this.#ask((ask) => ({ kind: 'peek', ask, wire }));
		return answer.kind === 'peeked' ? answer.text : '';
	}

	/** What a formula would come to where it will stand. */
	async look(about: LookAsk): Promise<FormulaLook | null> {
		const answer = await this.#ask((ask) => ({ kind: 'look', ask, about }));
		return answer.kind === 'looked' ? answer.look : null;
	}

	/** What is drawn over the elements of nodes. */
	async marks(nodes: readonly string[], wanted: readonly MarkName[], group: string): Promise<Marks[]> {
		const answer = await this.#ask((ask) => ({ kind: 'marks', ask, nodes, wanted, group }));
		return answer.kind === 'marks' ? answer.marks : [];
	}

	/** Why an element is as it is. */
	async why(about: WhyAsk): Promise<Why | null> {
		const answer = await this.#ask((ask) => ({ kind: 'why', ask, about }));
		return answer.kind === 'because' ? answer.why : null;
	}

	/** Where points and copies of nodes are, three numbers each. */
	async places(nodes: readonly string[]): Promise<Float32Array[]> {
		const answer = await this.#ask((ask) => ({ kind: 'places', ask, nodes }));
		return answer.kind === 'places' ? answer.places : [];
	}

	/** Rows of a table of a node. */
	async table(about: TableAsk): Promise<TableWindow | null> {
		const answer = await this.#ask((ask) => ({ kind: 'table', ask, about }));
		return answer.kind === 'table' ? answer.window : null;
	}

	/** Facts about one column, or about two and how they hang together. */
	async statistics(
		about: TableAsk,
		columns: readonly string[]
	): Promise<Extract<Answer, { kind: 'statistics' }> | null> {
		const answer = await this.#ask((ask) => ({ kind: 'statistics', ask, about, columns }));
		return answer.kind === 'statistics' ? answer : null;
	}

	/** Where a row stands, in the order that is asked for and in space: one by its number, or the nearest to a place. */
	async row(
		about: TableAsk,
		row: number | readonly number[]
	): Promise<{ row: number; place: number; at: readonly number[] | null } | null> {
		const answer = await this.#ask((ask) => ({ kind: 'row', ask, about, row }));
		return answer.kind === 'row' ? answer : null;
	}

	/** A table as comma-separated values. */
	async written(about: TableAsk): Promise<Uint8Array | null> {
		const answer = await this.#ask((ask) => ({ kind: 'written', ask, about }));
		return answer.kind === 'written' ? answer.bytes : null;
	}

	close(): void {
		clearTimeout(this.#giveWay);
		clearInterval(this.#listening);
		clearTimeout(this.#obeys);
		this.#isClosed = true;
		this.#running = this.#pending = null;
		this.#worker.onmessage = null;
		this.#worker.terminate();
		this.#refuseAll('The generator was left.');
	}
}
