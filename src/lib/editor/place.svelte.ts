/** Where in the generator the artist is: in the main graph, or in a body, by the uses that lead there. */
import { toast } from 'svelte-sonner';
import type { GeneratorDocument, GraphNode, ShelfItem } from '$core/engine/index';
import {
	bodyNameOf,
	bringOut,
	dissolve,
	fromShelf,
	makeBody,
	toShelf,
	wayInto,
	withBodyName,
	withInputFor,
	withNewer,
	withOwnBody,
	withPortAtEdge,
	wholeGenerator,
	withPortNamed
} from '$core/engine/index';
import { newId } from '$lib/store/database';
import { loadShelved, shelve, unshelve } from '$lib/store/shelf';
import type { Step } from '$core/engine/evaluate';
import type { Adding, Hand, ViewPort } from './hand';

type View = Pick<GeneratorDocument['view'], 'shown' | 'ghosts' | 'heat'>;
const PLAIN: View = { shown: [], ghosts: [] };

/** A step of the path: what it is called, and how far in it lies. */
export interface Crumb {
	name: string;
	depth: number;
}

type PlaceHand = Hand & {
	readonly evaluation: { forget(): void };
	readonly port: ViewPort | null;
	addNode(
		kind: string,
		at: readonly [number, number],
		settings: Record<string, unknown>,
		how: Adding
	): string | null;
};

export class Place {
	readonly #editor: PlaceHand;
	/** The uses that lead to the body that is edited, each with the pass or shape that is looked into. */
	way = $state.raw<readonly Step[]>([]);
	/** Whether the View shows what is in the body, and not the whole. */
	isShownInside = $state(true);
	/** What the View shows of the body. */
	view = $state.raw<View>(PLAIN);

	constructor(editor: PlaceHand) {
		this.#editor = editor;
	}

	get isInside(): boolean {
		return this.way.length > 0;
	}
	/** Whether what is edited lies in a repeat. */
	get isRepeated(): boolean {
		const { graphs } = this.#editor.document;
		return this.way.some(
			({ node: id }, depth) =>
				graphs[this.graphs[depth]]?.nodes.find((one) => one.id === id)?.kind === 'repeat'
		);
	}
	/** Whether the View shows a body. */
	get isInView(): boolean {
		return this.isInside && this.isShownInside;
	}
	/** Whether the graph that is edited is the one that the View shows. */
	get isViewed(): boolean {
		return !this.isInside || this.isShownInside;
	}

	/** The bodies on the way, by their ids; the main graph first. */
	readonly graphs = $derived.by(() => {
		const { graphs } = this.#editor.document;
		const found = ['main'];
		for (const { node: id } of this.way) {
			const node = graphs[found[found.length - 1]].nodes.find((one) => one.id === id);
			const body = node && bodyNameOf(node);
			if (!body || !Object.hasOwn(graphs, body)) break;
			found.push(body);
		}
		return found;
	});
	get graphId(): string {
		return this.graphs[this.graphs.length - 1];
	}
	/** The path of names to what is edited. */
	get crumbs(): Crumb[] {
		const { document } = this.#editor;
		return this.graphs.map((id, depth) => ({
			name: depth === 0 ? document.name : document.graphs[id].name || id,
			depth
		}));
	}
	/** The use by which the body was entered. */
	get use(): GraphNode | null {
		const outer = this.graphs[this.graphs.length - 2];
		const step = this.way[this.graphs.length - 2];
		if (!outer || !step) return null;
		return this.#editor.document.graphs[outer].nodes.find(({ id }) => id === step.node) ?? null;
	}
	/** What the View shows of a body where nothing is chosen: what leaves it. */
	get result(): GraphNode | null {
		const outputs = this.#editor.graph.nodes.filter(({ kind }) => kind === 'output');
		return outputs.find(({ settings }) => settings.carries === 'geometry') ?? null;
	}

	/** Goes into the body of a node; a sentence where it has none. */
	enter(id: string): void {
		const node = this.#editor.node(id);
		const body = node && bodyNameOf(node);
		if (!body || !Object.hasOwn(this.#editor.document.graphs, body)) {
			toast.error(node ? `${node.short} has no body to go into.` : 'Select a node with a body first.');
			return;
		}
		if (this.graphs.includes(body)) {
			toast.error(`${node.short} lies in itself. Delete it, or choose another subgraph for it.`);
			return;
		}
		this.#go([...this.way, { node: id, place: 0 }], []);
	}

	/** Goes out to a step of the path: 0 is the main graph. */
	leaveTo(depth: number): void {
		if (depth >= this.way.length) return;
		const from = this.way[depth]?.node;
		this.#go(this.way.slice(0, depth), from ? [from] : []);
	}
	leave(): void {
		if (this.isInside) this.leaveTo(this.way.length - 1);
	}

	#go(way: readonly Step[], selected: readonly string[]): void {
		this.way = way;
		this.view = PLAIN;
		this.#editor.select(selected);
		this.#editor.evaluation.forget();
		this.#editor.evaluate();
	}

	/** Looks into another pass or shape. */
	lookAt(place: number): void {
		const last = this.way[this.way.length - 1];
		if (!last || place < 0) return;
		this.way = [...this.way.slice(0, -1), { ...last, place }];
		this.#editor.evaluate();
	}

	/** Shows the whole in the View, or what is inside. */
	showInside(inside: boolean): void {
		this.isShownInside = inside;
		this.#editor.evaluate();
	}

