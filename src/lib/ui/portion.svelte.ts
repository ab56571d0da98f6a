/** A long list is shown by and by: the first of it, and more when asked. */
export class Portion {
	/** How many are shown. */
	#shown = $state(0);
	readonly #step: number;

	constructor(step: number) {
		this.#step = step;
		this.#shown = step;
	}

	/** What is shown of a list; what is `wanted` always is. */
	of<Row>(list: readonly Row[], wanted: (row: Row) => boolean = () => false): readonly Row[] {
		return list.length <= this.#shown ? list : list.filter((row, i) => i < this.#shown || wanted(row));
	}

	/** How many more come when asked; 0 where all are shown. */
	more({ length }: { length: number }): number {
		return Math.max(0, Math.min(this.#step, length - this.#shown));
	}
	show(): void {
		this.#shown += this.#step;
	}
}
