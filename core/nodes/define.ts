/**
 * What a node is. A node's definition is the only place that knows it: the search, the settings, the checks of ports and
 * files, and the command line's reference are all made from it.
 */
import type { Fix } from '../math/index.ts';
import type { List } from './list.ts';
import type { Asset, Geometry, Kind, Part, PartName, Table } from '../geometry/index.ts';
import type { ControlPoint } from '../kernels/path.ts';
import type { Elements, Ramp, Varying, WiredRamp } from '../varying/index.ts';

/** Families of nodes, in the order in which they are listed. */
export const FAMILIES = [
	'curves',
	'meshes',
	'points',
	'copies',
	'deform',
	'weights',
	'values',
	'attributes',
	'growth',
	'building',
	'volumes',
	'repeat',
	'motion',
	'in and out'
] as const;
export type Family = (typeof FAMILIES)[number];

/** What a wire may carry. `value` is a varying value of any type. */
export type WireKind =
	'geometry' | 'number' | 'whole' | 'yesno' | 'vector' | 'colour' | 'value' | 'list' | 'ramp';

/** Units as they are shown. Angles are degrees, lengths metres; a share of 1 is shown as it is. */
export type Unit = 'm' | '°' | 'per m' | 'per m²' | 'm²' | 's' | 'per s' | 'frames' | '×' | '';

export type { List } from './list.ts';

interface Common {
	label: string;
	help: string;
	/** Shown only while the choices stand so; the setting itself is kept. */
	when?: (settings: Record<string, unknown>) => boolean;
	/** A heading that groups settings from here on. */
	group?: string;
	/** Of a node with rows, the row to which it belongs, from 1; see `rows.ts`. */
	row?: number;
}

export interface GeometryInput extends Common {
	kind: 'geometry';
	/** The part without which the node can do nothing. */
	needs?: PartName | 'anything';
	optional?: boolean;
	/** Takes several wires, in order. */
	many?: boolean;
}
export interface NumberInput extends Common {
	kind: 'number';
	default: number;
	min?: number;
	max?: number;
	/** The ends of the slider, where they are nearer than min and max. */
	slider?: readonly [number, number];
	step?: number;
	whole?: boolean;
	unit?: Unit;
	/** The kind of element for which it may differ. Left out: one value for the node. */
	varies?: Kind;
}
export interface VectorInput extends Common {
	kind: 'vector';
	default: readonly [number, number, number];
	unit?: Unit;
	min?: number;
	step?: number;
	varies?: Kind;
	/** One number for all three while they are equal, as for a scale. */
	uniform?: boolean;
	/** Another setting of the node that it becomes in one click, and what that is called. */
	becomes?: { readonly setting: string; readonly label: string };
}
export interface YesNoInput extends Common {
	kind: 'yesno';
	default: boolean;
	varies?: Kind;
}
export interface ColourInput extends Common {
	kind: 'colour';
	/** Linear red, green, blue from 0 to 1. */
	default: readonly [number, number, number];
	varies?: Kind;
}
export interface ChoiceInput extends Common {
	kind: 'choice';
	default: string;
	options: readonly { id: string; label: string }[];
}
export interface TextInput extends Common {
	kind: 'text';
	default: string;
	placeholder?: string;
	/** Proposes the names of attributes that arrive. */
	attribute?: boolean;
	/** Has several lines. */
	long?: boolean;
}
export interface ListInput extends Common {
	kind: 'list';
	optional?: boolean;
	/** Takes several wires, in order. */
	many?: boolean;
}
/** Any varying value, from a wire or typed as a formula. */
export interface ValueInput extends Common {
	kind: 'value';
	default: number;
	varies?: Kind;
	/** Takes several wires, in order, and nothing else. */
	many?: boolean;
	/** A list of words may come too, as the list that it is. */
	words?: boolean;
}
/** A formula over the node's own inputs. */
export interface FormulaInput extends Common {
	kind: 'formula';
	default: string;
}
export interface AssetInput extends Common {
	kind: 'asset';
	accept: readonly string[];
}

/** A ramp, edited in the drawer or wired. */
export interface RampInput extends Common {
	kind: 'ramp';
	default: Ramp;
	/** A ramp of colours. */
	colours?: boolean;
}
/** A control point of a drawn curve. */
export type PathPoint = ControlPoint;
/** A curve drawn in the View. */
export interface PathInput extends Common {
	kind: 'path';
	default: { readonly path: readonly PathPoint[] };
}

