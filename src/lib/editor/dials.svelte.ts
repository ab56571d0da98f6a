/** What the maker hands to users: dials, and ties between settings. Markup only calls what stands here. */
import { toast } from 'svelte-sonner';
import type { Dial, GeneratorDocument, Setting, SettingIn, Tie, TieEnd } from '$core/engine/index';
import {
	bodyNameOf,
	dialOf,
	isSameEnd,
	proposedEquations,
	readersOfDial,
	troubleOfDial,
	whyNoTie,
	whyNotInHand,
	whyNotLinked,
	withDialChanged,
	withDialFor,
	withDialMoved,
	withDialValues,
	withLink,
	withMaterialDial,
	withTie,
	withoutDial,
	withoutLink,
	withoutTie
} from '$core/engine/index';
import type { Hand } from './hand';
import type { Place } from './place.svelte';
import type { Playing } from './playing.svelte';

type DialsHand = Hand & { readonly place: Place; readonly playing: Pick<Playing, 'asTurned'> };

export class Dials {
	readonly #editor: DialsHand;
	/** The dial whose own settings are open. */
	opened = $state<string | null>(null);
	/** A setting, or a part of one, of which it shall be asked what it is tied to. */
	tying = $state.raw<{ node: string; setting: string } | null>(null);

	constructor(editor: DialsHand) {
		this.#editor = editor;
	}

