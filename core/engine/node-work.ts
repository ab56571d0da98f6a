/**
 * The work of one node: what comes in is resolved, what it would make is foreseen, it runs with its memory in the ledger and
 * within its time, and what it hands on is checked.
 */
import { NodeError, formatCount, inBrief } from '../math/index.ts';
import type { Asset, Bounds, Geometry, Ledger } from '../geometry/index.ts';
import { boundsOf, countsOf, firstUnsound } from '../geometry/index.ts';
import type { Varying } from '../varying/index.ts';
import type { AnyNode, Context } from '../nodes/index.ts';
import { makeContext } from './context.ts';
import type { GraphNode, Wire } from './document.ts';
import type { EvaluatedColumns } from './evaluated-columns.ts';
import { isVaried } from './facts.ts';
import type { Warn } from './inputs/index.ts';
import { Progress } from './progress.ts';
import { resolveInputs } from './resolve.ts';
import type { NodeMessage, NodeResult } from './result.ts';
import type { Scope } from './scope.ts';
import { settingOf } from './settings-graph.ts';
import { momentAt } from './time.ts';
import { isGeometry } from './values.ts';
import type { Value } from './values.ts';

export interface WorkOptions {
	/** Finds the bytes of an imported file. */
	asset?: (hash: string) => Asset | null;
	/** Throws `Stopped` when it is time to stop. */
	poll?: () => void;
	/** Hears how far a node is. */
	progress?: (node: string, share: number) => void;
	/** The longest that one node may take. */
	seconds?: number;
}

/** A node in its scope, with the wires whose sources it uses. */
export interface At {
	readonly scope: Scope;
	readonly node: GraphNode;
	readonly wires: readonly Wire[];
}

/** The most elements that one table may have. */
export const MOST_ELEMENTS = 16_000_000;
const MOST_SECONDS = 120;
const MOST_NOTES = 20;

export class NodeWork {
	readonly #options: WorkOptions;
	readonly #ledger: Ledger;
	readonly #columns: EvaluatedColumns;
	readonly #progress = new Progress();
	readonly #seconds: number;
	/** The node of the main graph that is being evaluated. */
	at = '';
	/** The node that goes through earlier frames, and how far it is: all that is evaluated meanwhile is for it. */
	fold: { node: string; share: number } | null = null;
	/** Whether it is evaluated for a body: how far the whole of it is, nobody knows. */
	#isInBody = false;
	/** Whether it is worked out what a node would make: nothing of it is done then. */
	#foresees = false;
	/** When the node at hand is given up. */
	#latest = Infinity;

	constructor(options: WorkOptions, ledger: Ledger, columns: EvaluatedColumns) {
		this.#options = options;
		this.#ledger = ledger;
		this.#columns = columns;
		this.#seconds = options.seconds ?? MOST_SECONDS;
	}

	/** Does work of a node with its memory in the ledger, within the time that a node may take. */
	within<Result>(work: () => Result): Result {
		this.#latest = now() + 1000 * this.#seconds;
		try {
			return this.#ledger.work(work);
		} finally {
			this.#latest = Infinity;
		}
	}

