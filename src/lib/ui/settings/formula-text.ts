/**
 * A field in which formulas are written: colours, proposals with help, and the mistake underlined. Loaded when a formula is
 * first looked at, as the editor behind it is large.
 */
import {
	acceptCompletion,
	autocompletion,
	closeBrackets,
	closeBracketsKeymap,
	closeCompletion,
	completionKeymap,
	completionStatus,
	selectedCompletionIndex
} from '@codemirror/autocomplete';
import type { Completion, CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, insertNewline } from '@codemirror/commands';
import { HighlightStyle, StreamLanguage, bracketMatching, syntaxHighlighting } from '@codemirror/language';
import { EditorState, StateEffect, StateField, Transaction } from '@codemirror/state';
import { Decoration, EditorView, keymap } from '@codemirror/view';
import type { DecorationSet } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import type { Proposal } from '$core/engine/index';

export interface FormulaTextOptions {
	parent: HTMLElement;
	text: string;
	label: string;
	/** What may be written here, what is nearest first. */
	proposals: () => readonly Proposal[];
	ontype: (text: string) => void;
	/** Enter, or the field is left. */
	ondone: () => void;
	/** Escape: what stood there before comes back. */
	oncancel: () => void;
	onfocus: (focused: boolean) => void;
	/** Whether proposals stand open. */
	onpropose: (open: boolean) => void;
}

export interface FormulaText {
	/** Shows another text, where it is another. */
	show(text: string): void;
	/** Underlines a mistake, or nothing. */
	underline(place: { from: number; to: number } | null): void;
	focus(): void;
	close(): void;
}

