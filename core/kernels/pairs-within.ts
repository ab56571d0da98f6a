/**
 * Pairs of points no further apart than a distance, the nearest first of all, while both have room for one more: what is left
 * apart has an end that is full. Each point offers its nearest neighbour that was not tried; a heap says whose offer is next.
 * To join them point by point, as they stand in the list, left pairs apart whose ends both had room, and far ones before near.
 */
import { Growing, charge, pollAt, scratch } from '../geometry/index.ts';
import type { PointTree } from './point-tree.ts';

/** Neighbours that a point looks up at first; twice as many each time it has tried them. */
const FIRST_LOOK = 8;
/** What a pair takes in the set of those that are joined. */
const PAIR_BYTES = 40;

/**
 * @param p places, three numbers each. @param most how many pairs one point may have.
 * @returns the ends of each pair, the smaller number first, in the order in which they were joined.
 */
export function pairsWithin(
	tree: PointTree,
	p: ArrayLike<number>,
	distance: number,
	most: number
): { firsts: Growing<'index'>; seconds: Growing<'index'> } {
	const n = p.length / 3;
	const [firsts, seconds] = [new Growing('index'), new Growing('index')];
	if (!(most > 0) || !(distance >= 0)) return { firsts, seconds };
	const room = scratch('double', n).fill(most);
	const offers: Int32Array[] = [];
	const tried = scratch('index', n);
	/** The neighbour that a point offers next; −1 where none is near enough. */
	const offered = scratch('int', n).fill(-1);
	const squares = scratch('double', n);
	const joined = new Set<number>();

	/** Goes to the next neighbour of a point that has room; false where there is none within the distance. */
	const offer = (i: number): boolean => {
		for (;;) {
			if (tried[i] >= (offers[i]?.length ?? 0)) {
				const before = offers[i]?.length ?? 0;
				const wanted = Math.min(n - 1, Math.max(FIRST_LOOK, 2 * before));
				if (wanted <= before) return false;
				const found = tree.kNearest(p[3 * i], p[3 * i + 1], p[3 * i + 2], wanted, i);
				offers[i] = scratch('int', found.length);
				offers[i].set(found);
				if (tried[i] >= offers[i].length) return false;
			}
			const j = offers[i][tried[i]++];
			pollAt(tried[i] << 4);
			let square = 0;
			for (let k = 0; k < 3; k++) square += (p[3 * i + k] - p[3 * j + k]) * (p[3 * i + k] - p[3 * j + k]);
			if (Math.sqrt(square) > distance) return false;
			if (!room[j]) continue;
			offered[i] = j;
			squares[i] = square;
			return true;
		}
	};
	/** Whether the offer of one point comes before that of another: the nearer; of equal ones that of the smaller numbers. */
	const isBefore = (a: number, b: number): boolean => {
		if (squares[a] !== squares[b]) return squares[a] < squares[b];
		const [la, lb] = [Math.min(a, offered[a]), Math.min(b, offered[b])];
		return la !== lb ? la < lb : Math.max(a, offered[a]) < Math.max(b, offered[b]);
	};
	const heap: number[] = [];
	const sink = (from: number): void => {
		for (let at = from; ;) {
			let least = at;
			for (const child of [2 * at + 1, 2 * at + 2])
				if (child < heap.length && isBefore(heap[child], heap[least])) least = child;
			if (least === at) return;
			[heap[at], heap[least]] = [heap[least], heap[at]];
			at = least;
		}
	};
	for (let i = 0; i < n; i++) if (offer(i)) heap.push(i);
	for (let at = heap.length >> 1; at >= 0; at--) sink(at);
	while (heap.length) {
		const [i] = heap;
		const j = offered[i];
		if (room[i] && room[j]) {
			const [a, b] = [Math.min(i, j), Math.max(i, j)];
			const pair = a * n + b;
			// Both ends offer each other; the second time they are joined already.
			if (!joined.has(pair)) {
				joined.add(pair);
				charge(PAIR_BYTES);
				firsts.push(a);
				seconds.push(b);
				room[i]--;
				room[j]--;
			}
		}
		if (!room[i] || !offer(i)) {
			const last = heap.pop()!;
			if (!heap.length) break;
			heap[0] = last;
		}
		sink(0);
	}
	return { firsts, seconds };
}
