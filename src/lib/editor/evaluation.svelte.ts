/** What the evaluation worker answers about the open generator: results, the picture's parts, progress, trouble. */
import type { CameraSeen, GeneratorDocument } from '$core/engine/index';
import type { Bounds } from '$core/geometry/index';
import { EvaluationClient } from '$lib/worker/client';
import type { PageLook } from '$lib/worker/client';
import type { FrameRun } from '$core/session/kept-frames';
import type { Answer, NodeReport, Packet } from '$core/session/messages';

/** Progress is shown after this many milliseconds. */
const SHOWS_PROGRESS_AFTER = 300;

export class Evaluation {
	readonly client: EvaluationClient;
	/** The result of each node of the graph that is edited. */
	reports = $state.raw<ReadonlyMap<string, NodeReport>>(new Map());
	/** The same of the graph that the View shows. */
	viewed = $state.raw<ReadonlyMap<string, NodeReport>>(new Map());
	/** Which pass or shape of a body is looked into, and of how many. */
	inside = $state.raw<{ place: number; places: number } | null>(null);
	/** Whether the View shows the graph that is edited. */
	#isOne = true;
	packet = $state.raw<Packet | null>(null);
	bounds = $state.raw<Bounds | null>(null);
	/** Whether the picture was made with draft values. */
	isDraft = $state(false);
	/** The digest of the result, where it was quick to make. */
	hash = $state<string | null>(null);
	/** How many nodes the last evaluation really ran. */
	ran = $state(0);
	/** Counts up with each finished evaluation, for whoever waits for one. */
	count = $state(0);
	working = $state(false);
	/** The node at work and how far it is, once it takes long. */
	progress = $state.raw<{ node: string; share: number } | null>(null);
	trouble = $state('');
	/** How often a worker was ended that did not answer. */
	restarts = 0;
	/** Whether it waits for the artist to let it evaluate: it did not finish the last time. */
	paused = $state(false);
	/** Whether edges come with the meshes. */
	wireframe = $state(false);
	/** Frames that are remembered whole. */
	kept = $state.raw<readonly FrameRun[]>([]);
	/** What the camera sees that is looked through. */
	seen = $state.raw<CameraSeen | null>(null);
	/** Whether what is shown is of an earlier state, as the last evaluation was stopped. */
	isBehind = $state(false);
	#looksAtNothing = false;
	#noted = '';
	#isNoted = false;
	/** Whether the artist wanted it stopped, and not a newer edit. */
	#stoppedByHand = false;
	#late: ReturnType<typeof setTimeout> | undefined;

	constructor() {
		this.client = new EvaluationClient({
			answer: (answer) => this.#hear(answer),
			restarted: (node) => {
				this.restarts++;
				this.trouble = `${node ? `${node} did not answer` : 'The evaluation did not stop in time'} and was ended. The last picture is kept.`;
			},
			busy: (busy) => {
				clearTimeout(this.#late);
				this.progress = null;
				this.working = busy;
				if (busy)
					this.#late = setTimeout(() => {
						this.progress = { node: '', share: 0 };
						this.#note(true);
					}, SHOWS_PROGRESS_AFTER);
				else {
					this.#note(false);
					for (const done of this.#waiting.splice(0)) done();
				}
			}
		});
	}

