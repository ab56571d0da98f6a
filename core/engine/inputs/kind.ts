/** What a kind of input is: everything that differs from one kind to another stands in its object, and nowhere else. */
import type { z } from 'zod';
import type { Fix } from '../../math/index.ts';
import type { Asset } from '../../geometry/index.ts';
import type { InputDefinition, WireKind } from '../../nodes/index.ts';
import type { Varying } from '../../varying/index.ts';
import type { ScalarSetting, Setting } from '../document.ts';

/** Hears what the artist should know: a sentence, the input it is about, and what may be done. */
export type Warn = (message: string, input?: string, fixes?: readonly Fix[]) => void;

/** Whether a wire fits; if not, why, and the node that would convert. */
export type Fit = { fits: true } | { fits: false; reason: string; through?: string };

/** What comes to one input of one node: its wires, its setting, and how it may tell of them. */
export interface Arriving {
	/** The input's name. */
	readonly name: string;
	readonly setting: Setting;
	readonly isWired: boolean;
	/** What the wires bring, in order. Throws Waiting where something upstream has not come. */
	wired(): readonly unknown[];
	/** The setting, or what the wire brings, as a varying value. */
	value(): Varying;
	/** Finds an imported file by its digest. */
	asset(hash: string): Asset | null;
	/** The short names that formulas of the graph may refer to. */
	shorts(): Iterable<string>;
	readonly warn: Warn;
}

/** Turns the parts of a setting into varying values. */
export interface Binding {
	/**
	 * One scalar. `part` names which one of a vector it is, so that each part draws random numbers of its own; `whole`
	 * gives each whole number of a random range equally often.
	 */
	scalar(setting: ScalarSetting, of?: { part?: string; whole?: boolean }): Varying;
}

export interface InputKind<I extends InputDefinition> {
	/** What may stand in a document for it; null where only wires come in. */
	readonly schema: z.ZodType<Setting> | null;
	/** What such a setting is, for a sentence: “a number”. */
	readonly takes: string;
	/** Whether formulas may refer to it. */
	readonly isNumeric: boolean;
	/** The name of the field that edits it. */
	readonly field: Field;
	/** What a new node begins with; null where nothing stands in the document. */
	start(input: I): Setting | null;
	/** Whether a wire that carries this may come in. */
	fits(from: WireKind, input: I): Fit;
	/** What `run` gets. */
	resolve(input: I, at: Arriving): unknown;
	/** Its setting as a varying value. Left out where it holds none. */
	bind?(input: I, setting: Setting, binding: Binding): Varying;
	/** Its setting from words typed by hand; throws a NodeError that says what is taken. Left out where that cannot be. */
	read?(input: I, text: string): Setting;
}

export type Field =
	| 'wires'
	| 'scalar'
	| 'vector'
	| 'yes or no'
	| 'colour'
	| 'choice'
	| 'text'
	| 'formula'
	| 'ramp'
	| 'path'
	| 'file';

export const FITS: Fit = { fits: true };
export const refuse = (reason: string, through?: string): Fit => ({ fits: false, reason, through });

/** What flows on a wire, in words: as what one output holds, and as what arrives. */
export const CARRIED: Readonly<Record<WireKind, { holds: string; gives: string }>> = {
	geometry: { holds: 'geometry', gives: 'geometry' },
	number: { holds: 'number', gives: 'numbers' },
	whole: { holds: 'whole number', gives: 'whole numbers' },
	yesno: { holds: 'yes or no', gives: 'yes or no' },
	vector: { holds: 'vector', gives: 'vectors' },
	colour: { holds: 'colour', gives: 'colours' },
	value: { holds: 'value', gives: 'values' },
	list: { holds: 'list', gives: 'a list' },
	ramp: { holds: 'ramp', gives: 'a ramp' }
};

/** For inputs that are set by hand only. */
export const takesNoWire = (_: WireKind, { label }: InputDefinition): Fit =>
	refuse(`“${label}” is set by hand; it takes no wire.`);
