/**
 * Copies that carry copies: level by level in one table, each level's rows after those before it, each child's move in its
 * parent's space.
 */
import { quaternion } from '../math/index.ts';
import type { Affine, Column, Table } from '../geometry/index.ts';
import {
	Places,
	PlacesMade,
	allocate,
	column,
	makeTable,
	matrix,
	placeColumns,
	pollAt,
	sameColumn,
	scratch,
	setInPieces,
	shears,
	withColumns,
	writeDerived
} from '../geometry/index.ts';
import type { Elements } from '../varying/index.ts';
import { grownElements, progressOf } from './grown-elements.ts';

/** A step from a parent to each of some children: three numbers each. */
export interface Steps {
	/** Metres along the parent's axes. */
	moves: ArrayLike<number>;
	/** Degrees about them. */
	turns: ArrayLike<number>;
	scales: ArrayLike<number>;
}

export interface Branching {
	/** Where the first copies stand: position, orientation and scale. */
	roots: Table;
	/** Where children stand in their parent's space. */
	places: Table;
	/** How many generations follow the first. */
	levels: number;
	/** The step of each copy of a level, from 1, before it goes to its place. */
	steps(on: Elements): Steps;
	/** Which copies of a level carry others: 0 for those that do not; null where all do. */
	continues(on: Elements): ArrayLike<number> | null;
	/** How many copies there may be in all. */
	most: number;
	/** Hears that there would be more. */
	tooMany(level: number, count: number): never;
}

/** Places without a shear and with one size for all axes: three, four and one number each. */
interface Sized {
	positions: Float64Array;
	turns: Float64Array;
	sizes: Float64Array;
}

/** One generation. */
interface Level {
	count: number;
	ids: Uint32Array;
	/** Twelve numbers each; null while all are turned and sized alike on all axes, which `sized` then says. */
	maps: Float64Array | null;
	sized: Sized | null;
	parent: Int32Array;
	sibling: Int32Array;
	/** Rows of the table before it. */
	first: number;
}

/** The table of all copies: places, `level`, `progress`, `parent` (−1 for the first), `sibling`, `source` zero. */
export function branchingCopies(of: Branching): Table {
	const all: Level[] = [firstLevel(of.roots)];
	const places: Local = { maps: affinesOf(of.places), sized: sizedOf(of.places) };
	let total = all[0].count;
	for (let level = 1; level <= of.levels; level++) {
		const before = all[all.length - 1];
		const going = of.continues(elementsOf(before, level - 1, of.levels));
		const count = of.places.count * (going ? countOf(going) : before.count);
		if (!count) break;
		if (total + count > of.most) of.tooMany(level, total + count);
		total += count;
		const next = emptyLevel(count, before);
		grow(before, next, going, of.places);
		placeChildren(before, next, places, of.steps(elementsOf(next, level, of.levels)));
		all.push(next);
	}
	return tableOf(all, total, of.levels);
}

function countOf(going: ArrayLike<number>): number {
	let count = 0;
	for (let i = 0; i < going.length; i++) {
		pollAt(i);
		if (going[i]) count++;
	}
	return count;
}

function firstLevel(roots: Table): Level {
	const { count } = roots;
	const level: Level = {
		count,
		ids: scratch('index', 2 * count),
		maps: null,
		sized: null,
		parent: scratch('int', count).fill(-1),
		sibling: scratch('int', count),
		first: 0
	};
	for (let i = 0; i < count; i++) {
		pollAt(i);
		level.ids[2 * i] = roots.ids ? roots.ids[2 * i] : i;
		level.ids[2 * i + 1] = roots.ids ? roots.ids[2 * i + 1] : 0;
	}
	level.sized = sizedOf(roots);
	if (!level.sized) level.maps = affinesOf(roots);
	return level;
}

const emptyLevel = (count: number, before: Level): Level => ({
	count,
	ids: scratch('index', 2 * count),
	maps: null,
	sized: null,
	parent: scratch('int', count),
	sibling: scratch('int', count),
	first: before.first + before.count
});

/** Whose child each is, which of them, and an id that follows from both. */
function grow(before: Level, next: Level, going: ArrayLike<number> | null, { count: children }: Table): void {
	const parents: Table = { count: before.count, columns: new Map(), ids: before.ids };
	for (let p = 0, o = 0; p < before.count; p++) {
		if (going && !going[p]) continue;
		for (let k = 0; k < children; k++, o++) {
			pollAt(o);
			next.parent[o] = p;
			next.sibling[o] = k;
			writeDerived(next.ids, o, parents, p, k + 1);
		}
	}
}

/** The places of children in their parent's space, both ways of saying them. */
interface Local {
	maps: Float64Array;
	sized: Sized | null;
}