export type InputDefinition =
	| RampInput
	| PathInput
	| GeometryInput
	| NumberInput
	| VectorInput
	| YesNoInput
	| ColourInput
	| ChoiceInput
	| TextInput
	| ListInput
	| ValueInput
	| FormulaInput
	| AssetInput;

/** Whether several wires may lead to an input. */
export const takesMany = (input: InputDefinition): boolean => 'many' in input && !!input.many;

export interface OutputDefinition {
	kind: WireKind;
	label: string;
	help: string;
}

type IfVaries<I, Yes, No> = I extends { varies: Kind } ? Yes : No;
/** What `run` gets for an input. */
export type Resolved<I extends InputDefinition> = I extends GeometryInput
	? I extends { many: true }
		? Geometry[]
		: I extends { optional: true }
			? Geometry | null
			: Geometry
	: I extends NumberInput
		? IfVaries<I, Varying, number>
		: I extends VectorInput
			? IfVaries<I, Varying, [number, number, number]>
			: I extends YesNoInput
				? IfVaries<I, Varying, boolean>
				: I extends ColourInput
					? IfVaries<I, Varying, [number, number, number]>
					: I extends ListInput
						? I extends { many: true }
							? List[]
							: I extends { optional: true }
								? List | null
								: List
						: I extends ValueInput & { many: true }
							? Varying[]
							: I extends ValueInput | FormulaInput
								? I extends { words: true }
									? Varying | List
									: Varying
								: I extends RampInput
									? Ramp
									: I extends PathInput
										? readonly PathPoint[]
										: I extends AssetInput
											? Asset | null
											: string;

export type ResolvedInputs<Inputs extends Record<string, InputDefinition>> = {
	[Name in keyof Inputs]: Resolved<Inputs[Name]>;
};

type ValueOf<K extends WireKind> = K extends 'geometry'
	? Geometry
	: K extends 'list'
		? List
		: K extends 'ramp'
			? WiredRamp
			: Varying;
export type Outputs<Definitions extends Record<string, OutputDefinition>> = {
	[Name in keyof Definitions]: ValueOf<Definitions[Name]['kind']>;
};

/** What a node may use besides its inputs. */
export interface Context {
	/** Says something on the node that the artist should know, with the input it is about and what may be done; the result stands. */
	warn(message: string, input?: string, fixes?: readonly Fix[]): void;
	/** Two words that start the node's own randomness; `name` separates several in one node. */
	stream(name?: string): readonly [number, number];
	/** A number for each element; kept with the geometry, so that the same value is worked out once. */
	numbers(value: Varying, on: Where): Float32Array;
	/** Three numbers for each element. */
	vectors(value: Varying, on: Where): Float32Array;
	/** One byte for each element, 1 for yes. */
	yesNos(value: Varying, on: Where): Uint8Array;
	/** Where a value is to be worked out on elements that are not in a geometry: one number each, or three. */
	numbersOn(value: Varying, elements: Elements, width?: 1 | 3): Float64Array;
	/** The frame at hand; of a node that is not said to be `timed` it may be any. */
	readonly moment: Moment;
	/** What the inputs were at the frames that it looked back at, in their order. */
	readonly past: readonly { moment: Moment; inputs: Readonly<Record<string, unknown>> }[];
	/** The labels of settings that have a random range, for notes such as “the same for all copies”. */
	readonly rangesOf: (input: string) => boolean;
}

/** The elements of a kind in a part of a geometry. */
export interface Where {
	geometry: Geometry;
	part: Part;
	kind: Kind;
}

/** A frame as nodes hear it: which it is, seconds since the first, how many there are, and seconds from one to the next. */
export interface Moment {
	readonly frame: number;
	readonly time: number;
	readonly frames: number;
	readonly step: number;
}

/** What a node remembers from one frame to the next. It never changes once it is made. */
export interface Remembered {
	readonly bytes: number;
}

