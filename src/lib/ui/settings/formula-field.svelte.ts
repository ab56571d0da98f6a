/** A formula while it is written: its text, what is wrong with it, and what it would come to. */
import type { FormulaLook, LookAsk } from '$core/session/messages';
import { FormulaError, RESERVED, namesIn, parseFormula, renameName } from '$core/varying/index';
import type { Proposal, Setting } from '$core/engine/index';
import { proposalsAt } from '$core/engine/index';
import type { Editor } from '$lib/editor/editor.svelte';
import { Newest } from '$lib/editor/newest';
import { showNumber } from './quantity';

/** Where a formula stands. */
export interface FormulaPlace {
	editor: Editor;
	node: string;
	input: string;
	/** Names of attributes that arrive at the node. */
	attributes: readonly string[];
}

export interface FormulaOf {
	place: FormulaPlace;
	value: string;
	/** The setting that a text makes. */
	settingOf: (text: string) => Setting;
	onchange: (text: string) => void;
}

/** Typing rests for this long before the text is tried. */
const TRIES_AFTER = 120;

export class FormulaFieldState {
	readonly #of: () => FormulaOf;
	typed = $state<string | null>(null);
	isFocused = $state(false);
	/** While proposals stand open, a name that is not written out yet is no mistake. */
	isProposing = $state(false);
	look = $state.raw<{ of: string; look: FormulaLook } | null>(null);
	readonly text: string = $derived.by(() => this.typed ?? this.#of().value);
	/** What the text alone tells of; what its place says of it comes from the worker. */
	readonly #unreadable = $derived.by((): FormulaLook['trouble'] => {
		try {
			parseFormula(this.text);
			return null;
		} catch (error) {
			return error instanceof FormulaError ? error : null;
		}
	});
	/** Whether it is asked what it comes to: while it is written, and where its node has an error, which may be this one's. */
	readonly #isAsked = $derived.by(() => {
		const { editor, node } = this.#of().place;
		return this.isFocused || this.typed !== null || !!editor.evaluation.reports.get(node)?.error;
	});
	/** What the worker said last; of another text, or of another setting, it does not count. */
	readonly told = $derived(this.#isAsked && this.look?.of === this.#key ? this.look.look : null);
	readonly trouble = $derived(this.#unreadable ?? this.told?.trouble ?? null);

	constructor(of: () => FormulaOf) {
		this.#of = of;
		const asking = new Newest<{ of: string; place: FormulaPlace; about: LookAsk }>(
			async ({ of, place, about }) => {
				const look = await place.editor.evaluation.client.look(about);
				if (look) this.look = { of, look };
			}
		);
		// Tried where it will stand, anew after each evaluation and a moment after the last key.
		$effect(() => {
			const { place, settingOf } = this.#of();
			const { text } = this;
			void place.editor.evaluation.count;
			if (this.#unreadable || !this.#isAsked) return;
			const about = { node: place.node, input: place.input, text, setting: settingOf(text) };
			const ask = { of: this.#key, place, about };
			const timer = setTimeout(() => asking.ask(ask), this.typed === null ? 0 : TRIES_AFTER);
			return () => clearTimeout(timer);
		});
	}

	/** The text with its place: fields are used again for settings of the same name. */
	get #key(): string {
		const { node, input } = this.#of().place;
		return `${node} ${input} ${this.text}`;
	}

	/** What may be written here. */
	get proposals(): Proposal[] {
		const { editor, node, input, attributes } = this.#of().place;
		const own = editor.node(node);
		const { isRepeated } = editor.place;
		return own
			? proposalsAt(editor.graph, own, input, attributes, { isRepeated, dials: editor.document.dials })
			: [];
	}

	/** Names that have no meaning of their own here: they are read as attributes. */
	get strangers(): string[] {
		if (this.#unreadable) return [];
		const known = new Set(this.proposals.map(({ name }) => name));
		const names = namesIn(parseFormula(this.text)).map(({ name }) => name.replace(/\.[xyz]$/, ''));
		return [...new Set(names)].filter(
			(name) =>
				!name.includes('.') && !known.has(name) && !RESERVED.includes(name) && name !== this.trouble?.unknown
		);
	}

	commit = (): void => {
		const { typed } = this;
		this.typed = null;
		if (typed !== null && typed !== this.#of().value) this.#of().onchange(typed);
	};
	cancel = (): void => {
		this.typed = null;
	};
	mend = (): void => {
		const { trouble, text } = this;
		if (!trouble?.mending) return;
		this.typed = null;
		const { from, to, mending, rename } = trouble;
		this.#of().onchange(
			rename ? renameName(text, rename.from, rename.to) : text.slice(0, from) + mending.text + text.slice(to)
		);
	};

	/** What it comes to, in a line or two; empty where nothing is known of it. */
	get comesTo(): string {
		const { told } = this;
		if (!told || told.trouble) return '';
		return lookInWords(told);
	}
}

/** “240 points: 0 to 1.2 · first 0, 0.1 …”. */
function lookInWords({ of, count, width, isYesNo, first, ranges, broken, note }: FormulaLook): string {
	const row = (i: number) => {
		const parts = first.slice(i * width, (i + 1) * width).map(showNumber);
		return width === 3 ? `(${parts.join(', ')})` : isYesNo ? (first[i] ? 'yes' : 'no') : parts[0];
	};
	const rows = Array.from({ length: first.length / width }, (_, i) => row(i));
	if (!rows.length) return of;
	const meant = note && ` · ${note}`;
	const unanswered = broken
		? ` · ${broken.toLocaleString('en')} ${broken === 1 ? 'has' : 'have'} no answer, 0 is used`
		: '';
	if (!of) return `= ${rows[0]}${unanswered}${meant}`;
	const spans = isYesNo
		? ''
		: ranges
				.map(([low, high], k) => {
					const span = low === high ? showNumber(low) : `${showNumber(low)} to ${showNumber(high)}`;
					return width === 3 ? `${'xyz'[k]} ${span}` : span;
				})
				.join(', ');
	return `${of}${spans && `: ${spans}`} · first ${rows.join(', ')}${count > rows.length ? ' …' : ''}${unanswered}${meant}`;
}