/** Each child's place: its parent's, then its place there, then its own step. */
function placeChildren(before: Level, next: Level, places: Local, steps: Steps): void {
	if (before.sized && places.sized && isUniform(steps.scales))
		return placeSized(before.sized, next, places.sized, steps);
	before.maps ??= mapsOf(before.sized!);
	next.maps = scratch('double', 12 * next.count);
	const step = matrix.identity(),
		there = matrix.identity(),
		whole = matrix.identity();
	const q = [0, 0, 0, 1],
		move = [0, 0, 0],
		size = [1, 1, 1];
	for (let i = 0; i < next.count; i++) {
		pollAt(i);
		const k = 3 * i;
		quaternion.fromAngles(q, 0, steps.turns[k], steps.turns[k + 1], steps.turns[k + 2]);
		for (let c = 0; c < 3; c++) {
			move[c] = steps.moves[k + c];
			size[c] = steps.scales[k + c];
		}
		matrix.compose(move, q, size, step);
		const p = 12 * next.parent[i],
			s = 12 * next.sibling[i];
		matrix.product(places.maps.subarray(s, s + 12), step, there);
		matrix.product(before.maps.subarray(p, p + 12), there, whole);
		next.maps.set(whole, 12 * i);
	}
}

function isUniform(scales: ArrayLike<number>): boolean {
	for (let i = 0; i < scales.length; i += 3) {
		pollAt(i);
		// What is turned inside out is no rotation and size.
		if (!(scales[i] > 0) || scales[i] !== scales[i + 1] || scales[i] !== scales[i + 2]) return false;
	}
	return true;
}

/** The same where nothing shears: a tenth of the work. */
function placeSized(before: Sized, next: Level, places: Sized, steps: Steps): void {
	const { count, parent, sibling } = next;
	const made: Sized = (next.sized = emptySized(count));
	const { positions, turns, sizes } = before;
	const local = new LocalBySibling(places);
	const { ways, turned, sized } = local;
	const way = new Float64Array(3);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const k = 3 * i,
			p = parent[i],
			s = sibling[i];
		local.set(s, steps, k);
		const a = 3 * s,
			t = 4 * s,
			b = 4 * p;
		const size = sizes[p];
		const x = turns[b],
			y = turns[b + 1],
			z = turns[b + 2],
			w = turns[b + 3];
		quaternion.rotate(way, 0, x, y, z, w, size * ways[a], size * ways[a + 1], size * ways[a + 2]);
		made.positions[k] = positions[3 * p] + way[0];
		made.positions[k + 1] = positions[3 * p + 1] + way[1];
		made.positions[k + 2] = positions[3 * p + 2] + way[2];
		quaternion.multiply(
			made.turns,
			4 * i,
			x,
			y,
			z,
			w,
			turned[t],
			turned[t + 1],
			turned[t + 2],
			turned[t + 3]
		);
		made.sizes[i] = size * sized[s];
	}
}

/**
 * Where each of the siblings stands in its parent's space, with its own step: often every first child stands like the first
 * child of all, so that it is worked out only where the step is another than before.
 */
class LocalBySibling {
	readonly ways: Float64Array;
	readonly turned: Float64Array;
	readonly sized: Float64Array;
	readonly #places: Sized;
	/** Move, angles and size of the step that each was worked out with. */
	readonly #known: Float64Array;
	readonly #way = new Float64Array(3);
	readonly #turn = new Float64Array(4);

	constructor(places: Sized) {
		const count = places.sizes.length;
		this.#places = places;
		this.ways = scratch('double', 3 * count);
		this.turned = scratch('double', 4 * count);
		this.sized = scratch('double', count);
		this.#known = scratch('double', 7 * count).fill(NaN);
	}

	/** Takes the step at `k` of sibling `s`. */
	set(s: number, steps: Steps, k: number): void {
		const { moves, turns, scales } = steps;
		const known = this.#known;
		const o = 7 * s;
		if (
			known[o] === moves[k] &&
			known[o + 1] === moves[k + 1] &&
			known[o + 2] === moves[k + 2] &&
			known[o + 3] === turns[k] &&
			known[o + 4] === turns[k + 1] &&
			known[o + 5] === turns[k + 2] &&
			known[o + 6] === scales[k]
		)
			return;
		for (let c = 0; c < 3; c++) {
			known[o + c] = moves[k + c];
			known[o + 3 + c] = turns[k + c];
		}
		known[o + 6] = scales[k];
		this.#workOut(s, steps, k);
	}

	#workOut(s: number, { moves, turns: angles, scales }: Steps, k: number): void {
		const { positions, turns, sizes } = this.#places;
		const size = sizes[s];
		const way = this.#way,
			turn = this.#turn;
		const t = 4 * s;
		const x = turns[t],
			y = turns[t + 1],
			z = turns[t + 2],
			w = turns[t + 3];
		quaternion.rotate(way, 0, x, y, z, w, size * moves[k], size * moves[k + 1], size * moves[k + 2]);
		for (let c = 0; c < 3; c++) this.ways[3 * s + c] = way[c] + positions[3 * s + c];
		quaternion.fromAngles(turn, 0, angles[k], angles[k + 1], angles[k + 2]);
		quaternion.multiply(this.turned, t, x, y, z, w, turn[0], turn[1], turn[2], turn[3]);
		this.sized[s] = size * scales[k];
	}
}

