/** An outline in a plane cut into triangles that keep all of its places, also those on straight sides. */
import earcut from 'earcut';
import { pollAt } from './allocate.ts';

/**
 * @param flat two numbers a place, counter-clockwise.
 * @returns three places a triangle, counter-clockwise; two triangles fewer than there are places, and every side of the
 * outline is the side of exactly one.
 */
export function trianglesOfOutline(flat: readonly number[]): number[] {
	const count = flat.length / 2;
	return trianglesOfLoops(flat, [0, count]) ?? fanFrom(count);
}

/**
 * The same for an outline with holes, which run clockwise, one after another. Null where they cross.
 * @param starts for each loop its first place, and one more entry: the count of places.
 */
export function trianglesOfLoops(flat: ArrayLike<number>, starts: ArrayLike<number>): number[] | null {
	const loops = starts.length - 1;
	const count = flat.length / 2;
	const cut = earcut(flat as number[], Array.from(starts).slice(1, loops));
	const left = new LeftOut(count, starts, cut);
	// Ear clipping may turn all of them round: they follow the outline. Asked of all, as slivers have a sign by chance.
	let area = 0;
	for (let k = 0; k < cut.length; k += 3) area += areaOf(flat, cut[k], cut[k + 1], cut[k + 2]);
	const out: number[] = [];
	const stack: number[] = [];
	for (let k = 0; k < cut.length; k += 3) {
		pollAt(k);
		if (area < 0) stack.push(cut[k], cut[k + 2], cut[k + 1]);
		else stack.push(cut[k], cut[k + 1], cut[k + 2]);
		while (stack.length) {
			const [x, y, z] = stack.splice(-3);
			if (!(left.fan(x, y, z, stack) || left.fan(y, z, x, stack) || left.fan(z, x, y, stack)))
				out.push(x, y, z);
		}
	}
	return out.length === 3 * (count + 2 * (loops - 1) - 2) ? out : null;
}

/** The places that ear clipping leaves out: what lies on straight sides. */
class LeftOut {
	readonly #isUsed: Uint8Array;
	readonly #next: Uint32Array;

	constructor(count: number, starts: ArrayLike<number>, cut: readonly number[]) {
		this.#isUsed = new Uint8Array(count);
		for (const place of cut) this.#isUsed[place] = 1;
		this.#next = new Uint32Array(count);
		for (let l = 0; l + 1 < starts.length; l++)
			for (let i = starts[l]; i < starts[l + 1]; i++)
				this.#next[i] = i + 1 < starts[l + 1] ? i + 1 : starts[l];
	}

	/** Where a triangle's side passes such places, puts triangles to each of them in its place. Whether it does. */
	fan(from: number, to: number, tip: number, stack: number[]): boolean {
		const [used, next] = [this.#isUsed, this.#next];
		const first = next[from];
		if (first === to || used[first]) return false;
		let last = first;
		while (last !== to && !used[last]) last = next[last];
		if (last !== to) return false;
		for (let place = from; place !== to; place = next[place]) {
			used[next[place]] = 1;
			stack.push(place, next[place], tip);
		}
		return true;
	}
}

/** What no ears can be cut of, because it crosses itself: triangles from its first place. */
const fanFrom = (count: number): number[] =>
	Array.from({ length: Math.max(0, count - 2) }, (_, i) => [0, i + 1, i + 2]).flat();

const areaOf = (p: ArrayLike<number>, a: number, b: number, c: number): number =>
	(p[2 * b] - p[2 * a]) * (p[2 * c + 1] - p[2 * a + 1]) -
	(p[2 * c] - p[2 * a]) * (p[2 * b + 1] - p[2 * a + 1]);