const LANGUAGE = StreamLanguage.define<null>({
	startState: () => null,
	token(stream) {
		if (stream.eatSpace()) return null;
		if (stream.match(/^(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?/)) return 'number';
		if (stream.match(/^(and|or|not)(?![\p{L}\p{N}_])/u)) return 'keyword';
		if (stream.match(/^[\p{L}_][\p{L}\p{N}_]*/u)) {
			if (/^\s*\(/.test(stream.string.slice(stream.pos))) return 'function';
			// A part of a vector is no other node's setting.
			if (stream.match(/^\.[xyz](?![\p{L}\p{N}_.])/u)) return 'name';
			return stream.match(/^(\.[\p{L}_][\p{L}\p{N}_]*)+/u) ? 'reference' : 'name';
		}
		stream.next();
		return 'operator';
	},
	tokenTable: {
		function: tags.function(tags.variableName),
		reference: tags.propertyName,
		name: tags.variableName
	}
});

const COLOURS = HighlightStyle.define([
	{ tag: tags.number, color: 'var(--ochre)' },
	{ tag: tags.keyword, color: 'var(--teal)', fontWeight: '600' },
	{ tag: tags.function(tags.variableName), color: 'var(--teal)' },
	{ tag: tags.propertyName, color: 'var(--coral)' },
	{ tag: tags.variableName, color: 'var(--ink)' },
	{ tag: tags.operator, color: 'var(--quiet)' }
]);

const LOOK = EditorView.theme({
	'&': { fontSize: '12px', backgroundColor: 'transparent' },
	'&.cm-focused': { outline: 'none' },
	'.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '1.45' },
	'.cm-content': { padding: '2px 0', caretColor: 'var(--ink)' },
	'.cm-line': { padding: '0 6px' },
	'.cm-matchingBracket': { backgroundColor: 'color-mix(in srgb, var(--teal) 22%, transparent) !important' },
	'.cm-mistake': {
		borderBottom: '2px dotted var(--plum)',
		backgroundColor: 'color-mix(in srgb, var(--plum) 14%, transparent)'
	},
	'.cm-tooltip': {
		border: '1px solid var(--line)',
		borderRadius: '5px',
		backgroundColor: 'var(--sheet)',
		color: 'var(--ink)',
		boxShadow: '0 6px 24px rgb(0 0 0 / 0.16)',
		zIndex: '70'
	},
	'.cm-tooltip.cm-tooltip-autocomplete > ul': {
		fontFamily: 'var(--font-mono)',
		maxHeight: '15em',
		maxWidth: '24rem'
	},
	'.cm-tooltip.cm-tooltip-autocomplete > ul > li': { padding: '2px 8px', lineHeight: '1.5' },
	'.cm-tooltip-autocomplete ul li[aria-selected]': {
		backgroundColor: 'color-mix(in srgb, var(--line) 60%, transparent) !important',
		color: 'var(--ink) !important'
	},
	'.cm-completionMatchedText': { textDecoration: 'none', fontWeight: '700', color: 'var(--coral)' },
	'.cm-completionDetail': {
		color: 'var(--quiet)',
		fontStyle: 'normal',
		marginLeft: '1em',
		fontFamily: 'var(--font-sans)'
	},
	'.cm-completionInfo': {
		padding: '6px 10px',
		maxWidth: '17rem',
		fontFamily: 'var(--font-sans)',
		fontSize: '12px'
	}
});

const underlined = StateEffect.define<{ from: number; to: number } | null>();
const MISTAKE = Decoration.mark({ class: 'cm-mistake' });
const mistakes = StateField.define<DecorationSet>({
	create: () => Decoration.none,
	update(marks, change) {
		let next = marks.map(change.changes);
		for (const effect of change.effects) {
			if (!effect.is(underlined)) continue;
			const { length } = change.state.doc;
			const from = Math.min(effect.value?.from ?? 0, Math.max(0, length - 1));
			const to = Math.min(effect.value?.to ?? 0, length);
			next =
				effect.value && length
					? Decoration.set([MISTAKE.range(from, Math.max(to, from + 1))])
					: Decoration.none;
		}
		return next;
	},
	provide: (field) => EditorView.decorations.from(field)
});

/** What each kind of name is called beside it. */
const DETAIL: Readonly<Record<Proposal['kind'], string>> = {
	input: 'input',
	setting: 'setting here',
	attribute: 'attribute',
	element: 'of the element',
	constant: 'constant',
	function: '',
	'other node': 'setting',
	word: ''
};

function completionOf({ name, kind, says, call }: Proposal, place: number): Completion {
	return {
		label: name,
		displayLabel: call ?? name,
		detail: DETAIL[kind],
		info: says,
		boost: -place / 20,
		apply:
			kind !== 'function'
				? name
				: (view, _, from, to) => {
						const hasParenthesis = view.state.sliceDoc(to, to + 1) === '(';
						view.dispatch({
							changes: { from, to, insert: hasParenthesis ? name : `${name}()` },
							selection: { anchor: from + name.length + 1 }
						});
					}
	};
}

/** The name that ends at the cursor. */
const wordBefore = (state: EditorState): string =>
	/[\p{L}_][\p{L}\p{N}_.]*$/u.exec(state.sliceDoc(0, state.selection.main.head))?.[0] ?? '';

export function makeFormulaText(options: FormulaTextOptions): FormulaText {
	const { parent, text, label, proposals, ontype, ondone, oncancel, onfocus, onpropose } = options;
	/** Whether a text is put there that nobody typed. */
	let isPutting = false;
	const complete = (context: CompletionContext): CompletionResult | null => {
		const word = context.matchBefore(/[\p{L}_][\p{L}\p{N}_.]*/u);
		if (!word && !context.explicit) return null;
		// After a number comes a unit, or a sign.
		if (word && /[\d.]\s*$/.test(context.state.sliceDoc(0, word.from))) return null;
		return {
			from: word?.from ?? context.pos,
			options: proposals().map(completionOf),
			validFor: /^[\p{L}\p{N}_.]*$/u
		};
	};
	const view = new EditorView({
		parent,
		state: EditorState.create({
			doc: text,
			extensions: [
				keymap.of([
					{
						key: 'Enter',
						run: (own) => {
							// A name that is written out is not completed, unless another one was gone to.
							const word = wordBefore(own.state);
							const isWhole = proposals().some(({ name }) => name === word);
							const isGoneTo = (selectedCompletionIndex(own.state) ?? 0) > 0;
							const isOpen = completionStatus(own.state) === 'active';
							if (isOpen && (isGoneTo || !isWhole) && acceptCompletion(own)) return true;
							ondone();
							return true;
						}
					},
					{
						key: 'Mod-s',
						run: () => {
							ondone();
							return false;
						}
					},
					{ key: 'Shift-Enter', run: insertNewline },
					{
						key: 'Escape',
						run: (own) => {
							if (!closeCompletion(own)) oncancel();
							return true;
						}
					},
					...closeBracketsKeymap,
					...completionKeymap.filter(({ key }) => key !== 'Enter' && key !== 'Escape'),
					...historyKeymap,
					...defaultKeymap
				]),
				history(),
				LANGUAGE,
				syntaxHighlighting(COLOURS),
				bracketMatching(),
				closeBrackets(),
				autocompletion({
					override: [complete],
					// Its own keys would come before those above: Enter took a proposal where the name stood there whole.
					defaultKeymap: false,
					icons: false,
					interactionDelay: 0,
					activateOnTypingDelay: 60,
					maxRenderedOptions: 60
				}),
				mistakes,
				EditorView.lineWrapping,
				EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false' }),
				EditorView.domEventHandlers({
					focus: () => onfocus(true),
					blur: () => {
						onfocus(false);
						ondone();
					}
				}),
				EditorView.updateListener.of((update) => {
					onpropose(completionStatus(update.state) === 'active');
					if (update.docChanged && !isPutting) ontype(update.state.doc.toString());
				}),
				LOOK
			]
		})
	});
	return {
		show(next) {
			if (view.state.doc.toString() === next) return;
			isPutting = true;
			// What was put there, not typed, is not undone in the field: the generator has its own undo.
			view.dispatch({
				changes: { from: 0, to: view.state.doc.length, insert: next },
				annotations: Transaction.addToHistory.of(false)
			});
			isPutting = false;
		},
		underline(place) {
			view.dispatch({ effects: underlined.of(place) });
			view.contentDOM.setAttribute('aria-invalid', String(!!place));
		},
		focus: () => view.focus(),
		close: () => view.destroy()
	};
}
