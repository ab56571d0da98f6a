/** A number field while it is used: typed into, dragged, nudged by keys. What is only looked at stays as it is, to the bit. */
import { readQuantity, showNumber, stepFor, writeNumber } from './quantity';

export interface NumberOf {
	value: number;
	unit: string;
	min: number;
	max: number;
	step?: number;
	whole: boolean;
	/** `done` is false while the value is dragged. */
	onchange: (value: number, done: boolean) => void;
}

/** Which way is finer and which coarser. */
interface Fineness {
	shiftKey: boolean;
	ctrlKey: boolean;
}

/** Pixels from which on a press is a drag. */
const DRAGS_FROM = 3;
/** Digits that are kept of what was dragged or nudged: sums of tenths come out as tenths. */
const tidy = (x: number): number => Number(x.toPrecision(12));

export class NumberFieldState {
	readonly #of: () => NumberOf;
	/** What stands in the field while it has the keys; null while the value is shown. */
	typed = $state<string | null>(null);
	problem = $state('');
	/** What stood in it when it got the keys: left as it is, nothing was typed. */
	#untouched: string | null = null;
	#drag: { x: number; from: number; moved: boolean } | null = null;

	constructor(of: () => NumberOf) {
		this.#of = of;
	}

	readonly shown = $derived.by(() => {
		const { value, unit } = this.#of();
		return this.typed ?? `${showNumber(value)}${unit ? ' ' + unit : ''}`;
	});

	#bounded(x: number): number {
		const { min, max, whole } = this.#of();
		return Math.max(min, Math.min(max, whole ? Math.round(x) : x));
	}
	/** Shift is finer, Ctrl coarser, for keys as for drags. */
	#stepBy({ shiftKey, ctrlKey }: Fineness): number {
		const { value, whole, step } = this.#of();
		const fineness = whole ? (ctrlKey ? 10 : 1) : shiftKey ? 0.1 : ctrlKey ? 10 : 1;
		return stepFor(this.#drag?.from ?? value, whole, step) * fineness;
	}

	/** It gets the keys: all digits stand there. Gives the text. */
	focus(): string {
		this.problem = '';
		return (this.typed = this.#untouched = writeNumber(this.#of().value));
	}
	type(text: string): void {
		this.typed = text;
	}
	/** Takes what was typed, if anything was. */
	commit(): void {
		const { typed } = this;
		if (typed === null) return;
		if (typed === this.#untouched) {
			this.typed = null;
			this.problem = '';
			return;
		}
		try {
			const next = this.#bounded(readQuantity(typed));
			this.problem = '';
			this.typed = this.#untouched = null;
			const { value, onchange } = this.#of();
			if (next !== value) onchange(next, true);
		} catch (error) {
			this.problem = (error as Error).message;
		}
	}
	/** Leaves it as it was. */
	cancel(): void {
		this.typed = this.#untouched = null;
		this.problem = '';
	}
	/** It loses the keys; what cannot be read stays, with what is wrong. */
	blur(): void {
		this.commit();
		if (!this.problem) this.typed = this.#untouched = null;
	}

	/** One step up or down by a key. */
	nudge(up: boolean, by: Fineness): void {
		this.commit();
		if (this.problem) return;
		const { value, onchange } = this.#of();
		const next = this.#bounded(tidy(value + (up ? 1 : -1) * this.#stepBy(by)));
		if (next !== value) onchange(next, true);
	}

	press(x: number): void {
		this.#drag = { x, from: this.#of().value, moved: false };
	}
	drag(x: number, by: Fineness): void {
		const drag = this.#drag;
		if (!drag) return;
		const far = x - drag.x;
		if (!drag.moved && Math.abs(far) < DRAGS_FROM) return;
		drag.moved = true;
		const { value, onchange } = this.#of();
		const next = this.#bounded(tidy(drag.from + Math.round(far / 2) * this.#stepBy(by)));
		if (next !== value) onchange(next, false);
	}
	/** Lets go; gives whether it was a mere press, which puts the keys into the field. */
	release(): boolean {
		const drag = this.#drag;
		this.#drag = null;
		if (!drag) return false;
		const { value, onchange } = this.#of();
		if (drag.moved) onchange(value, true);
		return !drag.moved;
	}
}
