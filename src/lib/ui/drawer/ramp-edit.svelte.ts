/** A ramp under edit: which stop is chosen, and what can be done to the stops. */
import * as varying from '$core/varying/index';

export type Change = (ramp: varying.Ramp, done: boolean) => void;

export const tidy = (n: number): number => Math.round(n * 1000) / 1000;
const within = (x: number): number => Math.max(0, Math.min(1, x));

export class RampEdit {
	chosen = $state(0);
	isHeld = $state(false);
	readonly #of: () => { ramp: varying.Ramp; colours: boolean; onchange: Change };

	constructor(of: () => { ramp: varying.Ramp; colours: boolean; onchange: Change }) {
		this.#of = of;
	}

	get stops(): readonly varying.RampStop[] {
		return varying.sortedStops(this.#of().ramp.stops);
	}
	get colours(): boolean {
		return this.#of().colours;
	}

	#put(stops: readonly varying.RampStop[], done = true): void {
		this.#of().onchange({ stops }, done);
	}
	/** Changes a part of one stop. */
	change(i: number, part: Partial<varying.RampStop>, done = true): void {
		this.#put(
			this.stops.map((stop, k) => (k === i ? { ...stop, ...part } : stop)),
			done
		);
	}
	moveTo(i: number, at: number): void {
		this.change(i, { at: within(at) });
	}

	add(at: number, value: number): void {
		const { stops, colours } = this;
		const next = varying.sortedStops([
			...stops,
			{ at, value, colour: colours ? [0.5, 0.5, 0.5] : undefined, easing: stops[0]?.easing ?? 'linear' }
		]);
		this.#put(next);
		this.chosen = next.findIndex((stop) => stop.at === at && stop.value === value);
	}
	remove(i: number): void {
		this.#put(this.stops.filter((_, k) => k !== i));
		this.chosen = Math.max(0, i - 1);
	}

	hold(i: number): void {
		this.chosen = i;
		this.isHeld = true;
	}
	/** A stop stays between its neighbours, so that it keeps its number while it is dragged. */
	drag(at: number, value: number): void {
		const { chosen, stops, colours } = this;
		if (!this.isHeld) return;
		const least = stops[chosen - 1]?.at ?? 0,
			most = stops[chosen + 1]?.at ?? 1;
		this.change(chosen, { at: Math.max(least, Math.min(most, at)), ...(!colours && { value }) }, false);
	}
	letGo(): void {
		if (this.isHeld) this.#of().onchange(this.#of().ramp, true);
		this.isHeld = false;
	}

	/** One of the four numbers of a Bézier's handles. */
	setHandle(i: number, k: number, n: number): void {
		const handles = [...(this.stops[i].handles ?? varying.SOFT_HANDLES)] as [number, number, number, number];
		handles[k] = k % 2 ? n : within(n);
		this.change(i, { handles });
	}

	/** Arrows move a stop, Delete takes it out. Whether the key meant something. */
	key(event: KeyboardEvent, i: number): boolean {
		const step = event.shiftKey ? 0.001 : event.ctrlKey ? 0.1 : 0.01;
		const { stops } = this;
		const stop = stops[i];
		const moved: Record<string, Partial<varying.RampStop>> = {
			ArrowLeft: { at: tidy(Math.max(stops[i - 1]?.at ?? 0, stop.at - step)) },
			ArrowRight: { at: tidy(Math.min(stops[i + 1]?.at ?? 1, stop.at + step)) },
			ArrowUp: { value: tidy(stop.value + step) },
			ArrowDown: { value: tidy(stop.value - step) }
		};
		if (moved[event.key]) this.change(i, moved[event.key]);
		else if (event.key === 'Delete' || event.key === 'Backspace') this.remove(i);
		else return false;
		return true;
	}
}
