/** What the page and the evaluation worker say to one another. */
import type { GeneratorDocument, Graph, GraphNode, Note, Setting, Wire } from '../engine/index.ts';
import type { Asset, Bounds, ColumnType, Counts, Kind } from '../geometry/index.ts';
import type { CameraSeen } from '../engine/camera-seen.ts';
import type { NodeMessage } from '../engine/result.ts';
import type { ExportOptions } from './export.ts';
import type { FrameRun } from './kept-frames.ts';
import type { Look } from './look.ts';
import type { Correlation, Statistics } from './series.ts';

/** A document's change: only what is not the same object as before. */
export interface Patch {
	/** Present when everything is sent anew. */
	whole?: GeneratorDocument;
	nodes?: GraphNode[];
	/** Ids in their order, where it changed. */
	order?: string[];
	wires?: Wire[];
	notes?: Note[];
	/** Bodies that are new or changed, whole; null where one is gone. */
	bodies?: [string, Graph | null][];
	rest?: Omit<GeneratorDocument, 'graphs'>;
}

export type Request =
	| { kind: 'start'; stop: Int32Array | null; name: string }
	| { kind: 'asset'; asset: Asset }
	/** The files that are read no more: their memory is wanted for others. */
	| { kind: 'forget'; assets: readonly string[] }
	| {
			kind: 'evaluate';
			revision: number;
			patch: Patch;
			/** Nodes at which an evaluation had to be ended: they are left out. */
			ended?: readonly string[];
			look: Partial<Look>;
	  }
	| {
			kind: 'export';
			ask: number;
			node: string;
			options: ExportOptions;
			/** All levels of detail, each as files of its own; else as it is shown. */
			details: boolean;
			/** Only how large the files would be. */
			weigh: boolean;
	  }
	| { kind: 'attributes'; ask: number; node: string }
	| { kind: 'peek'; ask: number; wire: Wire }
	| { kind: 'places'; ask: number; nodes: readonly string[] }
	| { kind: 'look'; ask: number; about: LookAsk }
	| { kind: 'why'; ask: number; about: WhyAsk }
	| { kind: 'marks'; ask: number; nodes: readonly string[]; wanted: readonly MarkName[]; group: string }
	| { kind: 'table'; ask: number; about: TableAsk }
	/** Of a column, or of two against each other. */
	| { kind: 'statistics'; ask: number; about: TableAsk; columns: readonly string[] }
	/** Where a row stands: by its number, or the one nearest to a place in space. */
	| { kind: 'row'; ask: number; about: TableAsk; row: number | readonly number[] }
	| { kind: 'written'; ask: number; about: TableAsk };

/** A formula that is being typed: where it will stand, and the setting with it. */
export interface LookAsk {
	node: string;
	input: string;
	setting: Setting;
	/** The formula itself; the setting may be it, or hold it. */
	text: string;
}

/** What a formula comes to where it will stand. */
export interface FormulaLook {
	trouble: {
		message: string;
		/** Where in the formula, in characters. */
		from: number;
		to: number;
		/** What would be right in that place. */
		mending?: { label: string; text: string };
		/** A name to be written wherever another stands, where that is the mending. */
		rename?: { from: string; to: string };
		/** The name that is nothing here, where that is what is wrong. */
		unknown?: string;
	} | null;
	/** On what it was worked out: “240 points”; empty for one value for the node. */
	of: string;
	count: number;
	width: 1 | 3;
	isYesNo?: boolean;
	/** The first values, `width` numbers each. */
	first: number[];
	/** The least and the greatest, for each part. */
	ranges: [number, number][];
	/** How many have no answer. */
	broken: number;
	/** How many lie in each of equal parts of the first range; empty for one value. */
	bars: number[];
	/** What a name in it means, where it could mean two things; else empty. */
	note: string;
}

/** Which element is asked about: the one nearest to a place, of a kind, or of the likeliest. */
export interface WhyAsk {
	node: string;
	at: readonly number[];
	kind: Kind | null;
}

/** A node through which an element passed, and which element it was there. */
export interface WhyStep {
	node: string;
	/** Names its table in the Data drawer. */
	table: string;
	kind: Kind;
	row: number;
	/** What it has to do with the element of the step before. */
	how: 'shown' | 'through' | 'stands on' | 'written out from';
}

/** An element and how it came about. */
export interface Why {
	kind: Kind;
	/** The kinds of element that could be asked about instead. */
	kinds: Kind[];
	row: number;
	count: number;
	at: number[];
	attributes: { name: string; type: ColumnType; values: (number | string)[] }[];
	/** From what is shown back to what made it. */
	steps: WhyStep[];
}

/** What can be drawn over elements: their order, directions, and the axes of what is turned. */
export type MarkName = 'order' | 'normals' | 'tangents' | 'x' | 'y' | 'z';

export interface Marks {
	/** Ends of lines, six numbers each. */
	lines: { name: MarkName; ends: Float32Array }[];
	/** Where elements of a group are, three numbers each, and how many there are. */
	dots: Float32Array;
	found: number;
	/** Why the group cannot be told. */
	trouble: string;
}

/** What is looked at in the Data drawer. */
export interface TableAsk {
	node: string;
	/** Null for the first. */
	table: string | null;
	sort: { column: string; descending: boolean } | null;
	/** A condition that rows must meet; empty for all. */
	filter: string;
	from: number;
	count: number;
}