	get #document(): GeneratorDocument {
		return this.#editor.document;
	}
	get all(): readonly Dial[] {
		return this.#document.dials;
	}
	/** Why each dial does less than it could; found once for each state of the document. */
	readonly troubles = $derived.by(
		() => new Map(this.#document.dials.map(({ key }) => [key, troubleOfDial(this.#document, key)]))
	);

	at = (node: string, setting: string): SettingIn => ({ graph: this.#editor.graphId, node, setting });

	/** The dial that has a setting in hand. */
	ofSetting(node: string, setting: string): Dial | null {
		const key = this.#editor.node(node)?.dials?.[setting];
		return key === undefined ? null : dialOf(this.#document, key);
	}

	/** Makes a setting a dial. */
	make(node: string, setting: string): void {
		this.#make((document) => withDialFor(document, this.at(node, setting)));
	}
	/** Makes the material in whose row a setting stands a dial. */
	makeMaterial(node: string, setting: string): void {
		this.#make((document) => withMaterialDial(document, this.at(node, setting)));
	}
	#make(make: (document: GeneratorDocument) => { document: GeneratorDocument; key: string }): void {
		let key = '';
		const isMade = this.#tell(() =>
			this.#editor.change('Make a dial', (document) => {
				const made = make(document);
				({ key } = made);
				return made.document;
			})
		);
		if (isMade)
			toast.success(
				`“${dialOf(this.#document, key)?.name}” is a dial now. It stands in Settings when nothing is selected.`
			);
	}

	/** The dials that could have a setting in hand. */
	fitting(node: string, setting: string): readonly Dial[] {
		const at = this.at(node, setting);
		return this.all.filter(
			({ key }) => (whyNotLinked(this.#document, at, key) ?? whyNotInHand(this.#document, at, key)) === null
		);
	}
	link(node: string, setting: string, key: string): void {
		const dial = dialOf(this.#document, key);
		if (dial)
			this.#editor.change(`Follow the dial ${dial.name}`, (document) =>
				withLink(document, this.at(node, setting), dial)
			);
	}
	unlink(node: string, setting: string): void {
		this.#editor.change('Stop driving by the dial', (document) =>
			withoutLink(document, this.at(node, setting))
		);
	}

	/** Turns a dial; `done` is false while it is dragged. */
	turn = (key: string, value: Setting, done: boolean): void => {
		const name = dialOf(this.#document, key)?.name ?? key;
		this.#editor.drag(
			`Turn ${name}`,
			(document) => withDialValues(document, { [key]: this.#editor.playing.asTurned(key, value) }),
			`drag dial ${key}`
		);
		if (done) this.#editor.endGesture();
	};
	reset(key: string): void {
		const dial = dialOf(this.#document, key);
		if (dial)
			this.#editor.change(`Turn ${dial.name} back`, (document) =>
				withDialValues(document, { [key]: dial.start })
			);
	}
	change(key: string, change: Partial<Dial>): void {
		this.#editor.change('Change the dial', (document) => withDialChanged(document, key, change));
		if (change.key !== undefined && this.opened === key)
			this.opened = this.all.some((one) => one.key === key)
				? key
				: (this.all.find((one) => one.key === change.key)?.key ?? null);
	}
	move(key: string, before: string | null, group: string | undefined): void {
		this.#editor.change('Move the dial', (document) => withDialMoved(document, key, before, group));
	}
	remove(key: string): void {
		this.#editor.change('Delete the dial', (document) => withoutDial(document, key));
	}

	/** The settings that read a dial, each with words for it. */
	readers(key: string): (SettingIn & { byFormula: boolean; words: string })[] {
		const isMaterial = dialOf(this.#document, key)?.kind === 'material';
		// Of a material in hand one part stands for all.
		const all = readersOfDial(this.#document, key).filter(
			({ setting }) => !isMaterial || setting.startsWith('name')
		);
		return all.map((reader) => {
			const node = this.#document.graphs[reader.graph].nodes.find(({ id }) => id === reader.node);
			const body =
				reader.graph === 'main' ? '' : `${this.#document.graphs[reader.graph].name || reader.graph}: `;
			return { ...reader, words: `${body}${node?.short}.${reader.setting}` };
		});
	}

	/** Goes to where a setting stands: into its body where it is in one. */
	goTo({ graph, node }: SettingIn): void {
		const { place } = this.#editor;
		if (graph !== this.#editor.graphId) {
			place.leaveTo(0);
			for (const use of this.#wayTo(graph)) place.enter(use);
		}
		if (this.#editor.graphId === graph) this.#editor.select([node]);
	}

	/** The uses that lead from the main graph into a body; none where it is the main graph, or where nothing leads there. */
	#wayTo(graph: string): string[] {
		const { graphs } = this.#document;
		const cameBy = new Map<string, { from: string; use: string } | null>([['main', null]]);
		for (const [at] of cameBy)
			for (const node of graphs[at]?.nodes ?? []) {
				const body = bodyNameOf(node);
				if (body && !cameBy.has(body)) cameBy.set(body, { from: at, use: node.id });
			}
		const way: string[] = [];
		for (let step = cameBy.get(graph); step; step = cameBy.get(step.from)) way.unshift(step.use);
		return way;
	}

	/** The ties of a setting and of its parts, with which end it is. */
	tiesOf(node: string, setting: string): { tie: Tie; own: TieEnd; other: TieEnd; isA: boolean }[] {
		const at = this.at(node, setting);
		const isHere = (end: TieEnd) =>
			'node' in end && end.graph === at.graph && end.node === node && end.setting === setting;
		return this.#document.ties.flatMap((tie) => [
			...(isHere(tie.a) ? [{ tie, own: tie.a, other: tie.b, isA: true }] : []),
			...(isHere(tie.b) && !isSameEnd(tie.a, tie.b) ? [{ tie, own: tie.b, other: tie.a, isA: false }] : [])
		]);
	}

	/** Why two ends cannot be tied; null where they can. */
	whyNoTie(a: TieEnd, b: TieEnd): string | null {
		return whyNoTie(this.#document, { id: 'new', a, b, ...proposedEquations(this.#document, a, b) });
	}
	/** Ties two ends, in the proportion in which they stand. */
	tie(a: TieEnd, b: TieEnd): void {
		const id = `t${crypto.randomUUID().slice(0, 8)}`;
		this.#tell(() =>
			this.#editor.change('Tie', (document) =>
				withTie(document, { id, a, b, ...proposedEquations(document, a, b) })
			)
		);
	}
	/** Another equation of a tie. Answers why not where it cannot be. */
	changeTie(tie: Tie): boolean {
		return this.#tell(() => this.#editor.change('Change the tie', (document) => withTie(document, tie)));
	}
	untie(id: string): void {
		this.#editor.change('Untie', (document) => withoutTie(document, id));
	}

	#tell(work: () => boolean): boolean {
		try {
			return work();
		} catch (error) {
			toast.error((error as Error).message, { duration: 9000 });
			return false;
		}
	}
}
