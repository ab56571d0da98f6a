/** A body evaluated pass after pass. */
import { NodeError, formatCount } from '../../math/index.ts';
import type { Geometry } from '../../geometry/index.ts';
import { mergeGeometries } from '../../geometry/index.ts';
import { constantNumber, workedOut } from '../../varying/index.ts';
import type { GraphNode, Port } from '../document.ts';
import type { Arrival, Scope } from '../scope.ts';
import { isGeometry, isVarying } from '../values.ts';
import type { Value } from '../values.ts';
import type { Body, Tools } from './body.ts';
import { fits, inputOf } from '../connect.ts';
import { CARRIED } from '../inputs/index.ts';
import { countedAt, partOf } from './counted.ts';
import type { Counted } from './counted.ts';
import { elementsIn, passesThatFit } from './foresight.ts';
import { joinValues, withPass } from './gather.ts';
import type { Inside } from './inner.ts';
import { FailedInside, arrivalsAt, insideOf, leaving } from './inner.ts';

/** So many passes may be asked for. */
const MOST_PASSES = 100_000;

export function* repeatBody(scope: Scope, node: GraphNode, tools: Tools): Body {
	const own = tools.inputs() as { until: string; passes: number; same: boolean };
	const inside = insideOf(scope, node);
	const arrivals = arrivalsAt(scope, node, inside.ports.inputs);
	const counted = countedAt(
		inside.ports.inputs,
		arrivals,
		own.until === 'counted' ? null : own.passes,
		tools
	);
	if (counted.passes > MOST_PASSES)
		throw new NodeError(
			`${formatCount(counted.passes)} passes are too many; ${formatCount(MOST_PASSES)} fit. Lower “Passes”.`,
			{ input: own.until === 'counted' ? undefined : 'passes' }
		);
	checkCarried(node, inside, tools);
	const passing = new Passing(inside, arrivals, counted, tools);
	for (let pass = 0; pass < counted.passes; pass++) {
		const inner = inside.scope({
			arrivals: passing.arrivalsIn(pass),
			place: pass,
			places: counted.passes,
			step: own.same ? '' : String(pass),
			pass: { pass, passes: counted.passes }
		});
		yield { scope: inner, nodes: inside.ports.outputs.map(({ node }) => node), done: passing.past() };
		if (passing.take(inner, pass) === 'ended') break;
	}
	return passing.outputs();
}

/** What goes from pass to pass, and what is kept of each. */
class Passing {
	readonly #inside: Inside;
	readonly #first: ReadonlyMap<string, Arrival>;
	readonly #carried: Map<string, Arrival>;
	readonly #counted: Counted;
	readonly #tools: Tools;
	readonly #gathered = new Map<string, { pass: number; value: Value }[]>();
	readonly #last = new Map<string, Value>();
	/** How many elements went round: before and after the last passes. */
	readonly #sizes: number[] = [];
	#kept = 0;
	#before: Scope | null = null;
	#isThrough = false;

	constructor(inside: Inside, arrivals: ReadonlyMap<string, Arrival>, counted: Counted, tools: Tools) {
		this.#inside = inside;
		this.#first = arrivals;
		this.#carried = new Map([...arrivals].filter(([name]) => this.#roleOf(name) === 'carried'));
		this.#counted = counted;
		this.#tools = tools;
		this.#sizes.push(this.#carriedElements());
	}

