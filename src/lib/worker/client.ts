/** The page's side of the evaluation worker: one evaluation at a time, the newest edit next, and a Stop that works. */
import type { Asset, GeneratorDocument, Wire } from '$core/index';
import type { Answer, AttributeInfo, Request } from './messages';
import { patchBetween } from './patches';

export interface Look {
	shown: string[];
	ghosts: string[];
	wireframe: boolean;
	heat: readonly [string, string] | null;
}

export interface ClientEvents {
	answer(answer: Extract<Answer, { revision: number }>): void;
	/** The worker did not obey and was replaced. */
	restarted(): void;
	busy(busy: boolean): void;
}

/** An evaluation that runs longer than this gives way to a newer edit. */
const GIVES_WAY = 700;
/** A worker that does not obey a stop for this long is ended. */
const OBEYS_WITHIN = 500;

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
	#running: { revision: number; since: number } | null = null;
	#pending: { document: GeneratorDocument; look: Look } | null = null;
	#sent: GeneratorDocument | null = null;
	#assets = new Map<string, Asset>();
	#asked = 0;
	#waiting = new Map<number, { done: (answer: Answer) => void; failed: (error: Error) => void }>();
	#giveWay: ReturnType<typeof setTimeout> | undefined;

	constructor(events: ClientEvents) {
		this.#events = events;
		this.#start();
	}

	#start(): void {
		this.#worker = spare ?? newWorker();
		spare = null;
		this.#stop =
			typeof SharedArrayBuffer !== 'undefined' && crossOriginIsolated
				? new Int32Array(new SharedArrayBuffer(4))
				: null;
		this.#worker.onmessage = ({ data }: MessageEvent<Answer>) => this.#hear(data);
		this.#sent = null;
		this.#post({ kind: 'start', stop: this.#stop });
		for (const asset of this.#assets.values()) this.#post({ kind: 'asset', asset });
	}

	#post(request: Request): void {
		this.#worker.postMessage(request);
	}

	addAsset(asset: Asset): void {
		this.#assets.set(asset.hash, asset);
		this.#post({ kind: 'asset', asset });
	}

	hasAsset(hash: string): boolean {
		return this.#assets.has(hash);
	}

	/** Evaluates a document; while another evaluation runs, only the newest waits. */
	evaluate(document: GeneratorDocument, look: Look): void {
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
		if (this.#stop) Atomics.store(this.#stop, 0, running.revision);
		setTimeout(() => {
			if (this.#running?.revision !== running.revision) return;
			this.#worker.terminate();
			this.#running = null;
			this.#start();
			for (const { failed } of this.#waiting.values()) failed(new Error('The evaluation was stopped.'));
			this.#waiting.clear();
			this.#events.restarted();
			this.#next();
		}, OBEYS_WITHIN);
	}

	#next(): void {
		const next = this.#pending;
		if (!next) return this.#events.busy(false);
		this.#pending = null;
		const revision = ++this.#revision;
		this.#running = { revision, since: performance.now() };
		this.#events.busy(true);
		const patch = patchBetween(this.#sent, next.document);
		this.#sent = next.document;
		this.#post({ kind: 'evaluate', revision, patch, ...next.look });
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
		const ask = ++this.#asked;
		return new Promise((done, failed) => {
			this.#waiting.set(ask, { done, failed });
			this.#post(make(ask));
		});
	}

	async exportNode(
		node: string,
		options: {
			format: 'glb' | 'obj';
			flatten: boolean;
			attributes: { name: string; as: string }[];
			name: string;
		}
	): Promise<{ name: string; bytes: Uint8Array }[]> {
		const answer = await this.#ask((ask) => ({ kind: 'export', ask, node, ...options }));
		return answer.kind === 'exported' ? answer.files : [];
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

	close(): void {
		clearTimeout(this.#giveWay);
		this.#worker.terminate();
	}
}