/** How a node goes on from frame to frame: frame n is the same whether it was played, scrubbed or jumped to. */
export interface Fold<Inputs, Outs, State extends Remembered = Remembered> {
	/** At the first frame. */
	start(inputs: Inputs, context: Context): State;
	/** From the frame before. `context.past` holds the inputs between the two, where it asks for those. */
	step(state: State, inputs: Inputs, context: Context): State;
	/** In so many equal steps it is looked at between two frames. */
	steps?(inputs: Inputs): number;
	give(state: State, inputs: Inputs, context: Context): Outs;
}

/** What a node expects to make, before it makes it. */
export interface Estimate {
	/** Elements in the largest table. */
	elements: number;
	/** What they are, in the plural, for the message. */
	of: string;
	/** The most that may be, where the work on each is so heavy that it is less than usual. */
	most?: number;
	/** The settings that decide it, for the message. */
	lower: string;
	/** Bytes that it takes beside what it makes. */
	bytes?: number;
	/** Seconds that it takes on a slow machine, where that is known. */
	seconds?: number;
}

/** How a node uses one of several wires. */
export interface Picks {
	/** The inputs that take several, one of which counts, by the settings; wires into the others are left alone. */
	among: readonly string[];
	from(settings: Readonly<Record<string, unknown>>): string;
	/** The inputs that decide. */
	by: readonly string[];
	/** The place of the wire among so many; null where all of them count. */
	place(inputs: Readonly<Record<string, unknown>>, count: number): number | null;
}

/** Names that documents before a version use, each with the name it has now. */
export interface FormerNames {
	before: number;
	id?: string;
	inputs?: Readonly<Record<string, string>>;
	/** By the input's name of now. */
	options?: Readonly<Record<string, Readonly<Record<string, string>>>>;
}

export interface NodeDefinition<
	Inputs extends Record<string, InputDefinition> = Record<string, InputDefinition>,
	Outs extends Record<string, OutputDefinition> = Record<string, OutputDefinition>
> {
	/** The name in kebab-case. */
	id: string;
	/** Raised when a change alters results. */
	version: number;
	name: string;
	family: Family;
	/** What the node, its inputs and their options were called in documents of earlier versions, so that those open. */
	renamed?: readonly FormerNames[];
	/** Trade words that find the node in the search. */
	words: readonly string[];
	help: string;
	inputs: Inputs;
	outputs: Outs;
	/** True where the node draws random numbers of its own. */
	seeded?: boolean;
	/** True where the artist adds, removes and renames inputs; they arrive in `extra`. */
	ownInputs?: boolean;
	/** Ready-made settings that the search offers under another name. */
	entries?: readonly { name: string; words: readonly string[]; settings: Record<string, unknown> }[];
	/** What it does with nothing connected, where its inputs alone do not say it. */
	withNothing?: string;
	/** How the Handbook shows it, where its defaults show little: settings, and sources (see `handbook/sources.ts`) by input. */
	example?: {
		settings?: Readonly<Record<string, unknown>>;
		wires?: Readonly<Record<string, string | readonly string[]>>;
		/** A node that is looked at in its place: kind, settings, wires by input; the node itself is `shown` there. */
		then?: readonly [
			kind: string,
			settings: Readonly<Record<string, unknown>>,
			wires: Readonly<Record<string, string | readonly string[]>>
		];
		/** What stands in its body: kind, short name, settings, wires by input, and so on. */
		body?: readonly (readonly [
			kind: string,
			short: string,
			settings?: Readonly<Record<string, unknown>>,
			wires?: Readonly<Record<string, string | readonly string[]>>
		])[];
	};
	/** Where settings come in rows: what each row is, in one word, and the settings of one. */
	rows?: { of: string; inputs: readonly string[] };
	/** True where a body is evaluated in place of `run`; see `engine/composites`. */
	body?: boolean;
	/** True where a node's inputs and outputs stand on the node itself (see `portsOf`), beside those of its kind. */
	ownPorts?: boolean;
	/** Attributes with which what it makes comes, for nodes that read them by themselves. */
	brings?: readonly string[];
	/** Settings that begin with an attribute that is brought, by their names: the width of what has one. */
	begins?: Readonly<Record<string, string>>;
	/** Its outputs are one value each, whatever comes in, so that formulas can read them by name. */
	givesOne?: true;
	/** True where it hears which frame it is; or the settings with which it does, once one is not as usual. */
	timed?: boolean | readonly string[];
	/** Where it remembers what was before: in place of `run`; `body` is true then too. */
	// eslint-disable-next-line @typescript-eslint/no-explicit-any
	fold?: Fold<ResolvedInputs<Inputs>, Outputs<Outs>, any>;
	/** The frames at which it looks at its inputs too, before `run`; `body` is true then too. */
	looksBack?: (inputs: ResolvedInputs<Inputs>, moment: Moment) => readonly number[];
	/** True where it is offered only in bodies: outside it means nothing. */
	inBodies?: boolean;
	/** True where formulas of its settings speak of the level, progress and parent of what grows. */
	grows?: boolean;
	/** What it expects to make, before any work. */
	estimate?: (inputs: ResolvedInputs<Inputs>) => Estimate | null;
	/** Which settings the View's handles write, and what each of them moves. */
	handles?: { move?: string; rotate?: string; scale?: string; pivot?: string };
	/** Whether the handles mean what they show, with these settings; always, where it is left out. */
	handlesWhen?: (settings: Record<string, unknown>) => boolean;
	/** Where only one of several wires is used: nothing else is evaluated. */
	picks?: Picks;
	/** Left out only where a body is evaluated instead. */
	run?: (
		inputs: ResolvedInputs<Inputs>,
		context: Context,
		extra: ReadonlyMap<string, Varying>
	) => Outputs<Outs>;
}

