/** Dials: settings that are handed to a generator's users. What a dial has in hand always holds what the dial says. */
import { NodeError } from '../math/index.ts';
import type { InputDefinition } from '../nodes/index.ts';
import { nodeKinds } from '../nodes/index.ts';
import { renameDotted, renameName } from '../varying/index.ts';
import { mapFormulas, mapStreams, withSettingOn } from './build.ts';
import { inputOf } from './connect.ts';
import type { Dial, GeneratorDocument, GraphNode, Setting } from './document.ts';
import {
	isFormula,
	isKeys,
	isMaterial,
	isRamp,
	isRange,
	materialSetting,
	newStream,
	withEveryNode,
	withGraph,
	withKeyValues,
	withNodes,
	withoutItsKeys
} from './document.ts';
import { camelCase, freeName } from './free-names.ts';
import { dialsSpokenOf, settingOf } from './settings-graph.ts';
import { isOf, keyedParts, nameAtEnd } from './vector-parts.ts';

/** A setting of a node of one of the document's graphs. */
export interface SettingIn {
	readonly graph: string;
	readonly node: string;
	readonly setting: string;
}

export const dialOf = ({ dials }: GeneratorDocument, key: string): Dial | null =>
	dials.find((one) => one.key === key) ?? null;

/** The kind of dial that a setting would be, or why it cannot be one. */
function dialKindFor(
	input: InputDefinition,
	given: Setting
): { kind: Dial['kind'] } | { kind: null; reason: string } {
	const setting = withoutItsKeys(given);
	const refused = (reason: string) => ({ kind: null, reason: `“${input.label}” ${reason}` });
	if (isFormula(setting) || (Array.isArray(setting) && setting.some((part) => typeof part !== 'number')))
		return refused(
			keyedParts(setting).length
				? 'has keys in its parts: make each part a dial.'
				: 'is a formula, or random in its parts: set it plainly first, or write dial and a name in the formula.'
		);
	switch (input.kind) {
		case 'number':
			return { kind: input.whole ? 'whole' : 'number' };
		case 'value':
			return { kind: typeof setting === 'boolean' ? 'yesno' : Array.isArray(setting) ? 'vector' : 'number' };
		case 'vector':
			return { kind: Array.isArray(setting) ? 'vector' : 'number' };
		case 'yesno':
		case 'choice':
		case 'colour':
		case 'text':
		case 'ramp':
			return { kind: input.kind };
		case 'path':
		case 'asset':
			return refused('is a curve or a file: users replace it by a slot.');
		default:
			return refused('only takes what is wired to it.');
	}
}

/** Whether a value is what a dial of a kind holds: of keys, each of them. */
export function fitsDial({ kind, options }: Pick<Dial, 'kind' | 'options'>, value: Setting): boolean {
	if (isKeys(value))
		return mayDialHaveKeys({ kind }) && value.keys.every((key) => fitsDial({ kind, options }, key.value));
	switch (kind) {
		case 'number':
		case 'whole':
			return typeof value === 'number' || isRange(value);
		case 'yesno':
			return typeof value === 'boolean';
		case 'choice':
			return typeof value === 'string' && (!options || options.some(({ id }) => id === value));
		case 'text':
			return typeof value === 'string';
		case 'colour':
		case 'vector':
			return Array.isArray(value) && value.every((part) => typeof part === 'number');
		case 'ramp':
			return isRamp(value);
		case 'material':
			return isMaterial(value);
	}
}

/** Whether a dial may change with time: words and materials stay as they are. */
export const mayDialHaveKeys = ({ kind }: Pick<Dial, 'kind'>): boolean =>
	kind !== 'text' && kind !== 'material';

/** What a material dial has in hand of each row of a Material node. */
const MATERIAL_PARTS = ['name', 'colour', 'roughness', 'metallic', 'twoSided'] as const;
type MaterialPart = (typeof MATERIAL_PARTS)[number];

/** The part of a material that a setting of a Material node is, and the number of its row in its name; null for other settings. */
function materialPart({ kind }: GraphNode, setting: string): { part: MaterialPart; row: string } | null {
	if (kind !== 'material') return null;
	const [, name, row] = /^(.*?)(\d*)$/.exec(setting)!;
	const part = MATERIAL_PARTS.find((one) => one === name);
	return part ? { part, row } : null;
}

