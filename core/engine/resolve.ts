/** What a node gets to run with: every input resolved from its wires and settings, as its definition says. */
import type { Fix } from '../math/index.ts';
import { NodeError, plural } from '../math/index.ts';
import type { Asset, Geometry, Part } from '../geometry/index.ts';
import { EMPTY, isEmpty, makeCurves, makeMesh, makePoints } from '../geometry/index.ts';
import type { Varying } from '../varying/index.ts';
import { constantNumber, fixesOfName, nearestName, partsOf, run, singleElement } from '../varying/index.ts';
import type { AnyNode, InputDefinition } from '../nodes/index.ts';
import { inputsOf } from './connect.ts';
import type { GraphNode, Setting } from './document.ts';
import { isPath, isRamp, isRange } from './document.ts';
import type { GraphIndex } from './graph-index.ts';
import type { NodeMessage } from './result.ts';
import type { Scope } from './scope.ts';
import { settingOf } from './settings-graph.ts';
import { isGeometry, isList, isRampValue } from './values.ts';

/** Hears what the artist should know: a sentence, the input it is about, and what may be done. */
export type Warn = (message: string, input?: string, fixes?: readonly Fix[]) => void;

/** Where inputs come from. */
export interface Sources {
	scope: Scope;
	/** Finds an imported file by its digest. */
	asset?: (hash: string) => Asset | null;
}

/** Something upstream has not come. */
export class Waiting extends Error {
	readonly node: string;
	constructor(node: string) {
		super();
		this.node = node;
	}
}

/** A node that is not wired up yet. */
export class Incomplete extends Error {
	readonly input: string;
	constructor(message: string, input: string) {
		super(message);
		this.input = input;
	}
}

const entries = new WeakMap<AnyNode, [string, InputDefinition][]>();
/** The inputs of a kind, listed once. */
function entriesOf(kind: AnyNode): [string, InputDefinition][] {
	let list = entries.get(kind);
	if (!list) entries.set(kind, (list = Object.entries(kind.inputs) as [string, InputDefinition][]));
	return list;
}

/** What `run` gets: every input resolved as its definition says. */
export function resolveInputs(
	node: GraphNode,
	kind: AnyNode,
	{ scope, asset }: Sources,
	warn: Warn
): Record<string, unknown> {
	const { index, results } = scope;
	const inputs: Record<string, unknown> = {};
	for (const [name, input] of entriesOf(kind)) {
		const wires = index.wiresInto(node.id, name);
		const setting = settingOf(node, name, input);
		switch (input.kind) {
			case 'geometry': {
				const found = wires.map((wire) => {
					const made = results.get(wire.from[0])?.outputs.get(wire.from[1]);
					if (made === undefined) throw new Waiting(wire.from[0]);
					if (!isGeometry(made))
						throw new NodeError(`“${input.label}” takes geometry; a value came.`, { input: name });
					return made;
				});
				if (!found.length && !input.optional)
					throw new Incomplete(`Connect ${needText(input.needs)} to “${input.label}”.`, name);
				const checked = found.map((geometry) => withNeeded(geometry, input.needs, input.label, name, warn));
				inputs[name] = input.many ? checked : (checked.at(-1) ?? null);
				break;
			}
			case 'list': {
				const wire = wires.at(-1);
				const made = wire && results.get(wire.from[0])?.outputs.get(wire.from[1]);
				if (!made && !input.optional) throw new Incomplete(`Connect a list to “${input.label}”.`, name);
				if (made && !isList(made))
					throw new NodeError(`“${input.label}” takes a list; one varying value has no length.`, {
						input: name
					});
				inputs[name] = made ?? null;
				break;
			}
			case 'ramp': {
				const wire = wires.at(-1);
				const made = wire && results.get(wire.from[0])?.outputs.get(wire.from[1]);
				inputs[name] = made && isRampValue(made) ? made : isRamp(setting) ? setting : input.default;
				break;
			}
			case 'path':
				inputs[name] = isPath(setting) ? setting.path : input.default.path;
				break;
			case 'choice':
				inputs[name] = input.options.some((option) => option.id === setting) ? setting : input.default;
				if (inputs[name] !== setting)
					warn(
						`“${input.label}” does not know the choice “${String(setting).slice(0, 40)}”; “${input.default}” is used.`,
						name
					);
				break;
			case 'text':
				inputs[name] = typeof setting === 'string' ? setting : '';
				break;
			case 'asset':
				if (setting && typeof setting === 'string') {
					const found = asset?.(setting) ?? null;
					if (!found)
						throw new NodeError('The imported file is not here any more. Choose it again.', {
							input: name
						});
					inputs[name] = found;
				} else inputs[name] = null;
				break;
			default: {
				const plain = wires.length ? null : plainValue(setting, input);
				if (plain !== null) {
					inputs[name] = plain;
					break;
				}
				const value = scope.settings.value(node, name, (message) => warn(message, name));
				inputs[name] =
					('varies' in input && input.varies) || input.kind === 'value' || input.kind === 'formula'
						? value
						: single(value, input, name, index, warn);
			}
		}
	}
	return inputs;
}