	/** Opens paused where the last evaluation of this generator ended with its tab. */
	watch(id: string): void {
		this.#noted = `embrell-evaluating-${id}`;
		this.paused = readNote(this.#noted);
	}

	/** A long evaluation is noted, so that one which takes the tab with it is not begun again by itself. */
	#note(isWorking: boolean): void {
		if (!this.#noted || isWorking === this.#isNoted) return;
		this.#isNoted = isWorking;
		try {
			if (isWorking) localStorage.setItem(this.#noted, '1');
			else localStorage.removeItem(this.#noted);
		} catch {
			// Without a place to note it, it opens as usual.
		}
	}

	/** Evaluates again by itself from now on. */
	resume(): void {
		this.paused = false;
		this.#isNoted = true;
		this.#note(false);
	}

	/** Another graph is looked at: what is known of nodes is not known of its nodes. */
	forget(): void {
		this.reports = new Map();
		this.viewed = new Map();
		this.inside = null;
	}

	evaluate(document: GeneratorDocument, look: Omit<PageLook, 'wireframe'>): void {
		if (this.paused) return;
		this.trouble = '';
		this.#stoppedByHand = false;
		this.#looksAtNothing = !look.shown.length;
		this.#isOne = !look.into.length || look.inside;
		this.client.evaluate(document, { ...look, wireframe: this.wireframe });
	}

	#waiting: (() => void)[] = [];
	/** Resolves when nothing is evaluated: what is asked for by then has its picture. */
	idle(): Promise<void> {
		return this.working ? new Promise((done) => this.#waiting.push(done)) : Promise.resolve();
	}

	/** The page is left, or put away: whatever ends it now is no fault of an evaluation. */
	left(): void {
		this.#note(false);
	}

	stop(): void {
		this.#stoppedByHand = true;
		this.client.stop();
	}

	close(): void {
		clearTimeout(this.#late);
		this.#note(false);
		this.client.close();
		for (const done of this.#waiting.splice(0)) done();
	}

	#hear(answer: Extract<Answer, { revision: number }>): void {
		switch (answer.kind) {
			case 'picture': {
				const reports = new Map(this.viewed);
				for (const report of answer.reports) reports.set(report.id, withBounds(report, reports));
				this.viewed = reports;
				if (this.#isOne) this.reports = reports;
				this.packet = answer.packet;
				this.isDraft = answer.draft;
				this.seen = answer.seen;
				if (answer.bounds || this.#looksAtNothing) this.bounds = answer.bounds;
				break;
			}
			case 'reports':
				this.reports = mapOf(answer.reports, this.reports);
				this.viewed = answer.viewed ? mapOf(answer.viewed, this.viewed) : this.reports;
				this.inside = answer.inside;
				this.kept = answer.kept;
				this.ran = answer.ran;
				this.hash = answer.hash;
				this.count++;
				this.isBehind = false;
				break;
			case 'progress':
				if (this.progress) this.progress = { node: answer.node, share: answer.share };
				break;
			case 'stopped':
				// What is known is of the document before: frames are not kept for this one, and sizes are not its own.
				this.isBehind = true;
				this.kept = [];
				this.hash = null;
				if (this.#stoppedByHand)
					this.trouble = 'Stopped. The last picture is kept; the next change evaluates again.';
				break;
			case 'failed':
				this.trouble = answer.message;
		}
	}
}

/**
 * A report whose bounds were left out, as only time went on, with those that were told before. Where nothing else is new it
 * is the very report that was there, so that no label is written anew at every frame.
 */
function withBounds(report: NodeReport, reports: ReadonlyMap<string, NodeReport>): NodeReport {
	if ('bounds' in report) return report;
	const before = reports.get(report.id);
	return before && tellsTheSame(before, report) ? before : { ...report, bounds: before?.bounds ?? null };
}

function tellsTheSame(a: NodeReport, b: NodeReport): boolean {
	if (a.state !== b.state || a.shapes !== b.shapes || a.value !== b.value) return false;
	if (a.error || b.error || a.warnings.length || b.warnings.length) return false;
	const [mine, theirs] = [a.counts, b.counts];
	if (!mine || !theirs) return mine === theirs;
	return (Object.keys(mine) as (keyof typeof mine)[]).every((what) => mine[what] === theirs[what]);
}

const mapOf = (
	reports: readonly NodeReport[],
	before: ReadonlyMap<string, NodeReport>
): ReadonlyMap<string, NodeReport> =>
	new Map(reports.map((report) => [report.id, withBounds(report, before)]));

function readNote(key: string): boolean {
	try {
		return localStorage.getItem(key) !== null;
	} catch {
		return false;
	}
}