/** A row of a Material node as a dial would hold it; null where some of it is a formula, a random range or the like. */
function materialAt(node: GraphNode, row: string): Setting | null {
	const parts = MATERIAL_PARTS.map((part): [string, Setting] => {
		const name = `${part}${row}`;
		return [part, settingOf(node, name, inputOf(node, name)!)];
	});
	const read = materialSetting.safeParse({ material: Object.fromEntries(parts) });
	return read.success ? read.data : null;
}

/** A value within what a dial can never pass. */
export function boundedBy(dial: Dial, value: Setting): Setting {
	const { kind, min = -Infinity, max = Infinity } = dial;
	if (isKeys(value)) return withKeyValues(value, (one) => boundedBy(dial, one));
	const within = (x: number): number => {
		const bounded = Math.max(min, Math.min(max, x));
		return kind === 'whole' ? Math.round(bounded) : bounded;
	};
	if (kind !== 'number' && kind !== 'whole') return value;
	if (typeof value === 'number') return within(value);
	if (!isRange(value)) return value;
	if ('low' in value) return { ...value, low: within(value.low), high: within(value.high) };
	const base = within(value.base);
	return { ...value, base, variation: Math.min(value.variation, max - base, base - min) };
}

/** What a setting in a dial's hand is: of a random range each draws numbers of its own, of a material each is a part. */
export function settingFrom({ value }: Dial, node: GraphNode, setting: string): Setting {
	if (isMaterial(value)) return value.material[materialPart(node, setting)?.part ?? 'name'];
	return mapStreams(value, (stream) => `${stream} ${node.stream} ${setting}`.slice(-400));
}

/** What a dial is once a setting in its hand was changed; null where it cannot be that. */
export function dialFrom(dial: Dial, node: GraphNode, setting: string, given: Setting): Setting | null {
	if (isMaterial(dial.value)) {
		const part = materialPart(node, setting)?.part;
		const material = { ...dial.value.material, ...(part && { [part]: given }) };
		const read = materialSetting.safeParse({ material });
		return read.success ? read.data : null;
	}
	return fitsDial(dial, given) ? boundedBy(dial, valueFrom(dial, given)) : null;
}

/** What a dial is whose setting was changed by hand: a random range draws from the dial's own stream. */
function valueFrom(dial: Dial, setting: Setting): Setting {
	const own = streamOf(dial.value);
	let stream: string | null = null;
	return mapStreams(setting, () => (stream ??= own ?? `dial ${dial.key} ${newStream()}`));
}

/** The stream from which a setting, or one of its keys, draws; null where none does. */
function streamOf(setting: Setting): string | null {
	let found: string | null = null;
	mapStreams(setting, (stream) => (found ??= stream));
	return found;
}

/** A key of letters and digits that is not taken yet. */
export function freeKey(taken: readonly { key: string }[], wanted: string, otherwise: string): string {
	const base = camelCase(wanted.match(/[a-zA-Z0-9]+/g) ?? []) || otherwise;
	return freeName(base, (key) => taken.some((one) => one.key === key));
}

function place(document: GeneratorDocument, { graph, node: id, setting }: SettingIn) {
	const node = Object.hasOwn(document.graphs, graph)
		? document.graphs[graph].nodes.find((one) => one.id === id)
		: undefined;
	const input = node && inputOf(node, setting);
	return node && input ? { node, input } : null;
}

/** Why a setting cannot become a dial; null where it can. */
export function whyNoDial(document: GeneratorDocument, at: SettingIn): string | null {
	const found = place(document, at);
	if (!found) return 'There is no such setting.';
	if (document.graphs[at.graph].wires.some(({ to }) => to[0] === at.node && to[1] === at.setting))
		return `“${found.input.label}” is wired. Disconnect it first, or make what is wired to it a dial.`;
	const would = dialKindFor(found.input, settingOf(found.node, at.setting, found.input));
	return would.kind ? null : would.reason;
}

