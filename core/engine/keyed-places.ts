/** Where keys stand in a document: at settings of a graph's nodes, at parts of vectors, and at dials. */
import { withSettingOn } from './build.ts';
import { inputOf } from './connect.ts';
import { dialOf, fitsDial, withDialValues } from './dials.ts';
import { takes } from './inputs/index.ts';
import type { GeneratorDocument, KeysSetting, Setting } from './document.ts';
import { isKeys, isRange, withGraph, withNodes, withoutItsKeys } from './document.ts';
import { keyedNames } from './keys.ts';
import { settingOf } from './settings-graph.ts';

/** A setting of a node, by its name or that of a part; with no node, a dial by its key. */
export interface KeysPlace {
	readonly node: string;
	readonly setting: string;
}

export const isSamePlace = (a: KeysPlace, b: KeysPlace): boolean =>
	a.node === b.node && a.setting === b.setting;

/** What stands at a place, its keys and all; undefined where it is gone. */
export function settingAtPlace(
	document: GeneratorDocument,
	graph: string,
	{ node: id, setting }: KeysPlace
): Setting | undefined {
	if (!id) return dialOf(document, setting)?.value;
	const node = document.graphs[graph].nodes.find((one) => one.id === id);
	const input = node && inputOf(node, setting);
	return input ? settingOf(node, setting, input) : undefined;
}

/** The keys at a place; null where it has none. */
export function keysAtPlace(
	document: GeneratorDocument,
	graph: string,
	place: KeysPlace
): KeysSetting | null {
	const setting = settingAtPlace(document, graph, place);
	return isKeys(setting) ? setting : null;
}

/** Whether what stands at a place takes such keys. */
export function mayHoldKeys(
	document: GeneratorDocument,
	graph: string,
	{ node: id, setting }: KeysPlace,
	keys: KeysSetting
): boolean {
	if (!id) {
		const dial = dialOf(document, setting);
		return !!dial && fitsDial(dial, keys);
	}
	const node = document.graphs[graph].nodes.find((one) => one.id === id);
	const input = node && inputOf(node, setting);
	if (!input || !takes(input, keys)) return false;
	// A yes or no may be a number too; keys of numbers do not turn one into that.
	const now = sortOf(withoutItsKeys(settingOf(node, setting, input)));
	return keys.keys.every(({ value }) => {
		const sort = sortOf(value);
		return sort === now || (input.kind === 'vector' && sort === 'number');
	});
}

/** The sort of a value: what may stand in for it. */
function sortOf(value: Setting): string {
	if (isRange(value)) return 'number';
	return Array.isArray(value) ? 'vector' : typeof value;
}

/** A document with another value at a place. */
export const withSettingAtPlace = (
	document: GeneratorDocument,
	graph: string,
	{ node: id, setting }: KeysPlace,
	value: Setting
): GeneratorDocument =>
	id
		? withGraph(document, graph, (of) =>
				withNodes(of, (node) => (node.id === id ? withSettingOn(node, setting, value) : node))
			)
		: withDialValues(document, { [setting]: value });

/** A row of keys: where they stand, what it is called, and what it is called among other nodes. */
export interface KeyedRow extends KeysPlace {
	readonly label: string;
	/** The node's name and the setting's; of a dial its own. */
	readonly name: string;
	readonly setting: string;
	readonly keys: KeysSetting['keys'];
}

/** All that has keys in a graph, the generator's dials first. What a dial has in hand stands there once, as the dial. */
export function keyedRows(document: GeneratorDocument, graph: string): KeyedRow[] {
	const dials = document.dials.flatMap(({ key, name, value }): KeyedRow[] =>
		isKeys(value) ? [{ node: '', setting: key, label: name, name, keys: value.keys }] : []
	);
	const settings = document.graphs[graph].nodes.flatMap((node) =>
		keyedNames(node)
			.filter((setting) => !node.dials || !Object.hasOwn(node.dials, setting))
			.map((setting): KeyedRow => ({
				node: node.id,
				setting,
				label: `${inputOf(node, setting)?.label ?? setting} of ${node.short}`,
				name: `${node.short}.${setting}`,
				keys: keysAtPlace(document, graph, { node: node.id, setting })!.keys
			}))
	);
	return [...dials, ...settings];
}