	#roleOf(name: string): Port['role'] {
		return this.#inside.ports.inputs.find((port) => port.name === name)?.role;
	}

	/** The scope of the pass before, of which only what is gathered is needed on. */
	past(): { scope: Scope; keep: readonly string[] } | undefined {
		const keep = this.#inside.ports.outputs.filter(({ role }) => role === 'gathered').map(({ node }) => node);
		return this.#before ? { scope: this.#before, keep } : undefined;
	}

	arrivalsIn(pass: number): ReadonlyMap<string, Arrival> {
		const arrivals = new Map(this.#first);
		for (const [name, arrival] of this.#carried) arrivals.set(name, arrival);
		for (const [name, values] of this.#counted.values) {
			const arrival = partOf(values, pass);
			if (arrival) arrivals.set(name, arrival);
			else arrivals.delete(name);
		}
		return arrivals;
	}

	/** Takes what came out of a pass. */
	take(inner: Scope, pass: number): 'goes on' | 'ended' {
		const came = new Map<string, Arrival>();
		let waits: FailedInside | null = null;
		for (const { name, node } of this.#inside.ports.outputs) {
			try {
				came.set(name, leaving(inner, node));
			} catch (error) {
				if (!(error instanceof FailedInside)) throw error;
				if (!error.waits) return this.#failed(error, pass);
				waits ??= error;
			}
		}
		// An output to which nothing is wired leaves the others standing.
		if (waits && !came.size) return this.#failed(waits, pass);
		this.#before = inner;
		this.#isThrough = true;
		let ends = false;
		for (const { name, role } of this.#inside.ports.outputs) {
			const arrival = came.get(name);
			if (!arrival) continue;
			if (role === 'ends') ends ||= isYes(arrival.value);
			else if (role === 'gathered') this.#gather(name, pass, arrival.value);
			else this.#last.set(name, arrival.value);
			if (this.#roleOf(name) === 'carried') this.#carried.set(name, carriedOn(arrival));
		}
		this.#foresee(pass);
		return ends ? 'ended' : 'goes on';
	}

	/** A pass that fails is named; the others stand, but nothing can be carried out of it. */
	#failed(error: NodeError, pass: number): 'goes on' | 'ended' {
		if (!this.#isThrough && (pass === this.#counted.passes - 1 || this.#hasCarried()))
			throw new NodeError(`Pass ${pass}: ${error.message}`);
		const goesOn = !this.#hasCarried();
		this.#tools.warn(
			`Pass ${pass} failed; ${goesOn ? 'the others stand' : 'those before it stand, and it ended there'}. ${error.message}`
		);
		return goesOn ? 'goes on' : 'ended';
	}

	#hasCarried(): boolean {
		return this.#inside.ports.inputs.some(({ role }) => role === 'carried');
	}

	#gather(name: string, pass: number, value: Value): void {
		const list = this.#gathered.get(name) ?? [];
		list.push({ pass, value });
		this.#gathered.set(name, list);
		if (isGeometry(value)) this.#kept += elementsIn(value);
	}

	#carriedElements(): number {
		let sum = 0;
		for (const { value } of this.#carried.values()) if (isGeometry(value)) sum += elementsIn(value);
		return sum;
	}

	/** Throws where what multiplies from pass to pass will not fit in the end. */
	#foresee(pass: number): void {
		const { passes } = this.#counted;
		this.#sizes.push(this.#carriedElements());
		if (this.#sizes.length > 3) this.#sizes.shift();
		const done = pass + 1;
		const now = this.#sizes[this.#sizes.length - 1] + this.#kept;
		// Looking ahead takes as long as there are passes: after 2, 4, 8 … of them.
		if (now <= this.#tools.most && (done & (done - 1)) !== 0) return;
		const { fit, inTheEnd } = passesThatFit(this.#sizes, {
			done,
			passes,
			kept: this.#kept,
			most: this.#tools.most
		});
		if (fit >= passes) return;
		throw new NodeError(
			`After ${formatCount(passes)} passes there would be about ${formatCount(inTheEnd)} elements; ${formatCount(this.#tools.most)} fit, which is ${fit === 1 ? '1 pass' : `${formatCount(fit)} passes`}. Lower “Passes”.`,
			{ input: 'passes', fixes: [{ label: `Set ${fit} passes`, set: { setting: 'passes', value: fit } }] }
		);
	}

	outputs(): Record<string, Value> {
		const outputs: Record<string, Value> = {};
		for (const { name, role, carries } of this.#inside.ports.outputs) {
			if (role === 'ends') continue;
			const gathered = this.#gathered.get(name) ?? [];
			const value =
				role === 'gathered'
					? joined(name, carries, gathered)
					: (this.#last.get(name) ?? this.#carried.get(name)?.value);
			if (value !== undefined) outputs[name] = value;
		}
		return outputs;
	}
}

function joined(
	name: string,
	carries: Port['carries'],
	gathered: readonly { pass: number; value: Value }[]
): Value {
	if (carries !== 'geometry')
		return joinValues(
			name,
			carries,
			gathered.map(({ value }) => value)
		);
	const pieces = gathered.flatMap(({ pass, value }) => (isGeometry(value) ? [{ pass, value }] : []));
	return mergeGeometries(
		pieces.map(({ pass, value }): Geometry => withPass(value, pass)),
		pieces.map(({ pass }) => pass + 1)
	);
}

/** Says which carried inputs have no output, and throws where what comes out cannot go in again. */
function checkCarried(node: GraphNode, { ports }: Inside, { warn }: Tools): void {
	const outputs = new Map(ports.outputs.map((port) => [port.name, port]));
	for (const { name, carries } of ports.inputs.filter(({ role }) => role === 'carried')) {
		const out = outputs.get(name);
		const input = inputOf(node, name);
		if (!out)
			warn(`“${name}” is carried, but no output of that name stands in the body: it stays as it arrived.`);
		else if (input && !fits(out.carries, input).fits)
			throw new NodeError(
				`“${name}” goes into a pass as ${CARRIED[carries].gives} and comes out as ${CARRIED[out.carries].gives}. Let both carry the same, or give one of them another name.`,
				{ input: 'body' }
			);
	}
}

/** What goes into the next pass: a number as it is, not as the way to it, which would grow with every pass. */
function carriedOn(arrival: Arrival): Arrival {
	if (!isVarying(arrival.value)) return arrival;
	const value = workedOut(arrival.value);
	return { value, key: value.hash };
}

const isYes = (value: Value): boolean => isVarying(value) && value.constant && constantNumber(value) !== 0;