	/** After a change: where the body is no longer there, what lies around it is edited. */
	settle(): void {
		const reached = this.graphs.length - 1;
		if (reached < this.way.length) this.#go(this.way.slice(0, reached), []);
	}

	/** Goes to a graph by the shortest way. */
	goTo(graph: string): void {
		const { document } = this.#editor;
		const ids = wayInto(document, graph);
		if (ids)
			this.#go(
				ids.map((node) => ({ node, place: 0 })),
				[]
			);
	}

	/** The selected nodes become one node with a body. */
	makeOfSelected(kind: 'subgraph' | 'repeat' | 'vary-each-copy'): void {
		const editor = this.#editor;
		const nodes = editor.graph.nodes.filter(({ id }) => editor.selected.has(id));
		const made = makeBody(editor.document, editor.graphId, new Set(nodes.map(({ id }) => id)), kind);
		if ('reason' in made) {
			toast.error(made.reason);
			return;
		}
		editor.change(LABELS[kind], () => made.document);
		editor.select([made.node]);
	}

	/** The selected subgraph is taken apart: its nodes stand where it stood. */
	takeApart(): void {
		const editor = this.#editor;
		const { active } = editor;
		if (!active) {
			toast.error('Select the subgraph that shall be taken apart.');
			return;
		}
		const made = dissolve(editor.document, editor.graphId, active.id);
		if ('reason' in made) {
			toast.error(made.reason);
			return;
		}
		editor.change('Take apart', () => made.document);
		editor.select(made.nodes);
	}

	/** The selected use gets a body of its own. */
	makeOwn(id: string): void {
		this.#editor.change('Make its own', (document) => withOwnBody(document, this.graphId, id));
	}
	nameBody(body: string, name: string): void {
		this.#editor.change('Rename the subgraph', (document) => withBodyName(document, body, name));
	}
	namePort(id: string, name: string): void {
		this.#editor.change('Rename the port', (document) => withPortNamed(document, this.graphId, id, name));
	}
	/** A setting of a node inside becomes one of the node that has the body. */
	bringOut(id: string, setting: string): void {
		const made = bringOut(this.#editor.document, this.graphId, id, setting);
		if ('reason' in made) {
			toast.error(made.reason);
			return;
		}
		this.#editor.change('Bring out', () => made.document);
		toast.success(`It is a setting of ${this.use?.short ?? 'the subgraph'} now, called “${made.name}”.`);
	}
	/** Puts the body that is edited on the shelf, anew where it lies there already. */
	async putOnShelf(words: string): Promise<void> {
		const { document, port } = this.#editor;
		const own = document.graphs[this.graphId].shelf;
		const before = own && (await loadShelved(own.id));
		const id = before?.id ?? newId();
		const made = toShelf(document, this.graphId, {
			id,
			version: (before?.version ?? 0) + 1,
			words: words.trim().slice(0, 500) || (before?.words ?? '')
		});
		await shelve(made.item, this.isInView ? ((await port?.picture()) ?? null) : null);
		this.#editor.change('Put on the shelf', () => made.document);
	}
	/** Takes the body that is edited from the shelf; uses of it stay as they are. */
	async takeFromShelf(): Promise<void> {
		const own = this.#editor.graph.shelf;
		if (!own) return;
		await unshelve(own.id);
		this.#editor.changeGraph('Remove from the shelf', ({ shelf: _shelf, ...graph }) => graph);
	}
	/** A use of a body of the shelf, added to the graph. */
	addShelved(item: ShelfItem, at: readonly [number, number], how: Omit<Adding, 'bring'>): void {
		// One step of undo: the body and its use come together.
		const taken = fromShelf(this.#editor.document, item);
		this.#editor.addNode('subgraph', at, { body: taken.body }, { ...how, bring: () => taken.document });
	}
	/** Puts the whole generator on the shelf, to be used as a node in others. */
	async shelveWhole(): Promise<void> {
		const { document, id: own } = this.#editor;
		const id = `g-${own}`;
		try {
			const before = await loadShelved(id).catch(() => undefined);
			const { item, leftOut } = wholeGenerator(document, { id, version: (before?.version ?? 0) + 1 });
			await shelve(item, (await this.#editor.port?.picture()) ?? null);
			toast.success(`“${item.name}” lies on your shelf: the node search of every generator offers it.`, {
				description: leftOut.join(' '),
				duration: 12_000
			});
		} catch (error) {
			toast.error((error as Error).message);
		}
	}

	takeNewer(body: string, item: ShelfItem): void {
		this.#editor.change('Use the newer one', (document) => withNewer(document, body, item));
	}
	/** One more input for a wire that was dropped on a node with a body. */
	addInputFor(from: readonly [string, string], id: string): void {
		this.#editor.change('Add an input', (document) => withInputFor(document, this.graphId, from, id));
	}
	/** A port for a wire that was dropped on the edge of the body. */
	addPortAtEdge(end: readonly [string, string], isOutput: boolean, at: readonly [number, number]): void {
		let made: string | null = null;
		this.#editor.change(isOutput ? 'Add an output' : 'Add an input', (document) => {
			const added = withPortAtEdge(document, this.graphId, end, isOutput, at);
			made = added?.node ?? null;
			return added?.document ?? document;
		});
		if (made) this.#editor.select([made]);
	}
}

const LABELS = {
	subgraph: 'Make a subgraph',
	repeat: 'Make a repeat',
	'vary-each-copy': 'Vary each copy'
};
