/** Why a node cannot run yet. */

/** Something upstream has not come. */
export class Waiting extends Error {
	readonly node: string;
	constructor(node: string) {
		super();
		this.node = node;
	}
}

/** A node that is not wired up yet. */
export class Incomplete extends Error {
	/** Left out where no single input is at fault. */
	readonly input?: string;
	constructor(message: string, input?: string) {
		super(message);
		this.input = input;
	}
}