const emptySized = (count: number): Sized => ({
	positions: scratch('double', 3 * count),
	turns: scratch('double', 4 * count),
	sizes: scratch('double', count)
});

/** Places as turns and sizes; null where some are sized otherwise on one axis than on another. */
function sizedOf(table: Table): Sized | null {
	if (shears(table)) return null;
	const { position, orientation, scale } = new Places(table);
	if (!isUniform(scale)) return null;
	const made = emptySized(table.count);
	for (let i = 0; i < table.count; i++) {
		pollAt(i);
		for (let k = 0; k < 3; k++) made.positions[3 * i + k] = position[3 * i + k];
		for (let k = 0; k < 4; k++) made.turns[4 * i + k] = orientation[4 * i + k];
		made.sizes[i] = scale[3 * i];
	}
	return made;
}

/** The same as maps. */
function mapsOf({ positions, turns, sizes }: Sized): Float64Array {
	const maps = scratch('double', 12 * sizes.length);
	const one = matrix.identity();
	for (let i = 0; i < sizes.length; i++) {
		pollAt(i);
		matrix.setAxes(one, turns, 4 * i, [sizes[i], sizes[i], sizes[i]], 0);
		for (let k = 0; k < 3; k++) one[9 + k] = positions[3 * i + k];
		maps.set(one, 12 * i);
	}
	return maps;
}

function affinesOf(table: Table): Float64Array {
	const places = new Places(table);
	const maps = scratch('double', 12 * table.count);
	const one: Affine = matrix.identity();
	for (let i = 0; i < table.count; i++) {
		pollAt(i);
		maps.set(places.affine(i, one), 12 * i);
	}
	return maps;
}

function elementsOf({ count, ids, parent, sibling, first }: Level, level: number, levels: number): Elements {
	const columns = {
		level: () => sameColumn('int', 'plain', count, level),
		levels: () => sameColumn('int', 'plain', count, levels),
		progress: () => sameColumn('float', 'plain', count, progressOf(level, levels)),
		sibling: () => column('int', 'plain', sibling),
		parent: () => column('int', 'plain', parent),
		number: () => numbered(count, first)
	};
	return grownElements(count, ids, 'copies', new Map(Object.entries(columns)));
}

function numbered(count: number, first: number): Column {
	const data = allocate('int', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		data[i] = first + i;
	}
	return column('int', 'plain', data);
}

function tableOf(all: readonly Level[], total: number, levels: number): Table {
	const ids = allocate('index', 2 * total);
	const [level, parent, sibling] = [allocate('int', total), allocate('int', total), allocate('int', total)];
	const progress = allocate('float', total);
	all.forEach((of, l) => {
		setInPieces(ids, of.ids, 2 * of.first);
		setInPieces(sibling, of.sibling, of.first);
		const above = l ? all[l - 1].first : 0;
		const reached = progressOf(l, levels);
		for (let i = 0; i < of.count; i++) {
			pollAt(i);
			const row = of.first + i;
			level[row] = l;
			progress[row] = reached;
			parent[row] = l ? above + of.parent[i] : -1;
		}
	});
	const table = makeTable(
		total,
		{
			source: column('int', 'id', allocate('int', total)),
			level: column('int', 'plain', level),
			progress: column('float', 'plain', progress),
			parent: column('int', 'id', parent),
			sibling: column('int', 'plain', sibling)
		},
		ids
	);
	return withColumns(table, placesOf(all, total));
}

/** Where all stand: as it is known where none shears, else worked out from the maps. */
function placesOf(all: readonly Level[], total: number): Record<string, Column | null> {
	const known = all.flatMap(({ sized }) => sized ?? []);
	return known.length === all.length ? writtenTogether(known, total) : fromMaps(all, total);
}

function writtenTogether(levels: readonly Sized[], total: number): Record<string, Column | null> {
	const position = allocate('float', 3 * total),
		orientation = allocate('float', 4 * total),
		scale = allocate('float', 3 * total);
	let row = 0;
	for (const { positions, turns, sizes } of levels) {
		setInPieces(position, positions, 3 * row);
		setInPieces(orientation, turns, 4 * row);
		for (let i = 0; i < sizes.length; i++, row++) {
			pollAt(i);
			scale[3 * row] = scale[3 * row + 1] = scale[3 * row + 2] = sizes[i];
		}
	}
	return placeColumns({ position, orientation, scale });
}

function fromMaps(all: readonly Level[], total: number): Record<string, Column | null> {
	const made = new PlacesMade(total);
	const one = matrix.identity();
	for (const { count, first, maps, sized } of all) {
		const from = maps ?? mapsOf(sized!);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			for (let k = 0; k < 12; k++) one[k] = from[12 * i + k];
			made.set(first + i, one);
		}
	}
	return made.columns();
}
