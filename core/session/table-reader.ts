/** Answers what the Data drawer asks: windows of rows, in an order, of those that meet a condition. */
import type { Ledger } from '../geometry/index.ts';
import { pollAt, scratch } from '../geometry/index.ts';
import type { TableAsk, TableWindow } from './messages.ts';
import type { Correlation, Series, Statistics } from './series.ts';
import { correlationOf, sortRows, statisticsOf, valueAt } from './series.ts';
import type { DataTable } from './tables.ts';

/** Rows that one window may have. */
const MOST_ROWS = 1000;
/** Rows that are written out as text. */
const MOST_WRITTEN = 2_000_000;

export class TableReader {
	readonly #ledger: Ledger;
	/** The rows of the last question in their order: the next window asks for the same. */
	#known: { key: string; rows: Uint32Array; buffer: object } | null = null;

	constructor(ledger: Ledger) {
		this.#ledger = ledger;
	}

	/** Lets go of what is kept. */
	close(): void {
		if (this.#known) this.#ledger.letGo(this.#known.buffer);
		this.#known = null;
	}

	window(tables: readonly DataTable[], ask: TableAsk): TableWindow {
		const table = tables.find(({ key }) => key === ask.table) ?? tables[0];
		const listed = tables.map(({ key, label, count }) => ({ key, label, count }));
		if (!table)
			return {
				tables: listed,
				table: null,
				columns: [],
				matching: 0,
				from: 0,
				rows: new Uint32Array(0),
				cells: []
			};
		const series = table.series();
		const rows = this.#rows(table, series, ask);
		const from = Math.max(0, Math.min(rows.length, ask.from));
		const shown = rows.slice(from, from + Math.min(MOST_ROWS, ask.count));
		return {
			tables: listed,
			table: table.key,
			columns: series.map(({ key, name, part, type }) => ({ key, name, part, type })),
			matching: rows.length,
			from,
			rows: shown,
			cells: series.map((one) =>
				one.words
					? Array.from(shown, (row) => one.words![valueAt(one, row)].slice(0, 200))
					: Float64Array.from(shown, (row) => valueAt(one, row))
			)
		};
	}

	statistics(table: DataTable, ask: TableAsk, column: string): Statistics | null {
		const series = table.series();
		const one = series.find(({ key }) => key === column);
		return one && !one.words ? statisticsOf(one, this.#rows(table, series, ask)) : null;
	}

	correlation(table: DataTable, ask: TableAsk, columns: readonly [string, string]): Correlation | null {
		const series = table.series();
		const [one, other] = columns.map((column) => series.find(({ key }) => key === column));
		return one && other ? correlationOf(one, other, this.#rows(table, series, ask)) : null;
	}

	/** Where a row stands in the order that is asked for; −1 where it does not meet the condition. */
	placeOf(table: DataTable, ask: TableAsk, row: number): number {
		return this.#rows(table, table.series(), ask).indexOf(row);
	}

	/** All rows as comma-separated values, as RFC 4180 has them. */
	written(table: DataTable, ask: TableAsk): Uint8Array {
		const series = table.series();
		const rows = this.#rows(table, series, ask);
		const encoder = new TextEncoder();
		const pieces: Uint8Array[] = [
			encoder.encode(`index,${series.map(({ key }) => quoted(key)).join(',')}\r\n`)
		];
		let text = '';
		for (let i = 0; i < Math.min(rows.length, MOST_WRITTEN); i++) {
			pollAt(i);
			text += `${rows[i]}`;
			for (const one of series) {
				const x = valueAt(one, rows[i]);
				text += `,${one.words ? quoted(one.words[x]) : one.data instanceof Float32Array ? shortest(x) : x}`;
			}
			text += '\r\n';
			if (text.length < 1 << 20) continue;
			pieces.push(encoder.encode(text));
			text = '';
		}
		pieces.push(encoder.encode(text));
		const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
		let at = 0;
		for (const piece of pieces) {
			whole.set(piece, at);
			at += piece.length;
		}
		return whole;
	}

	/** The rows that meet the condition, in their order. */
	#rows(table: DataTable, series: readonly Series[], { sort, filter }: TableAsk): Uint32Array {
		const by = sort && series.find(({ key }) => key === sort.column);
		// A condition may read other tables of the same geometry too, so that its columns alone do not say what was read.
		const source = filter || by ? table.source : '';
		const key = [table.key, table.count, source, by?.key, by && sort!.descending, filter].join(' ');
		if (this.#known?.key === key) return this.#known.rows;
		let rows = filter ? where(table.meets(filter)) : everyRow(table.count);
		if (by) rows = sortRows(rows, by, sort!.descending);
		this.close();
		this.#known = { key, rows, buffer: this.#ledger.holdArray(rows) };
		return rows;
	}
}

function everyRow(count: number): Uint32Array {
	const rows = scratch('index', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		rows[i] = i;
	}
	return rows;
}

function where(met: Uint8Array): Uint32Array {
	let count = 0;
	for (let i = 0; i < met.length; i++) {
		pollAt(i);
		if (met[i]) count++;
	}
	const rows = scratch('index', count);
	for (let i = 0, o = 0; i < met.length; i++) {
		pollAt(i);
		if (met[i]) rows[o++] = i;
	}
	return rows;
}

const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** A number of single precision in as few digits as say which it is. */
function shortest(x: number): string {
	for (let digits = 6; digits < 9; digits++) {
		const text = x.toPrecision(digits);
		if (Math.fround(Number(text)) === x) return String(Number(text));
	}
	return String(x);
}