/** Points out random ranges further up that are drawn once, where the artist plainly wanted one per copy. */
export function notesOnSharedRanges(node: GraphNode, kind: AnyNode, index: GraphIndex): NodeMessage[] {
	if (kind.family !== 'copies' || kind.id === 'copies-to-mesh') return [];
	const notes: NodeMessage[] = [];
	const queue = index.wiresInto(node.id, 'source').map((wire) => wire.from[0]);
	const seen = new Set(queue);
	while (queue.length) {
		const up = index.byId.get(queue.pop()!);
		if (!up) continue;
		for (const [name, input] of inputsOf(up)) {
			if (
				(input.kind !== 'number' && input.kind !== 'vector') ||
				input.varies ||
				index.wiresInto(up.id, name).length
			)
				continue;
			const setting = settingOf(up, name, input);
			if (isRange(setting) || (Array.isArray(setting) && setting.some(isRange)))
				notes.push({
					message: `The random range of “${input.label}” in ${up.short} is drawn once: all copies show the same source. Vary the copies' own scale or rotation instead, or connect several sources.`,
					input: 'source'
				});
		}
		for (const wire of index.wiresIntoNode(up.id))
			if (!seen.has(wire.from[0])) {
				seen.add(wire.from[0]);
				queue.push(wire.from[0]);
			}
	}
	return notes;
}

function needText(needs: string | undefined): string {
	return needs === 'mesh'
		? 'a mesh'
		: needs === 'curves'
			? 'a curve'
			: needs === 'points'
				? 'points'
				: needs === 'copies'
					? 'copies'
					: 'geometry';
}

const EMPTY_PARTS: Partial<Record<Part, () => Partial<Geometry>>> = {
	mesh: () => ({ mesh: makeMesh(new Float32Array(0), Uint32Array.of(0), new Uint32Array(0)) }),
	curves: () => ({ curves: makeCurves(new Float32Array(0), Uint32Array.of(0), new Uint8Array(0)) }),
	points: () => ({ points: makePoints(new Float32Array(0)) })
};