/** A setting made a dial: named and bounded as the setting is. Throws a NodeError where it cannot be one. */
export function withDialFor(
	document: GeneratorDocument,
	at: SettingIn
): { document: GeneratorDocument; key: string } {
	const why = whyNoDial(document, at);
	if (why) throw new NodeError(why);
	const { node, input } = place(document, at)!;
	const setting = settingOf(node, at.setting, input);
	const taken = document.dials.some(({ name }) => name === input.label);
	const name =
		taken || input.label.length < 3 ? `${input.label} of ${node.title ?? node.short}` : input.label;
	const key = freeKey(
		document.dials,
		document.dials.some((one) => one.key === at.setting) ? name : at.setting,
		'dial'
	);
	const bounds = input.kind === 'number' ? input : null;
	const blank: Dial = {
		key,
		name,
		kind: dialKindFor(input, setting).kind!,
		value: setting,
		start: setting,
		// What a plain value says of itself tells nothing of what it is for.
		...(nodeKinds.get(node.kind)?.family !== 'values' && { help: input.help }),
		...('unit' in input && input.unit && { unit: input.unit }),
		...(bounds?.slider && { low: bounds.slider[0], high: bounds.slider[1] }),
		...(bounds?.min !== undefined && { min: bounds.min }),
		...(bounds?.max !== undefined && { max: bounds.max }),
		...('step' in input && input.step !== undefined && { step: input.step }),
		...(input.kind === 'choice' && { options: input.options.map(({ id, label }) => ({ id, label })) })
	};
	const value = valueFrom(blank, setting);
	const dial: Dial = { ...blank, value, start: withoutItsKeys(value) };
	return { document: withLink({ ...document, dials: [...document.dials, dial] }, at, dial), key };
}

/** The row of a Material node in which a setting stands, as a dial would hold it, and its settings; else why there is none. */
function materialRow(
	document: GeneratorDocument,
	at: SettingIn
): { value: Setting; settings: string[] } | { why: string } {
	const found = place(document, at);
	const own = found && materialPart(found.node, at.setting);
	if (!own) return { why: 'Only a Material node holds a material.' };
	const settings = MATERIAL_PARTS.map((part) => `${part}${own.row}`);
	const isWired = document.graphs[at.graph].wires.some(
		({ to }) => to[0] === at.node && settings.includes(to[1])
	);
	const value = materialAt(found.node, own.row);
	return isWired || !value
		? { why: 'Part of this material is wired, random or a formula: set it plainly first.' }
		: { value, settings };
}

/** Why a whole material cannot become a dial; null where it can. */
export function whyNoMaterialDial(document: GeneratorDocument, at: SettingIn): string | null {
	const row = materialRow(document, at);
	return 'why' in row ? row.why : null;
}

/** A row of a Material node made one dial. Throws a NodeError where it cannot be. */
export function withMaterialDial(
	document: GeneratorDocument,
	at: SettingIn
): { document: GeneratorDocument; key: string } {
	const row = materialRow(document, at);
	if ('why' in row) throw new NodeError(row.why);
	const { node } = place(document, at)!;
	const { value } = row;
	const named = isMaterial(value) ? value.material.name : '';
	const name = named || (node.title ?? node.short);
	const key = freeKey(document.dials, name, 'material');
	const dial: Dial = { key, name, kind: 'material', value, start: value };
	return { document: withLink({ ...document, dials: [...document.dials, dial] }, at, dial), key };
}

/** Why a dial cannot take a setting in hand; null where it can. */
export function whyNotLinked(document: GeneratorDocument, at: SettingIn, key: string): string | null {
	const found = place(document, at);
	const dial = dialOf(document, key);
	if (!found || !dial) return 'There is no such dial or setting.';
	if (dial.kind === 'material') return whyNoMaterialDial(document, at);
	const held = withoutItsKeys(dial.value);
	const wanted = dialKindFor(found.input, typeof held === 'number' ? 0 : held).kind;
	const numeric = (kind: string | null) => kind === 'number' || kind === 'whole';
	if (wanted !== dial.kind && !(numeric(wanted) && numeric(dial.kind)))
		return `“${dial.name}” is ${ARTICLES[dial.kind]}; “${found.input.label}” takes something else.`;
	if (found.input.kind === 'choice') {
		const { options } = found.input;
		if (dial.options?.some(({ id }) => !options.some((own) => own.id === id)))
			return `“${found.input.label}” has other choices than “${dial.name}”.`;
	}
	return null;
}
const ARTICLES: Readonly<Record<Dial['kind'], string>> = {
	number: 'a number',
	whole: 'a whole number',
	yesno: 'a yes or no',
	choice: 'a choice',
	colour: 'a colour',
	text: 'a text',
	vector: 'a vector',
	ramp: 'a ramp',
	material: 'a material'
};

/** A setting taken in hand by a dial; by a material all of its row. */
export function withLink(document: GeneratorDocument, at: SettingIn, dial: Dial): GeneratorDocument {
	const row = dial.kind === 'material' ? materialRow(document, at) : null;
	const names = row && 'settings' in row ? row.settings : [at.setting];
	const isRival = (name: string) => isOf(name, at.setting) || isOf(at.setting, name);
	return withNodeIn(document, at, (node) => ({
		...names.reduce((made, name) => withSettingOn(made, name, settingFrom(dial, node, name)), node),
		// Of a vector and its parts, what was linked last is in hand.
		dials: {
			...Object.fromEntries(Object.entries(node.dials ?? {}).filter(([name]) => !isRival(name))),
			...Object.fromEntries(names.map((name) => [name, dial.key]))
		}
	}));
}