/** Any node, its exact types forgotten. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type AnyNode = NodeDefinition<any, any>;

/** Declares a node; types of inputs and outputs are inferred. */
export function defineNode<
	const Inputs extends Record<string, InputDefinition>,
	const Outs extends Record<string, OutputDefinition>
>(definition: NodeDefinition<Inputs, Outs>): NodeDefinition<Inputs, Outs> {
	return definition;
}

type Given<I, Kept extends keyof I> = Omit<I, 'kind' | Kept> & Partial<Pick<I, Kept>>;

export const geometry = <const G extends Given<GeometryInput, 'label' | 'help'>>(given: G) =>
	({ label: 'Geometry', help: '', ...given, kind: 'geometry' }) as {
		kind: 'geometry';
		label: string;
		help: string;
	} & G;
export const number = <const G extends Given<NumberInput, never>>(given: G) =>
	({ ...given, kind: 'number' }) as { kind: 'number' } & G;
export const vector = <const G extends Given<VectorInput, never>>(given: G) =>
	({ ...given, kind: 'vector' }) as { kind: 'vector' } & G;
export const yesNo = <const G extends Given<YesNoInput, never>>(given: G) =>
	({ ...given, kind: 'yesno' }) as { kind: 'yesno' } & G;
export const colour = <const G extends Given<ColourInput, never>>(given: G) =>
	({ ...given, kind: 'colour' }) as { kind: 'colour' } & G;
export const choice = <const G extends Given<ChoiceInput, never>>(given: G) =>
	({ ...given, kind: 'choice' }) as { kind: 'choice' } & G;
export const text = <const G extends Given<TextInput, never>>(given: G) =>
	({ ...given, kind: 'text' }) as { kind: 'text' } & G;
export const list = <const G extends Given<ListInput, never>>(given: G) =>
	({ ...given, kind: 'list' }) as { kind: 'list' } & G;
export const value = <const G extends Given<ValueInput, never>>(given: G) =>
	({ ...given, kind: 'value' }) as { kind: 'value' } & G;
export const formula = (given: Given<FormulaInput, never>) => ({ ...given, kind: 'formula' }) as FormulaInput;
export const ramp = <const G extends Given<RampInput, never>>(given: G) =>
	({ ...given, kind: 'ramp' }) as { kind: 'ramp' } & G;
export const path = (given: Given<PathInput, 'default'>) =>
	({ default: { path: [] }, ...given, kind: 'path' }) as PathInput;
export const asset = (given: Given<AssetInput, never>) => ({ ...given, kind: 'asset' }) as AssetInput;

/** An output. */
export const output = <const K extends WireKind>(kind: K, label: string, help: string) => ({
	kind,
	label,
	help
});

/** The parts of a geometry that have elements of a kind, each with what evaluates on it. */
export interface PartOf {
	where: Where;
	table: Table;
}