/** Makes sure that the part a node needs is there, or says what came instead. */
function withNeeded(
	geometry: Geometry,
	needs: string | undefined,
	label: string,
	input: string,
	warn: Warn
): Geometry {
	if (!needs || needs === 'anything') return geometry;
	const part = needs as Part;
	const toMesh: Fix = { label: 'Insert “Copies to mesh”', insert: { node: 'copies-to-mesh', input } };
	const copies = geometry.copies?.copies.count ?? 0;
	if (geometry[part as 'mesh']) {
		if (part === 'mesh' && copies)
			warn(`${plural(copies, 'copy', 'copies')} left alone: “${label}” works on the mesh.`, input, [toMesh]);
		return geometry;
	}
	if (isEmpty(geometry)) return { ...geometry, ...(EMPTY_PARTS[part]?.() ?? EMPTY) };
	if (part === 'mesh' && copies)
		throw new NodeError(
			`“${label}” needs a mesh; ${plural(copies, 'copy', 'copies')} came. Make a mesh of them with “Copies to mesh”.`,
			{ input, fixes: [toMesh] }
		);
	const came = geometry.mesh
		? 'a mesh'
		: geometry.curves
			? 'curves'
			: geometry.copies
				? plural(copies, 'copy', 'copies')
				: 'points';
	throw new NodeError(`“${label}” needs ${needText(needs)}; ${came} came.`, { input });
}

/** A plain setting that is one value for the node and within its bounds, without a detour over varying values; else null. */
function plainValue(setting: Setting, input: InputDefinition): unknown {
	if (('varies' in input && input.varies) || input.kind === 'formula' || input.kind === 'value') return null;
	if (input.kind === 'yesno') return typeof setting === 'boolean' ? setting : null;
	if (input.kind === 'number') {
		if (typeof setting !== 'number' || (input.whole && setting !== Math.floor(setting))) return null;
		return (input.min === undefined || setting >= input.min) &&
			(input.max === undefined || setting <= input.max)
			? setting
			: null;
	}
	if (typeof setting === 'number') return [setting, setting, setting];
	return Array.isArray(setting) && setting.every((part) => typeof part === 'number') ? setting : null;
}

/** One value for the whole node, within its bounds. */
function single(
	value: Varying,
	input: InputDefinition,
	name: string,
	index: GraphIndex,
	warn: (message: string, input?: string) => void
): unknown {
	if (!value.constant)
		for (const part of partsOf(value)) {
			if (part.op === 'attribute') {
				const near = nearestName(part.value as string, [
					...Object.keys(UNITLESS_NAMES),
					...[...index.byShort.keys()]
				]);
				const unknown = String(part.value);
				throw new NodeError(
					`“${input.label}” is one value for the whole node, and no “${unknown}” is known here.${near ? ` Did you mean “${near}”?` : ''}`,
					{ input: name, fixes: fixesOfName(unknown, near) }
				);
			}
			if (part.op === 'element')
				throw new NodeError(
					`“${input.label}” is one value for the whole node, but “${String(part.value)}” differs from element to element.`,
					{ input: name }
				);
			if (part.op === 'list' && part.list!.length > (part.value as number))
				throw new NodeError(
					`“${input.label}” is one value for the whole node; a list of ${part.list!.length / (part.value as number)} came.`,
					{ input: name }
				);
		}
	if (input.kind === 'vector' || input.kind === 'colour') {
		const out = new Float64Array(3);
		run(value, singleElement(), 3, out, { warn: (message) => warn(message, name) });
		return [...out];
	}
	const out = new Float64Array(1);
	if (value.op === 'constant') out[0] = constantNumber(value);
	else run(value, singleElement(), 1, out, { warn: (message) => warn(message, name) });
	if (input.kind === 'yesno') return out[0] !== 0;
	let x = out[0];
	if (input.kind !== 'number') return x;
	if (input.whole) x = Math.floor(x + 0.5);
	if (input.min !== undefined && x < input.min) {
		warn(`“${input.label}” is ${tidy(x)}; ${tidy(input.min)} is the least, and is used.`, name);
		x = input.min;
	}
	if (input.max !== undefined && x > input.max) {
		warn(`“${input.label}” is ${tidy(x)}; ${tidy(input.max)} is the most, and is used.`, name);
		x = input.max;
	}
	return x;
}

const UNITLESS_NAMES = { pi: 0, tau: 0, golden: 0, goldenAngle: 0, seed: 0 };
const tidy = (x: number): string => String(Math.round(x * 1000) / 1000);
