/**
 * Whether a button of the pointer is held down. What comes or goes by itself, as a line under a field that was just left or
 * news of an evaluation, waits until it is let go: a row that moves between press and release takes the release for its own.
 */
class PointerHeld {
	isDown = $state(false);

	constructor() {
		if (typeof addEventListener === 'undefined') return;
		// Before whoever is pressed hears of it: what is left by the press already sees it held.
		const press = (event: PointerEvent) => event.isPrimary && (this.isDown = true);
		// After the click that follows a release.
		const release = () => setTimeout(() => (this.isDown = false));
		addEventListener('pointerdown', press, { capture: true });
		for (const name of ['pointerup', 'pointercancel', 'dragend'] as const)
			addEventListener(name, release, { capture: true });
		// Of the window: fields are left all the time.
		addEventListener('blur', release);
	}
}

const pointer = new PointerHeld();

/** A value that stays as it is while the pointer is held down. */
export class Steady<Value> {
	#last: Value;
	readonly #of: () => Value;

	constructor(of: () => Value) {
		this.#of = of;
		this.#last = of();
	}

	readonly value: Value = $derived.by(() => {
		const now = this.#of();
		if (!pointer.isDown) this.#last = now;
		return this.#last;
	});
}
