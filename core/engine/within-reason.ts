/**
 * What a stranger's document may hold before it is looked at closely: more of anything than a person could use is left out and
 * said, so that no file takes minutes to check, or to show.
 */
import { NodeError, formatCount } from '../math/index.ts';
import { MOST, MOST_BODIES, nodeSchema } from './document.ts';

type Raw = Record<string, unknown>;

export const isRaw = (value: unknown): value is Raw =>
	typeof value === 'object' && value !== null && !Array.isArray(value);

/** The document with no more of anything than a person could use. Throws NodeError where most of it is wrong. */
export const withinReason = (document: Raw, leftOut: string[]): Raw =>
	withFewKeys(withFewSettings(withFewBodies(withFewRows(document, leftOut), leftOut), leftOut), leftOut);

const CALLED: Partial<Record<string, string>> = { kept: 'kept variations', namedFrames: 'named frames' };

function withFewRows(document: Raw, leftOut: string[]): Raw {
	const made = { ...document };
	for (const [name, most] of Object.entries(MOST)) {
		const rows = made[name];
		if (!Array.isArray(rows) || rows.length <= most) continue;
		made[name] = rows.slice(0, most);
		leftOut.push(
			`${formatCount(rows.length - most)} ${CALLED[name] ?? name} were left out: a generator has at most ${formatCount(most)}.`
		);
	}
	return made;
}

function withFewBodies(document: Raw, leftOut: string[]): Raw {
	if (!isRaw(document.graphs)) return document;
	const { main, ...bodies } = document.graphs;
	const ids = Object.keys(bodies);
	if (ids.length <= MOST_BODIES) return document;
	leftOut.push(
		`${formatCount(ids.length - MOST_BODIES)} subgraphs were left out: a generator has at most ${formatCount(MOST_BODIES)}.`
	);
	const kept = ids.slice(0, MOST_BODIES).map((id): [string, unknown] => [id, bodies[id]]);
	return { ...document, graphs: Object.fromEntries([['main', main], ...kept]) };
}

/** More keys than this nobody sets, in all settings together. */
const MOST_KEYS = 50_000;

/** A setting that would bring more keys than there may be holds its first one. */
function withFewKeys(document: Raw, leftOut: string[]): Raw {
	if (!isRaw(document.graphs)) return document;
	let all = 0,
		gone = 0;
	const few = (setting: unknown): unknown => {
		// Parts of a vector have keys of their own.
		if (Array.isArray(setting) && setting.length <= 3) return setting.map(few);
		if (!isRaw(setting) || !Array.isArray(setting.keys)) return setting;
		const { length } = setting.keys as unknown[];
		if (all + length <= MOST_KEYS) {
			all += length;
			return setting;
		}
		gone += length - 1;
		return { ...setting, keys: setting.keys.slice(0, 1) as unknown[] };
	};
	const graphs = Object.entries(document.graphs).map(([id, graph]): [string, unknown] => {
		if (!isRaw(graph) || !Array.isArray(graph.nodes)) return [id, graph];
		const nodes = graph.nodes.map((node: unknown) => {
			if (!isRaw(node) || !isRaw(node.settings)) return node;
			const settings = Object.entries(node.settings).map(([name, one]): [string, unknown] => [
				name,
				few(one)
			]);
			return { ...node, settings: Object.fromEntries(settings) };
		});
		return [id, { ...graph, nodes }];
	});
	const dials = Array.isArray(document.dials)
		? document.dials.map((dial: unknown) => (isRaw(dial) ? { ...dial, value: few(dial.value) } : dial))
		: document.dials;
	const presets = Array.isArray(document.presets)
		? document.presets.map((preset: unknown) => {
				if (!isRaw(preset) || !isRaw(preset.values)) return preset;
				const values = Object.entries(preset.values).map(([key, value]) => [key, few(value)]);
				return { ...preset, values: Object.fromEntries(values) as Raw };
			})
		: document.presets;
	if (!gone) return document;
	leftOut.push(`${formatCount(gone)} keys were left out: a generator has at most ${formatCount(MOST_KEYS)}.`);
	return {
		...document,
		graphs: Object.fromEntries(graphs),
		...(dials !== undefined && { dials }),
		...(presets !== undefined && { presets })
	};
}

/** More settings than this no node has, and so many no generator. */
const MOST_SETTINGS = 400;
const MOST_OF_ALL = 300_000;

/** With fewer nobody waits for what is wrong of them. */
const FEW_SETTINGS = 2000;
/** Of a file with more that is wrong nothing is mended. */
const MOST_WRONG = 2000;

/** Throws where so much is wrong that saying it all would take minutes. */
function checkMostlySound(graphs: readonly (readonly [string, unknown])[]): void {
	let wrong = 0;
	for (const [, graph] of graphs)
		for (const node of isRaw(graph) && Array.isArray(graph.nodes) ? (graph.nodes as unknown[]) : []) {
			const parsed = nodeSchema.safeParse(node);
			if (!parsed.success) wrong += parsed.error.issues.length;
			if (wrong > MOST_WRONG)
				throw new NodeError(
					`More than ${formatCount(MOST_WRONG)} things in this file are wrong. It is damaged, or no generator of Embrell.`
				);
		}
}

/** The document without settings beyond what any node has: each that is wrong costs a sentence of its own. */
function withFewSettings(document: Raw, leftOut: string[]): Raw {
	if (!isRaw(document.graphs)) return document;
	let all = 0,
		gone = 0;
	const graphs = Object.entries(document.graphs).map(([id, graph]): [string, unknown] => {
		if (!isRaw(graph) || !Array.isArray(graph.nodes)) return [id, graph];
		const nodes = graph.nodes.map((node: unknown) => {
			if (!isRaw(node) || !isRaw(node.settings)) return node;
			const entries = Object.entries(node.settings);
			const room = Math.max(0, Math.min(MOST_SETTINGS, MOST_OF_ALL - all));
			all += Math.min(room, entries.length);
			if (entries.length <= room) return node;
			gone += entries.length - room;
			return { ...node, settings: Object.fromEntries(entries.slice(0, room)) };
		});
		return [id, { ...graph, nodes }];
	});
	if (all > FEW_SETTINGS) checkMostlySound(graphs);
	if (!gone) return document;
	leftOut.push(`${formatCount(gone)} settings were left out: no node has so many.`);
	return { ...document, graphs: Object.fromEntries(graphs) };
}
