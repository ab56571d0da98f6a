/**
 * What the parts of the editor (dials, place, presets, playing, following) may do with the open generator. They know this hand,
 * not the editor that holds them.
 */
import type { CameraSeen, GeneratorDocument, Graph, GraphNode, Wire } from '$core/engine/index';

export type Make<Of> = (of: Of) => Of;

export interface Hand {
	/** The generator's own id, where it is kept. */
	readonly id: string;
	readonly document: GeneratorDocument;
	/** Which of its graphs is edited. */
	readonly graphId: string;
	readonly graph: Graph;
	/** A node of that graph. */
	node(id: string): GraphNode | null;
	readonly selected: ReadonlySet<string>;
	readonly active: GraphNode | null;
	select(ids: Iterable<string>): void;
	/** One step of undo, saved and evaluated; false where it may not be written. */
	change(label: string, make: Make<GeneratorDocument>, gesture?: string | null): boolean;
	changeGraph(label: string, make: Make<Graph>, gesture?: string | null): boolean;
	/** One of many changes of a gesture that ends with `endGesture`. */
	drag(label: string, make: Make<GeneratorDocument>, gesture: string): void;
	endGesture(): void;
	/** Evaluates again what is looked at. */
	evaluate(): void;
}

/** What a new node is wired to, and what must be in the document before it. */
export interface Adding {
	from?: readonly [string, string] | null;
	to?: readonly [string, string] | null;
	/** Whether it goes into the chain that leaves `from`, rather than beside it. */
	isInChain?: boolean;
	/** The wire that it is put into. */
	onto?: Wire | null;
	bring?: (document: GeneratorDocument) => GeneratorDocument;
}

/** The View, for as long as there is one. */
export interface ViewPort {
	/** Takes a picture of what it shows; null where that fails. */
	picture(): Promise<Blob | null>;
	/** Where its camera stands. */
	readonly stand: GeneratorDocument['view']['camera'];
	/** How its camera sees. */
	readonly seen: CameraSeen;
}
