/** The table of a node in the drawer: its windows are asked for as they are looked at, and kept while nothing changes. */
import type { Editor } from '$lib/editor/editor.svelte';
import { Newest } from '$lib/editor/newest';
import type { TableAsk, TableWindow } from '$core/session/messages';
import { written } from './written';

/** Rows that are asked for together. */
const BLOCK = 200;
/** Blocks that are kept: scrolling on and on must not fill the page. */
const KEPT = 40;

type Block = Pick<TableWindow, 'rows' | 'cells'>;
export type Column = TableWindow['columns'][number];

const NONE: Omit<TableWindow, 'rows' | 'cells' | 'from'> = {
	tables: [],
	table: null,
	columns: [],
	matching: 0
};

export class DataTable {
	readonly #editor: Editor;
	/** The node whose table is shown; the selected one, unless one is held. */
	held = $state<string | null>(null);
	chosen = $state<string | null>(null);
	sort = $state.raw<TableAsk['sort']>(null);
	filter = $state('');
	/** Why the filter cannot be followed. */
	trouble = $state('');
	/** What is known of the table, without its rows. */
	about = $state.raw(NONE);
	/** Columns that are left out. */
	hidden = $state.raw<ReadonlySet<string>>(new Set());
	/** The number of the row that is looked at. */
	row = $state<number | null>(null);
	/** A place that is to be brought into sight. */
	goTo = $state<number | null>(null);
	/** Counts up as blocks arrive, so that rows are drawn anew. */
	arrived = $state(0);
	#blocks = new Map<number, Block>();
	#asked = new Set<number>();
	/** Counts up with each change: what was asked before is out of date. */
	#turn = 0;
	#first = 0;
	#last = 0;
	readonly #asking = new Newest<void>(() => this.#load());

	constructor(editor: Editor) {
		this.#editor = editor;
	}

	get node(): string | null {
		const id = this.held ?? this.#editor.active?.id ?? this.#editor.shown[0] ?? null;
		return this.#editor.graph.nodes.some((node) => node.id === id) ? id : null;
	}

	get short(): string {
		return this.#editor.graph.nodes.find(({ id }) => id === this.node)?.short ?? '';
	}

	get columns(): readonly Column[] {
		return this.about.columns.filter(({ key }) => !this.hidden.has(key));
	}

	get ask(): TableAsk {
		return {
			node: this.node ?? '',
			table: this.chosen,
			sort: this.sort,
			filter: this.filter.trim(),
			from: 0,
			count: BLOCK
		};
	}

	/** What is shown may be another now: the rows that are looked at are asked for anew. */
	refresh(): void {
		this.#asking.ask();
	}

	async #load(): Promise<void> {
		this.#turn++;
		const first = Math.floor(this.#first / BLOCK);
		try {
			const window = this.node
				? await this.#editor.evaluation.client.table({ ...this.ask, from: first * BLOCK })
				: null;
			this.trouble = '';
			const { tables, table, columns, matching } = window ?? NONE;
			this.about = { tables, table, columns, matching };
			this.#blocks.clear();
			this.#asked.clear();
			if (window?.rows.length) this.#keep(Math.floor(window.from / BLOCK), window);
			this.arrived++;
			this.#askForSeen();
		} catch (error) {
			this.trouble = (error as Error).message;
		}
	}

	/** The rows from one place to another are looked at. */
	see(first: number, last: number): void {
		this.#first = first;
		this.#last = last;
		this.#askForSeen();
	}

	#askForSeen(): void {
		for (let b = Math.floor(this.#first / BLOCK); b <= Math.floor(this.#last / BLOCK); b++)
			if (!this.#blocks.has(b) && !this.#asked.has(b) && b * BLOCK < this.about.matching) void this.#fetch(b);
	}

	async #fetch(b: number): Promise<void> {
		const turn = this.#turn;
		this.#asked.add(b);
		const window = await this.#editor.evaluation.client
			.table({ ...this.ask, from: b * BLOCK })
			.catch(() => null);
		if (turn !== this.#turn || !window) return;
		this.#asked.delete(b);
		this.#keep(b, window);
		this.arrived++;
	}

	#keep(b: number, { rows, cells }: Block): void {
		this.#blocks.set(b, { rows, cells });
		if (this.#blocks.size <= KEPT) return;
		const [oldest] = this.#blocks.keys();
		this.#blocks.delete(oldest);
	}

	/** The number of the row at a place, and what stands in its cells; null while it is on its way. */
	at(place: number): { row: number; cell: (column: string) => string } | null {
		void this.arrived;
		const block = this.#blocks.get(Math.floor(place / BLOCK));
		const i = place % BLOCK;
		if (!block || i >= block.rows.length) return null;
		return {
			row: block.rows[i],
			cell: (key) => {
				const c = this.about.columns.findIndex((column) => column.key === key);
				const value = block.cells[c]?.[i];
				return typeof value === 'string' ? value : written(value, this.about.columns[c].type);
			}
		};
	}

	/** Up, then down, then as it comes. */
	sortBy(column: string): void {
		this.sort =
			this.sort?.column !== column
				? { column, descending: false }
				: this.sort.descending
					? null
					: { column, descending: true };
	}

	toggleColumn(key: string): void {
		const hidden = new Set(this.hidden);
		if (!hidden.delete(key)) hidden.add(key);
		this.hidden = hidden;
	}

	/** Looks at a row: the View marks where it stands. */
	async look(row: number | null): Promise<void> {
		this.row = row;
		if (row === null) return void (this.#editor.marked = null);
		const found = await this.#editor.evaluation.client.row(this.ask, row).catch(() => null);
		if (this.row === row)
			this.#editor.marked = found?.at ? { at: found.at, name: `${this.short} ${row}` } : null;
	}

	/** Brings a row of a table into sight, all rows in the order in which they are. */
	async bring({ node, table, row }: { node: string; table: string; row: number }): Promise<void> {
		if (this.held) this.held = node;
		this.chosen = table;
		this.sort = null;
		this.filter = '';
		await this.look(row);
		this.goTo = row;
	}

	/** Looks at the row that stands nearest to a place, and says where it is in the table. */
	async lookNear(place: readonly number[]): Promise<void> {
		const found = await this.#editor.evaluation.client.row(this.ask, place).catch(() => null);
		if (!found || found.row < 0) return;
		this.row = found.row;
		this.#editor.marked = found.at && { at: found.at, name: `${this.short} ${found.row}` };
		if (found.place >= 0) this.goTo = found.place;
	}

	/** The whole table as a file. */
	async save(): Promise<void> {
		const bytes = await this.#editor.evaluation.client.written(this.ask);
		if (!bytes) return;
		const url = URL.createObjectURL(new Blob([bytes as BlobPart], { type: 'text/csv' }));
		const link = Object.assign(document.createElement('a'), { href: url, download: `${this.short}.csv` });
		link.click();
		URL.revokeObjectURL(url);
	}

	/** The whole table as text with tabs, as sheets take it. */
	async copy(): Promise<void> {
		const bytes = await this.#editor.evaluation.client.written(this.ask);
		if (bytes) await navigator.clipboard.writeText(new TextDecoder().decode(bytes));
	}
}
