/** What a page asks a session to look at, beside the generator itself. */
import type { Step } from '../engine/evaluate.ts';

export interface Look {
	/** Nodes of the graph that the View shows; and those that stand faintly behind. */
	readonly shown: readonly string[];
	readonly ghosts: readonly string[];
	/** Whether the edges of meshes come with them. */
	readonly wireframe: boolean;
	/** The frame that is looked at; the generator's first where nothing is said. */
	readonly frame: number | undefined;
	/** The *Camera* of the main graph that is looked through; null where the View is free. */
	readonly camera: string | null;
	/** An output (node and name) whose numbers colour what is shown; or, without a node, a formula. */
	readonly heat: readonly [string, string] | null;
	/** The way into the body that is edited; none for the main graph. */
	readonly into: readonly Step[];
	/** Whether the View shows what is in that body; else `shown` and the rest are nodes of the main graph. */
	readonly inside: boolean;
	/** The setting (node and name) that is dragged, so that draft values stand in for others. */
	readonly dragged: readonly [string, string] | null;
}

/** What is not said of a look. */
export const UNSAID: Look = {
	shown: [],
	ghosts: [],
	wireframe: false,
	frame: undefined,
	camera: null,
	heat: null,
	into: [],
	inside: false,
	dragged: null
};