/** A setting out of its dial's hand; it stays as it is. */
export const withoutLink = (document: GeneratorDocument, at: SettingIn): GeneratorDocument =>
	withNodeIn(document, at, (node) => unlinked(node, (name) => name === at.setting));

function unlinked(node: GraphNode, gone: (setting: string, key: string) => boolean): GraphNode {
	return withLinks(
		node,
		Object.entries(node.dials ?? {}).filter(([name, key]) => !gone(name, key))
	);
}

/** A node of which these settings are in the hand of dials, each with the key of its dial. */
export function withLinks(node: GraphNode, links: readonly (readonly [string, string])[]): GraphNode {
	const { dials: _dials, ...rest } = node;
	void _dials;
	return links.length ? { ...rest, dials: Object.fromEntries(links) } : rest;
}

const withNodeIn = (
	document: GeneratorDocument,
	{ graph, node: id }: SettingIn,
	make: (node: GraphNode) => GraphNode
): GeneratorDocument =>
	withGraph(document, graph, (of) => withNodes(of, (node) => (node.id === id ? make(node) : node)));

/** What a dial says of itself, changed. Its key changes wherever it is spoken of. */
export function withDialChanged(
	document: GeneratorDocument,
	key: string,
	change: Partial<Dial>
): GeneratorDocument {
	const before = dialOf(document, key);
	if (!before) return document;
	const next =
		change.key === undefined || change.key === key ? key : freeKey(document.dials, change.key, 'dial');
	const dial = { ...before, ...change, key: next };
	const made = {
		...document,
		dials: document.dials.map((one) =>
			one.key === key ? { ...dial, value: boundedBy(dial, dial.value) } : one
		)
	};
	if (next === key) return made;
	const values = <Row extends { values: Record<string, Setting> }>(row: Row): Row => {
		if (!Object.hasOwn(row.values, key)) return row;
		const { [key]: value, ...others } = row.values;
		return { ...row, values: { ...others, [next]: value } };
	};
	const spoken = withEveryNode(made, (node) => {
		const settings = mapFormulas(node, (text) => renameDotted(text, `dial.${key}`, `dial.${next}`));
		const links = Object.entries(node.dials ?? {});
		if (settings === node.settings && !links.some(([, of]) => of === key)) return node;
		return {
			...node,
			settings,
			...(links.length && {
				dials: Object.fromEntries(links.map(([name, of]) => [name, of === key ? next : of]))
			})
		};
	});
	return {
		...spoken,
		dials: spoken.dials.map((one) =>
			one.shownIf
				? { ...one, shownIf: renameDotted(renameName(one.shownIf, key, next), `dial.${key}`, `dial.${next}`) }
				: one
		),
		ties: spoken.ties.map((tie) => ({
			...tie,
			a: renamedEnd(tie.a, key, next),
			b: renamedEnd(tie.b, key, next)
		})),
		presets: spoken.presets.map(values),
		kept: spoken.kept.map(values)
	};
}

const renamedEnd = <End extends object>(end: End, from: string, to: string): End =>
	'dial' in end && end.dial === from ? { ...end, dial: to } : end;

/** Dials with their values; what does not fit a dial is left out and told of. */
export function withDialValues(
	document: GeneratorDocument,
	values: Readonly<Record<string, Setting>>,
	say: (sentence: string) => void = () => {}
): GeneratorDocument {
	for (const key of Object.keys(values))
		if (!dialOf(document, key)) say(`There is no dial “${key}” any more; its value was left out.`);
	const dials = document.dials.map((dial) => {
		if (!Object.hasOwn(values, dial.key)) return dial;
		const given = values[dial.key];
		if (!fitsDial(dial, given)) {
			say(`“${dial.name}” takes ${ARTICLES[dial.kind]}; what stood there was left out.`);
			return dial;
		}
		const value = boundedBy(dial, valueFrom(dial, given));
		if (JSON.stringify(value) !== JSON.stringify(valueFrom(dial, given)))
			say(`“${dial.name}” goes from ${dial.min ?? '−∞'} to ${dial.max ?? '∞'}; the nearest was taken.`);
		return isSame(value, dial.value) ? dial : { ...dial, value };
	});
	return dials.some((dial, i) => dial !== document.dials[i]) ? { ...document, dials } : document;
}

