/** One setting of one node as a row of Settings shows it, and what can be done to it there. */
import type { GraphNode, ScalarSetting, Setting, Wire } from '$core/engine/index';
import type { InputDefinition } from '$core/nodes/index';
import { PARTS, inputKind, inputOf, mayDraft, partName, partOfSetting, settingOf } from '$core/engine/index';
import type { Editor } from '$lib/editor/editor.svelte';
import type { FormulaPlace } from './formula-field.svelte';

/** What a row is about. */
export interface RowOf {
	editor: Editor;
	node: GraphNode;
	name: string;
	input: InputDefinition;
	/** Names of attributes that arrive at the node. */
	attributes: readonly string[];
}

export class SettingRowState {
	readonly #of: () => RowOf;

	constructor(of: () => RowOf) {
		this.#of = of;
	}

	get editor(): Editor {
		return this.#of().editor;
	}
	get node(): GraphNode {
		return this.#of().node;
	}
	get name(): string {
		return this.#of().name;
	}
	get input(): InputDefinition {
		return this.#of().input;
	}
	get setting(): Setting {
		return settingOf(this.node, this.name, this.input);
	}
	/** Another setting of the node, as it is at the frame. */
	settingNamed = (name: string): Setting => settingOf(this.node, name, inputOf(this.node, name)!);
	/** The setting with its keys. */
	get raw(): Setting {
		return this.editor.playing.rawAt({ node: this.node.id, setting: this.name }) ?? this.setting;
	}
	/** The names under which it stands: its own, or those of its parts where each is set by itself. */
	get names(): readonly string[] {
		const { raw, name, input } = this;
		return input.kind === 'vector' && Array.isArray(raw)
			? [name, ...PARTS.map((part) => partName(name, part))]
			: [name];
	}
	wiresInto = (name: string): readonly Wire[] =>
		this.editor.graph.wires.filter(({ to }) => to[0] === this.node.id && to[1] === name);
	/** Whether a label that may lead is dragged over it, or over a part of it. */
	isOver = (name: string): boolean => {
		const over = this.editor.leading.now?.over;
		return over?.[0] === this.node.id && over[1] === name;
	};
	/** Why its parts cannot be set as one; null where they can. */
	get whyNotUniform(): string | null {
		const held = this.names
			.slice(1)
			.find((name) => this.wiresInto(name).length || this.editor.dials.ofSetting(this.node.id, name));
		return held ? `${held.slice(-1)} has a wire or a dial of its own: take that away first.` : null;
	}
	/** What the setting begins with. */
	get original(): Setting {
		return inputKind(this.input).start(this.input) ?? 0;
	}
	get unit(): string {
		return 'unit' in this.input ? (this.input.unit ?? '') : '';
	}
	/** Where a formula of it stands. */
	get place(): FormulaPlace {
		const { editor, node, name, attributes } = this.#of();
		return { editor, node: node.id, input: name, attributes };
	}
	get error() {
		const error = this.editor.evaluation.reports.get(this.node.id)?.error;
		return error?.input === this.name ? error : null;
	}
	get help(): string {
		const isOwn = this.node.inputs?.some(({ name }) => name === this.name);
		return `${this.input.help}${isOwn ? '' : ` In formulas: ${this.node.short}.${this.name}`}`;
	}
	get isPinned(): boolean {
		return this.node.pinned?.includes(this.name) ?? false;
	}

	/** Sets it, as one step of undo. */
	put = (value: Setting): void => {
		this.editor.set(this.node.id, this.name, value, null);
		this.editor.endGesture();
	};
	/** Sets it, or a part of it by name, while something is dragged; `done` ends the step. */
	drag = (value: Setting, done: boolean, name = this.name): void => {
		this.editor.set(this.node.id, name, value, 'drag');
		if (done) this.editor.endGesture();
	};
	/** What stands in for it while something is dragged; null where nothing does. */
	get draft(): number | null {
		const { drafts } = this.node;
		return drafts && Object.hasOwn(drafts, this.name) ? drafts[this.name] : null;
	}
	get mayDraft(): boolean {
		return mayDraft(this.input);
	}
	/** A draft value to begin with: a third of what is set. */
	startDraft = (): void => {
		const { setting } = this;
		const least = 'min' in this.input ? (this.input.min ?? 0) : 0;
		const now = typeof setting === 'number' ? setting : 3 * least;
		this.editor.setDraft(this.node.id, this.name, Math.max(least, Math.round(now / 3)));
	};
	dragDraft = (value: number, done: boolean): void => {
		this.editor.setDraft(this.node.id, this.name, value, 'drag');
		if (done) this.editor.endGesture();
	};
	noDraft = (): void => this.editor.setDraft(this.node.id, this.name, null);
	/** Shows it on the node's label, or no more. */
	pin = (): void => {
		const list = this.node.pinned ?? [];
		this.editor.update(this.node.id, this.isPinned ? 'Hide on node' : 'Show on node', {
			pinned: this.isPinned ? list.filter((one) => one !== this.name) : [...list, this.name]
		});
	};

	/** Whether a vector is set by one scalar: all three parts alike. */
	get isUniform(): boolean {
		return !Array.isArray(this.setting);
	}
	/** From one scalar for all axes to one for each, or back. */
	switchUniform = (): void => {
		const { setting } = this;
		// The first part stays as it is, its keys and all.
		if (Array.isArray(setting)) return this.put(partOfSetting(this.raw, 0));
		// Split apart, a shared random range stays shared: the copies keep their shape until one part is changed.
		const one = setting as ScalarSetting;
		this.put([one, structuredClone(one), structuredClone(one)]);
	};
}
