/** Columns and tables: values of elements, as flat arrays that nobody changes once they are published. */
import { NodeError } from '../math/index.ts';
import { allocate, pollAt } from './allocate.ts';
import { idsOfRows } from './ids.ts';

export type ColumnType = 'float' | 'int' | 'bool' | 'vec2' | 'vec3' | 'vec4' | 'text';
/** How a column transforms and blends. `id` never blends; `orientation` is a unit quaternion x, y, z, w. */
export type Role = 'position' | 'direction' | 'normal' | 'orientation' | 'uv' | 'colour' | 'id' | 'plain';
export type ColumnData = Float32Array | Int32Array | Uint8Array;

export interface Column {
	readonly type: ColumnType;
	readonly role: Role;
	/** `count × width` numbers. Texts are indices into `words`. */
	readonly data: ColumnData;
	/** The values an element gets that has none, as when tables are merged. */
	readonly default: readonly number[];
	/** The dictionary of a text column. */
	readonly words?: readonly string[];
}

/** Numbers for each element of a type. */
export const WIDTH: Record<ColumnType, number> = {
	float: 1,
	int: 1,
	bool: 1,
	vec2: 2,
	vec3: 3,
	vec4: 4,
	text: 1
};

/** A count of elements and their columns. `ids` holds two words for each element; null means (index, 0). */
export interface Table {
	readonly count: number;
	readonly columns: ReadonlyMap<string, Column>;
	readonly ids: Uint32Array | null;
}

export const EMPTY_TABLE: Table = { count: 0, columns: new Map(), ids: null };
/** The one-row table of a whole geometry that nobody has written to. */
export const WHOLE: Table = { count: 1, columns: new Map(), ids: null };

const ZEROS = [0, 0, 0, 0];
/** What stands where nobody has written: no turn, and white, by which a material is multiplied. */
const DEFAULTS: Partial<Record<Role, readonly number[]>> = {
	orientation: [0, 0, 0, 1],
	colour: [1, 1, 1, 1]
};

/** Makes a column around an array. */
export function column(type: ColumnType, role: Role, data: ColumnData, words?: readonly string[]): Column {
	return {
		type,
		role,
		data,
		default: (DEFAULTS[role] ?? ZEROS).slice(0, WIDTH[type]),
		...(words && { words })
	};
}

/** A column with one number everywhere. */
export function sameColumn(type: 'float' | 'int', role: Role, count: number, value: number): Column {
	const data = allocate(type, count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		data[i] = value;
	}
	return column(type, role, data);
}

/** An array for `count` elements of a type. */
export function allocateData(type: ColumnType, count: number): ColumnData {
	if (type === 'int' || type === 'text') return allocate('int', count);
	return type === 'bool' ? allocate('byte', count) : allocate('float', count * WIDTH[type]);
}

/** The same table with some columns put in, or taken out where the value is null. */
export function withColumns(table: Table, changes: Record<string, Column | null>): Table {
	const columns = new Map(table.columns);
	for (const [name, change] of Object.entries(changes))
		if (change) columns.set(name, change);
		else columns.delete(name);
	return { ...table, columns };
}

/** A table from named columns, all of the same length. */
export function makeTable(
	count: number,
	columns: Record<string, Column>,
	ids: Uint32Array | null = null
): Table {
	return { count, columns: new Map(Object.entries(columns)), ids };
}

/** A float column of a table by name. Throws where it is missing: the kind of geometry promises it. */
export function floats(table: Table, name: string): Float32Array {
	const data = table.columns.get(name)?.data;
	if (!(data instanceof Float32Array)) throw new Error(`The column “${name}” is missing.`);
	return data;
}

/** Rows of a column in a new order; an index may stand several times. */
export function gatherColumn(source: Column, rows: ArrayLike<number>): Column {
	const width = WIDTH[source.type];
	const data = allocateData(source.type, rows.length);
	const from = source.data;
	if (width === 1)
		for (let i = 0; i < rows.length; i++) {
			pollAt(i);
			data[i] = from[rows[i]];
		}
	else
		for (let i = 0; i < rows.length; i++) {
			pollAt(i);
			for (let k = 0; k < width; k++) data[i * width + k] = from[rows[i] * width + k];
		}
	return { ...source, data };
}

/** Rows of a table in a new order, ids with them (see `idsOfRows`). */
export function gatherTable(table: Table, rows: ArrayLike<number>): Table {
	const columns = new Map<string, Column>();
	for (const [name, source] of table.columns) columns.set(name, gatherColumn(source, rows));
	return { count: rows.length, columns, ids: idsOfRows(table, rows) };
}

/** The ids of a table as an array, made where they are implied. */
export function idsOf(table: Table): Uint32Array {
	if (table.ids) return table.ids;
	const ids = allocate('index', table.count * 2);
	for (let i = 0; i < table.count; i++) {
		pollAt(i);
		ids[2 * i] = i;
	}
	return ids;
}

/** A text column from one text for each element. */
export function textColumn(texts: readonly string[]): Column {
	const words: string[] = [];
	const places = new Map<string, number>();
	const data = allocate('int', texts.length);
	texts.forEach((text, i) => {
		let place = places.get(text);
		if (place === undefined) {
			place = words.push(text) - 1;
			places.set(text, place);
		}
		data[i] = place;
	});
	return column('text', 'plain', data, words);
}

/** Throws where a name cannot name an attribute. */
export function checkAttributeName(name: string, input: string): void {
	if (!/^[\p{L}_][\p{L}\p{N}_]*$/u.test(name))
		throw new NodeError(
			name === ''
				? 'Give the attribute a name.'
				: `“${name}” cannot name an attribute: use letters, digits and _, and begin with a letter.`,
			{ input }
		);
}
