/** Tables one below the other: the same columns for all of them, ids kept apart. */
import { mix } from '../math/index.ts';
import { allocate, pollAt, setInPieces } from './allocate.ts';
import type { Column, Table } from './table.ts';
import { WIDTH, allocateData } from './table.ts';

/** A table, and the number that keeps its ids apart from those of others; null where they are apart already. */
export interface Salted {
	table: Table;
	salt: number | null;
}

/** Tables one below the other. A column that is not everywhere of one type takes the type of the first. */
export function stackTables(parts: readonly Salted[]): Table {
	const count = parts.reduce((sum, { table }) => sum + table.count, 0);
	const names = new Map<string, Column>();
	for (const { table } of parts)
		for (const [name, c] of table.columns) if (!names.has(name)) names.set(name, c);
	const columns = new Map<string, Column>();
	for (const [name, model] of names) {
		const width = WIDTH[model.type];
		const data = allocateData(model.type, count);
		const has = (table: Table) => table.columns.get(name)?.type === model.type;
		// Where a text is missing stands the empty one, which then is the first word.
		const places = new Map<string, number>();
		const placeOf = (word: string): number => {
			let place = places.get(word);
			if (place === undefined) places.set(word, (place = places.size));
			return place;
		};
		if (model.words && !parts.every(({ table }) => has(table))) placeOf('');
		let row = 0;
		for (const { table } of parts) {
			const own = table.columns.get(name);
			if (own && has(table)) {
				if (own.words) {
					// One dictionary for all: a text that several of them have stands there once.
					const now = own.words.map(placeOf);
					for (let i = 0; i < table.count; i++) {
						pollAt(i);
						data[row + i] = now[own.data[i]];
					}
				} else setInPieces(data, own.data, row * width);
			} else
				for (let i = 0; i < table.count; i++) {
					pollAt(i);
					for (let k = 0; k < width; k++) data[(row + i) * width + k] = model.default[k];
				}
			row += table.count;
		}
		columns.set(name, {
			...model,
			data,
			...(model.words && { words: places.size ? [...places.keys()] : [''] })
		});
	}
	const ids = allocate('index', 2 * count);
	let row = 0;
	for (const { table, salt } of parts) {
		for (let i = 0; i < table.count; i++, row++) {
			pollAt(i);
			const low = table.ids ? table.ids[2 * i] : i;
			const high = table.ids ? table.ids[2 * i + 1] : 0;
			if (salt === null) {
				ids[2 * row] = low;
				ids[2 * row + 1] = high;
				continue;
			}
			ids[2 * row] = mix(mix(salt, low), high);
			ids[2 * row + 1] = mix(mix(salt + 0x51ed27, high), low);
		}
	}
	return { count, columns, ids };
}
