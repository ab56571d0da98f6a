/** Undo and redo over immutable states. A gesture, such as a drag, is one step however many states it goes through. */
interface Step<State> {
	label: string;
	before: State;
	after: State;
	gesture: string | null;
}

const MOST_STEPS = 500;

export class History<State> {
	current: State = $state.raw() as State;
	#done = $state.raw<Step<State>[]>([]);
	#undone = $state.raw<Step<State>[]>([]);

	constructor(first: State) {
		this.current = first;
	}

	get undoLabel(): string | null {
		return this.#done.at(-1)?.label ?? null;
	}
	get redoLabel(): string | null {
		return this.#undone.at(-1)?.label ?? null;
	}

	/** Takes a new state. States of one gesture follow one another as a single step. */
	change(label: string, after: State, gesture: string | null = null): void {
		if (after === this.current) return;
		const last = this.#done.at(-1);
		if (gesture && last?.gesture === gesture) this.#done = [...this.#done.slice(0, -1), { ...last, after }];
		else this.#done = [...this.#done.slice(-MOST_STEPS), { label, before: this.current, after, gesture }];
		this.#undone = [];
		this.current = after;
	}

	/** Changes what the last step came to: the two are undone together. Not without a step, nor while there is something to redo. */
	amend(make: (state: State) => State): boolean {
		const last = this.#done.at(-1);
		if (!last || this.#undone.length) return false;
		const after = make(this.current);
		this.#done = [...this.#done.slice(0, -1), { ...last, after }];
		this.current = after;
		return true;
	}

	/** Ends a gesture, or only one of that name: the next change is a step of its own. */
	endGesture(gesture?: string): void {
		const last = this.#done.at(-1);
		if (last?.gesture && (gesture === undefined || gesture === last.gesture))
			this.#done = [...this.#done.slice(0, -1), { ...last, gesture: null }];
	}

	/** Begins anew with a state that came from elsewhere: steps that led to another one make no sense any more. */
	restart(state: State): void {
		this.#done = [];
		this.#undone = [];
		this.current = state;
	}

	undo(): void {
		const step = this.#done.at(-1);
		if (!step) return;
		this.#done = this.#done.slice(0, -1);
		this.#undone = [...this.#undone, step];
		this.current = step.before;
	}

	redo(): void {
		const step = this.#undone.at(-1);
		if (!step) return;
		this.#undone = this.#undone.slice(0, -1);
		this.#done = [...this.#done, { ...step, gesture: null }];
		this.current = step.after;
	}
}
