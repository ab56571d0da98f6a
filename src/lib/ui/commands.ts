/** What can be done in Build by a key or by its name: the one list behind the keys, their table and the command search. */
import { PARTS, inputsShown, partName, settingOf } from '../../../core/engine/index.ts';
import type { Editor } from '../editor/editor.svelte.ts';

export interface Doable {
	name: string;
	/** The keys that do it, as `pressed` spells them. */
	keys: readonly string[];
	run: () => void;
}

/** What of the screen the commands reach. */
export interface Screen {
	editor: Editor;
	/** Whether the View has the keys; else the graph is meant. */
	inView(): boolean;
	flow():
		| { openSearch(): void; deleteSelected(): void; fit(ids?: Iterable<string>): unknown; tidy(): void }
		| undefined;
	view():
		| {
				fitAll(): void;
				fitSelection(): void;
				look(direction: 'top' | 'front' | 'east' | 'perspective'): void;
				setHandleMode(mode: 'translate' | 'rotate' | 'scale'): void;
		  }
		| undefined;
	fill(pane: 1 | 2 | 3): void;
	exportResult(): void;
	exportFrames(): void;
	saveFile(): void;
	listKeys(): void;
	findCommand(): void;
	changeTheme(): void;
}

export function commandsOf(screen: Screen): Doable[] {
	const { editor, flow, view, inView, fill } = screen;
	const fitGraph = () => flow()?.fit(editor.selected.size ? editor.selected : undefined);
	const one = (name: string, keys: readonly string[], run: () => void): Doable => ({ name, keys, run });
	return [
		one('Add a node', ['/'], () => flow()?.openSearch()),
		one('Find a command', ['Ctrl+K'], screen.findCommand),
		one('List the keys', ['?'], screen.listKeys),
		one('Graph fills the screen, or returns', ['1'], () => fill(1)),
		one('Settings fill the screen, or return', ['2'], () => fill(2)),
		one('View fills the screen, or returns', ['3'], () => fill(3)),
		one('Fit what is selected', ['F'], () => (inView() ? view()?.fitSelection() : fitGraph())),
		one('Fit all', ['Shift+F'], () => (inView() ? view()?.fitAll() : flow()?.fit())),
		one('Handles to move', ['M'], () => view()?.setHandleMode('translate')),
		one('Handles to rotate', ['R'], () => view()?.setHandleMode('rotate')),
		one('Handles to scale', ['S'], () => view()?.setHandleMode('scale')),
		one('Look from the top', ['Alt+T'], () => view()?.look('top')),
		one('Look from the front', ['Alt+N'], () => view()?.look('front')),
		one('Look from the east', ['Alt+E'], () => view()?.look('east')),
		one('Perspective', ['Alt+P'], () => view()?.look('perspective')),
		one('Show or hide in the View', ['H'], () => editor.toggleSelectedShown()),
		one('Bypass or enable', ['Shift+H'], () => editor.bypassSelected()),
		one('Delete; the wire is healed where it can be', ['Delete', 'Backspace'], () =>
			flow()?.deleteSelected()
		),
		one('Undo', ['Ctrl+Z'], () => editor.undo()),
		one('Redo', ['Ctrl+Shift+Z', 'Ctrl+Y'], () => editor.redo()),
		one('Duplicate', ['Ctrl+D'], () => editor.duplicate()),
		one('Select all nodes', ['Ctrl+A'], () => editor.select(editor.graph.nodes.map(({ id }) => id))),
		one('Select nothing', ['Escape'], () => editor.select([])),
		one('Go into the body of a node', ['Enter'], () => editor.active && editor.place.enter(editor.active.id)),
		one('Go out of the body', ['Shift+Enter'], () => editor.place.leave()),
		one('Make a subgraph of what is selected', [], () => editor.place.makeOfSelected('subgraph')),
		one('Make a repeat of what is selected', [], () => editor.place.makeOfSelected('repeat')),
		one('Vary each copy by what is selected', [], () => editor.place.makeOfSelected('vary-each-copy')),
		one('Take the subgraph apart', [], () => editor.place.takeApart()),
		one('Pass before', [], () => editor.place.lookAt((editor.evaluation.inside?.place ?? 0) - 1)),
		one('Pass after', [], () => editor.place.lookAt((editor.evaluation.inside?.place ?? 0) + 1)),
		one('Save as a file', ['Ctrl+S'], screen.saveFile),
		one('Arrange the graph', [], () => flow()?.tidy()),
		...tiesOf(editor, one),
		one('Show or hide references', [], () => (editor.showsReferences = !editor.showsReferences)),
		one('Data', [], () => (editor.drawer = 'data')),
		one('Ramps', [], () => (editor.drawer = 'ramps')),
		one('Order of the chain', [], () => (editor.drawer = 'order')),
		one('Timeline', [], () => (editor.drawer = 'timeline')),
		one('Play or pause', ['Space'], () => {
			editor.drawer ??= 'timeline';
			editor.playing.toggle();
		}),
		one('First frame', ['Home'], () => editor.playing.toStart()),
		one('Last frame', ['End'], () => editor.playing.toEnd()),
		one('Export', [], screen.exportResult),
		one('Export frames: animation, pictures, video', [], screen.exportFrames),
		one('Change the theme', [], screen.changeTheme),
		one('Stop', [], () => editor.evaluation.stop())
	];
}

/** The numbers of the node that is selected, each to be tied to another setting. */
function tiesOf(
	editor: Editor,
	one: (name: string, keys: readonly string[], run: () => void) => Doable
): Doable[] {
	const { active } = editor;
	if (!active) return [];
	return inputsShown(active).flatMap(([setting, input]) => {
		if (input.kind !== 'number' && input.kind !== 'vector' && input.kind !== 'value') return [];
		const isParted = input.kind === 'vector' && Array.isArray(settingOf(active, setting, input));
		const names = isParted ? PARTS.map((part) => partName(setting, part)) : [setting];
		return names.map((name) =>
			one(`Tie ${active.short}.${name} to another setting`, [], () => {
				editor.dials.tying = { node: active.id, setting: name };
			})
		);
	});
}

/** Keys that no command stands for. */
export const OTHER_KEYS: readonly (readonly [keys: string, does: string])[] = [
	['Ctrl+C, X, V', 'Copy, cut, paste nodes'],
	['Arrows', 'Turn the view; with Shift move it. In the graph, move a node'],
	['+ −', 'Nearer, further (in the View)']
];

/** A key press as it is written in the list: `Ctrl+Shift+Z`, `Alt+T`, `F`, `?`. The command key counts as Ctrl. */
export function pressed(event: {
	key: string;
	/** The key's place on the board, such as `KeyT`. */
	code?: string;
	ctrlKey: boolean;
	metaKey: boolean;
	altKey: boolean;
	shiftKey: boolean;
}): string {
	// With Alt some keyboards type a sign in place of the letter: then the key's place says which it is.
	const placed = event.altKey && /^Key([A-Z])$/.exec(event.code ?? '')?.[1];
	const key = placed || (event.key === ' ' ? 'Space' : event.key);
	const isLetter = /^\p{L}$/u.test(key);
	return [
		...(event.ctrlKey || event.metaKey ? ['Ctrl'] : []),
		...(event.altKey ? ['Alt'] : []),
		// Shift is part of signs such as “?” already.
		...(event.shiftKey && (isLetter || key.length > 1) ? ['Shift'] : []),
		isLetter ? key.toUpperCase() : key
	].join('+');
}
