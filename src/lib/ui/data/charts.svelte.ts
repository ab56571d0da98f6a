/** What the charts of the Data drawer show: one column's spread, or two columns and how they hang together. */
import type { Editor } from '$lib/editor/editor.svelte';
import type { Correlation, Statistics } from '$core/session/series';
import { written } from './written';
import type { DataTable } from './data-table.svelte';

export class Charts {
	readonly #editor: Editor;
	readonly #table: DataTable;
	first = $state('');
	second = $state('');
	statistics = $state.raw<readonly (Statistics | null)[]>([]);
	correlation = $state.raw<Correlation | null>(null);
	#isAsking = false;
	#isLate = false;

	constructor(editor: Editor, table: DataTable) {
		this.#editor = editor;
		this.#table = table;
	}

	/** Columns of numbers. */
	get columns(): readonly string[] {
		return this.#table.about.columns.filter(({ type }) => type !== 'text').map(({ key }) => key);
	}

	async refresh(): Promise<void> {
		if (this.#isAsking) {
			this.#isLate = true;
			return;
		}
		if (!this.columns.includes(this.first)) this.first = this.columns[0] ?? '';
		if (!this.columns.includes(this.second)) this.second = '';
		if (!this.first) return;
		this.#isAsking = true;
		this.#isLate = false;
		const columns = this.second ? [this.first, this.second] : [this.first];
		const answer = await this.#editor.evaluation.client
			.statistics(this.#table.ask, columns)
			.catch(() => null);
		this.#isAsking = false;
		this.statistics = answer?.statistics ?? [];
		this.correlation = answer?.correlation ?? null;
		if (this.#isLate) void this.refresh();
	}

	/** The facts about the first column, as words and numbers. */
	get facts(): { name: string; value: string }[] {
		const [one] = this.statistics;
		if (!one) return [];
		return [
			{ name: 'least', value: written(one.least) },
			{ name: 'greatest', value: written(one.greatest) },
			{ name: 'mean', value: written(one.mean) },
			{ name: 'deviation', value: written(one.deviation) },
			...(one.broken ? [{ name: 'no numbers', value: String(one.broken) }] : [])
		];
	}

	/** Whether two columns hang together, in a sentence. */
	get sentence(): string {
		if (!this.correlation) return '';
		const { r, count } = this.correlation;
		const [one, other] = this.statistics;
		if (!one?.deviation || !other?.deviation)
			return 'One of the two is the same everywhere, so nothing can be said.';
		const amount = `r = ${r.toFixed(2)}`;
		// What chance alone gives is about 1 / √count.
		const chance = 4 / Math.sqrt(Math.max(1, count));
		if (Math.abs(r) > 0.9999)
			return `The same numbers${r < 0 ? ', one turned over' : ''}: ${amount}. They read one stream, or one is made of the other.`;
		if (Math.abs(r) <= chance) return `Independent: ${amount}.`;
		return `${Math.abs(r) > 0.7 ? 'Closely' : Math.abs(r) > 0.3 ? 'Partly' : 'A little'} correlated: ${amount}.`;
	}
}