	/** Throws when it is time to stop, or when a node takes too long. */
	poll(): void {
		this.#options.poll?.();
		if (this.#latest < Infinity && !this.#foresees)
			this.#options.progress?.(
				this.fold?.node ?? this.at,
				this.fold?.share ?? (this.#isInBody ? 0 : this.#progress.ask())
			);
		if (now() > this.#latest)
			throw new NodeError(`This took more than ${this.#seconds} seconds and was given up. Lower the counts.`);
	}

	/** Throws where a body takes too long. */
	checkTime(since: number): void {
		if (now() - since > 1000 * this.#seconds)
			throw new NodeError(
				`Its body took more than ${this.#seconds} seconds and was given up. Lower the counts, or how often it is evaluated.`
			);
	}

	/** What comes into a node, resolved. */
	inputsOf({ scope, node, wires }: At, kind: AnyNode, warn: Warn): Record<string, unknown> {
		const { asset } = this.#options;
		return resolveInputs(node, kind, { scope, asset, ...(kind.picks && { wires }) }, warn);
	}

	contextOf(
		{ scope, node }: Pick<At, 'scope' | 'node'>,
		kind: AnyNode,
		inputs: Record<string, unknown>,
		warn: Warn,
		past?: Context['past']
	): Context {
		return makeContext({
			seed: scope.seed,
			path: scope.path,
			stream: node.stream,
			warn,
			columns: this.#columns,
			moment: momentAt(scope.raw, scope.frame),
			past,
			inputs,
			rangesOf: (name) => isVaried(settingOf(node, name, kind.inputs[name]), kind.inputs[name])
		});
	}

	/** How many elements a node expects to make. Throws where it would be too much. */
	checkEstimate(kind: AnyNode, inputs: Record<string, unknown>): number {
		const estimate = this.#foresee(() => kind.estimate?.(inputs as never) ?? null);
		if (!estimate) return 0;
		const { elements, of, lower, most = MOST_ELEMENTS, bytes = 0, seconds = 0 } = estimate;
		if (!(elements <= most))
			throw new NodeError(
				`This would make ${formatCount(elements)} ${of}; ${formatCount(most)} fit. ${lower}`
			);
		if (!(seconds <= this.#seconds))
			throw new NodeError(
				`This would take about ${formatCount(seconds)} seconds; ${formatCount(this.#seconds)} are allowed. ${lower}`
			);
		this.#ledger.check(bytes);
		return elements;
	}

	/** Works out what a node would make; what that takes is no progress of the node. */
	#foresee<Result>(work: () => Result): Result {
		this.#foresees = true;
		try {
			return work();
		} finally {
			this.#foresees = false;
		}
	}

	/** Runs a node without a body. */
	run(at: At, kind: AnyNode, key: string, notes: NodeMessage[]): NodeResult {
		const { scope, node } = at;
		const warn = noteTaker(notes);
		const since = now();
		const inputs = this.inputsOf(at, kind, warn);
		const expected = this.checkEstimate(kind, inputs);
		this.#isInBody = !scope.isMain;
		this.#progress.begin(kind.id, Math.max(expected, elementsIn(inputs)));
		const context = this.contextOf(at, kind, inputs, warn);
		const extra = new Map(
			(node.inputs ?? []).map((own): [string, Varying] => [own.name, scope.settings.value(node, own.name)])
		);
		const made = kind.run!(inputs as never, context, extra) as Record<string, Value>;
		const result = this.made(node, key, made, { warnings: notes, since, state: 'fresh' });
		if (!this.#isInBody) this.#progress.end();
		return result;
	}

	/** Checks what a node hands on. */
	made(
		node: GraphNode,
		key: string,
		values: Readonly<Record<string, Value>>,
		{ warnings, since, state }: Pick<NodeResult, 'warnings'> & { since: number; state: 'fresh' | 'bypassed' }
	): NodeResult {
		const ledger = this.#ledger;
		const outputs = new Map(Object.entries(values));
		const geometry = [...outputs.values()].find((value): value is Geometry => isGeometry(value));
		for (const value of outputs.values()) {
			const wrong = isGeometry(value) && firstUnsound(value, (column) => ledger.isHeld(column));
			if (wrong) throw new NodeError(wrong);
		}
		if (geometry && mayLieBeyond(geometry)) {
			const bounds = boundsOf(geometry);
			if (bounds && ![...bounds.low, ...bounds.high].every(Number.isFinite))
				throw new NodeError(
					'Some of it lies so far away that no number says where (beyond 10³⁸ m). Lower the sizes, scales or distances.'
				);
		}
		let bounds: Bounds | null | undefined = geometry ? undefined : null;
		return {
			id: node.id,
			key,
			state,
			outputs,
			warnings,
			error: null,
			milliseconds: now() - since,
			counts: geometry ? countsOf(geometry) : null,
			// Worked out when somebody asks: while it plays, hardly anybody does.
			get bounds() {
				return bounds === undefined ? (bounds = ledger.work(() => boundsOf(geometry!))) : bounds;
			}
		};
	}
}

/** Takes what is said of a node; no more than a few things, and each once. */
export function noteTaker(notes: NodeMessage[]): Warn {
	return (given, input, fixes) => {
		const message = inBrief(given);
		if (notes.length < MOST_NOTES && !notes.some((note) => note.message === message))
			notes.push({ message, input, fixes });
	};
}

/** Elements of the largest geometry that comes in. */
function elementsIn(inputs: Record<string, unknown>): number {
	let most = 0;
	for (const input of Object.values(inputs).flat()) {
		if (!isGeometry(input)) continue;
		const { points, faces, copies } = countsOf(input);
		most = Math.max(most, points, faces, copies);
	}
	return most;
}

/** Of many copies that lie in none, sound columns already say that all of it lies somewhere. */
const MANY_COPIES = 2000;
const mayLieBeyond = ({ copies }: Geometry): boolean =>
	!copies || copies.copies.count < MANY_COPIES || copies.sources.some((source) => source.copies);

export const now = (): number => performance.now();
