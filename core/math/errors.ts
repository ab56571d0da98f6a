/** A mending that the interface can offer beside an error: what it does in words, and the change itself. */
export interface Fix {
	label: string;
	/** Add a node of this kind between the wire and this input. */
	insert?: { node: string; input: string };
	/** Give the setting this value. */
	set?: { setting: string; value: unknown };
	/** Declare an input of this name on a node whose inputs are the artist's. */
	declare?: string;
	/** Write another name wherever this one stands in the node's formulas. */
	rename?: { from: string; to: string };
	/** Write another formula wherever this one stands in the node's settings. */
	formula?: { from: string; to: string };
	/** Let a shape of its own be made for each copy, by a body of what makes the source. */
	varyCopies?: true;
}

/** Letters of a name, a formula or a path that a message quotes. */
const QUOTED = 60;

/** A message with what it quotes cut to a length at which it can still be read. All that artists are told goes through here. */
export const inBrief = (message: string): string =>
	message.replace(/“([^“”]*)”/g, (whole, quoted: string) =>
		quoted.length > QUOTED ? `“${[...quoted.slice(0, QUOTED)].slice(0, -1).join('')}…”` : whole
	);

/** Something an artist can mend. The message is a sentence: what was expected, what came, what to do. */
export class NodeError extends Error {
	/** The input at fault, where one is. */
	readonly input?: string;
	/** The likeliest first. */
	readonly fixes: readonly Fix[];
	constructor(message: string, options: { input?: string; fixes?: readonly Fix[]; cause?: Error } = {}) {
		super(inBrief(message), options.cause && { cause: options.cause });
		this.name = 'NodeError';
		this.input = options.input;
		this.fixes = options.fixes ?? [];
	}
}

/** Thrown when an evaluation was asked to stop. Not an error of any node. */
export class Stopped extends Error {
	constructor() {
		super('Stopped.');
		this.name = 'Stopped';
	}
}

/** A count as people read it: 1,240. */
export function formatCount(n: number): string {
	if (!Number.isFinite(n)) return 'endlessly many';
	return Math.round(n)
		.toString()
		.replace(/\B(?=(\d{3})+$)/g, ',');
}

/** "1 point", "1,240 points". */
export const plural = (n: number, one: string, many = one + 's'): string =>
	`${formatCount(n)} ${n === 1 ? one : many}`;