/** Some rows of a table, column by column. */
export interface TableWindow {
	tables: { key: string; label: string; count: number }[];
	table: string | null;
	columns: { key: string; name: string; part: string; type: ColumnType }[];
	/** How many rows meet the condition. */
	matching: number;
	/** The place of the first row in the order, and the number of each. */
	from: number;
	rows: Uint32Array;
	cells: (Float64Array | string[])[];
}

/** A node's result without its data. */
export interface NodeReport {
	id: string;
	state: 'fresh' | 'waiting' | 'error' | 'bypassed';
	counts: Counts | null;
	/** Left out where only time went on and nobody looks at it: then it is told as it was. */
	bounds?: Bounds | null;
	/** How many different sources its copies have. */
	shapes: number;
	/** How many of its copies are hidden. */
	hidden: number;
	/** What came out of a node that makes no geometry, in a few words. */
	value: string | null;
	/** The same of each output, where there are several and some are one value. */
	values?: readonly (readonly [output: string, value: string])[];
	milliseconds: number;
	warnings: readonly NodeMessage[];
	error: NodeMessage | null;
}

export interface PacketMaterial {
	name: string;
	colour: readonly [number, number, number, number];
	roughness: number;
	metallic: number;
	twoSided: boolean;
}

/** Something to draw, named by identity: sent once, then only referred to. */
export interface PacketObject {
	key: string;
	kind: 'mesh' | 'lines' | 'points';
	positions: Float32Array;
	normals?: Float32Array;
	/** Three vertices a triangle. */
	index?: Uint32Array;
	/** Runs of the index with one material each. */
	groups?: { start: number; count: number; material: PacketMaterial | null }[];
	/** Ends of the edges, 6 numbers each. */
	edges?: Float32Array | null;
	/** A colour for each vertex, 3 bytes each: of a heat map, or its own. */
	colours?: Uint8Array | null;
	/** Whether they are its own, which its material is multiplied by. */
	painted?: boolean;
}

/** An object drawn once (`matrices` null), or at many places, 16 numbers each. */
export interface PacketDraw {
	object: string;
	/** Named by identity, like objects. */
	matricesKey: string | null;
	matrices: Float32Array | null;
	/** A colour for each place, 3 bytes each: of a heat map, or the copies' own. */
	colours?: Uint8Array | null;
	painted?: boolean;
	/** Of a mesh that is made of copies: which of how many they are. */
	share?: { readonly from: number; readonly count: number; readonly of: number };
	count: number;
	node: string;
	ghost: boolean;
}

/** The numbers behind a heat map. */
export interface HeatFacts {
	low: number;
	high: number;
	mean: number;
	count: number;
	/** What is coloured, in the plural. */
	of: string;
	/** Of three numbers the least and the greatest of each: they are red, green and blue. */
	parts?: readonly (readonly [number, number])[];
	/** The numbers at the ends of the scale, where they are not 0 and 1. */
	ends?: readonly [number, number];
	/** Why nothing is coloured, where it cannot be. */
	trouble?: string;
}

export interface Packet {
	objects: PacketObject[];
	draws: PacketDraw[];
	/** Triangles of all that is shown but ghosts, those of copies at each of their places. */
	triangles: number;
	heat?: HeatFacts | null;
}

export interface AttributeInfo {
	name: string;
	kind: string;
	type: string;
}

export type Answer =
	| {
			kind: 'picture';
			revision: number;
			reports: NodeReport[];
			packet: Packet;
			bounds: Bounds | null;
			/** What the camera sees that is looked through; null where there is none. */
			seen: CameraSeen | null;
			/** Whether it was made with draft values. */
			draft: boolean;
			ran: number;
			seconds: number;
	  }
	| {
			kind: 'reports';
			revision: number;
			/** Of the graph that is edited. */
			reports: NodeReport[];
			/** Of the graph that the View shows, where that is another one. */
			viewed: NodeReport[] | null;
			/** Which pass or shape of the body is looked into, and of how many; null where it was not reached. */
			inside: { place: number; places: number } | null;
			/** Frames that are remembered whole. */
			kept: readonly FrameRun[];
			/** How many nodes really ran, those in bodies too. */
			ran: number;
			hash: string | null;
	  }
	| { kind: 'stopped'; revision: number }
	| { kind: 'progress'; revision: number; node: string; share: number }
	| { kind: 'failed'; revision: number; message: string }
	| { kind: 'exported'; ask: number; files: { name: string; bytes: Uint8Array }[]; weight: number }
	| { kind: 'attributes'; ask: number; attributes: AttributeInfo[] }
	| { kind: 'peeked'; ask: number; text: string }
	/** Where the points and copies of nodes are, three numbers each. */
	| { kind: 'places'; ask: number; places: Float32Array[] }
	| { kind: 'looked'; ask: number; look: FormulaLook }
	| { kind: 'because'; ask: number; why: Why }
	| { kind: 'marks'; ask: number; marks: Marks[] }
	| { kind: 'table'; ask: number; window: TableWindow }
	| {
			kind: 'statistics';
			ask: number;
			statistics: (Statistics | null)[];
			correlation: Correlation | null;
	  }
	| { kind: 'row'; ask: number; row: number; place: number; at: readonly number[] | null }
	| { kind: 'written'; ask: number; bytes: Uint8Array }
	| { kind: 'refused'; ask: number; message: string };