/** Of a random range only its ends are a dial's value: whose numbers it draws is the dial's own. */
export const withoutStream = (value: Setting): Setting => mapStreams(value, () => '-');

export const isSame = (a: Setting, b: Setting): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** A dial moved before another one, or to the end, and into its group. */
export function withDialMoved(
	document: GeneratorDocument,
	key: string,
	before: string | null,
	group?: string
): GeneratorDocument {
	const moved = dialOf(document, key);
	if (!moved || before === key) return document;
	const others = document.dials.filter((one) => one !== moved);
	const at = before === null ? others.length : others.findIndex((one) => one.key === before);
	const { group: _group, ...rest } = moved;
	void _group;
	const placed: Dial = group ? { ...rest, group } : rest;
	return { ...document, dials: [...others.slice(0, at), placed, ...others.slice(at)] };
}

/** A generator without a dial: what it had in hand stays as it is, formulas take its number. */
export function withoutDial(document: GeneratorDocument, key: string): GeneratorDocument {
	const dial = dialOf(document, key);
	if (!dial) return document;
	const value = withoutItsKeys(dial.value);
	const literal =
		typeof value === 'number' ? String(value) : typeof value === 'boolean' ? (value ? 'yes' : 'no') : null;
	const without = withEveryNode(document, (node) => {
		const settings =
			literal === null
				? node.settings
				: mapFormulas(node, (text) => renameDotted(text, `dial.${key}`, literal));
		const own = unlinked(node, (_, of) => of === key);
		return settings === node.settings &&
			Object.keys(own.dials ?? {}).length === Object.keys(node.dials ?? {}).length
			? node
			: { ...own, settings };
	});
	return {
		...without,
		dials: without.dials.filter((one) => one.key !== key),
		ties: without.ties.filter(
			({ a, b }) => !('dial' in a && a.dial === key) && !('dial' in b && b.dial === key)
		)
	};
}

/** Who reads a dial: settings in its hand, and formulas that speak of it. */
export const readersOfDial = (
	{ graphs }: GeneratorDocument,
	key: string
): (SettingIn & { byFormula: boolean })[] =>
	Object.entries(graphs).flatMap(([graph, { nodes }]) =>
		nodes.flatMap((node) => [
			...Object.entries(node.dials ?? {})
				.filter(([, of]) => of === key)
				.map(([setting]) => ({ graph, node: node.id, setting, byFormula: false })),
			...dialsSpokenOf(node)
				.filter(([, of]) => of === key)
				.map(([setting]) => ({ graph, node: node.id, setting, byFormula: true }))
		])
	);

/** What is wrong with a dial, as a sentence: nobody reads it, or what it has in hand hears something else. */
export function troubleOfDial(document: GeneratorDocument, key: string): string | null {
	const readers = readersOfDial(document, key);
	const isTied = document.ties.some(({ a, b }) => [a, b].some((end) => 'dial' in end && end.dial === key));
	if (!readers.length && !isTied)
		return 'Nothing reads it: take a setting in its hand, or write its name in a formula.';
	for (const { graph, node: id, setting, byFormula } of readers) {
		if (byFormula) continue;
		const node = document.graphs[graph].nodes.find((one) => one.id === id)!;
		if (document.graphs[graph].wires.some(({ to }) => to[0] === id && to[1] === setting))
			return `A wire fights it over “${inputOf(node, setting)?.label ?? setting}” of ${node.short}, and wins: disconnect one of them.`;
		const rival = rivalOf(document, { graph, node: id, setting }, key);
		if (rival)
			return `It and “${rival.name}” both have “${inputOf(node, setting)?.label ?? setting}” of ${node.short}, by a tie: the one moved last wins. Delete one of the ties.`;
	}
	return null;
}

/** Another dial that has a setting in hand which is tied to this one. */
function rivalOf(document: GeneratorDocument, at: SettingIn, key: string): Dial | null {
	const isAt = (end: object) =>
		'node' in end &&
		(end as SettingIn).node === at.node &&
		(end as SettingIn).graph === at.graph &&
		nameAtEnd(end as SettingIn) === at.setting;
	for (const { a, b } of document.ties) {
		const other = isAt(a) ? b : isAt(b) ? a : null;
		if (!other) continue;
		const rival =
			'dial' in other
				? other.dial
				: document.graphs[other.graph]?.nodes.find(({ id }) => id === other.node)?.dials?.[nameAtEnd(other)];
		if (rival && rival !== key) return dialOf(document, rival);
	}
	return null;
}
