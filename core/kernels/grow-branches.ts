/** Stems and the branches on them, level by level: each level's numbers are asked for at once, for all its branches. */
import { TAU, cos, quaternion, sin } from '../math/index.ts';
import type { Column, Curves, Table } from '../geometry/index.ts';
import {
	Growing,
	allocate,
	column,
	makeTable,
	pollAt,
	scratch,
	withColumns,
	writeDerived
} from '../geometry/index.ts';
import type { Elements } from '../varying/index.ts';
import type { Bending, Front } from './branch-way.ts';
import { cross, front, growWay, normalise, settle } from './branch-way.ts';
import type { BoxTree } from './box-tree.ts';
import type { Ring } from './collars.ts';
import { ringsOf } from './collars.ts';
import { grownElements, progressOf } from './grown-elements.ts';

/** How places follow one another round a parent. Angles are in radians. */
export interface Arrangement {
	/** Branches at each place. */
	each: number;
	/** From one place to the next. */
	divergence: number;
}

/** Numbers for the branches of a level, one for each. */
export interface LevelNumbers {
	/** Degrees from the parent's direction. */
	angle: ArrayLike<number>;
	/** Degrees about the parent, beside the arrangement. */
	rotation: ArrayLike<number>;
	/** Metres. */
	length: ArrayLike<number>;
	/** Of the parent's radius where it stands. */
	radius: ArrayLike<number>;
	segments: ArrayLike<number>;
	/** Degrees. */
	wobble: ArrayLike<number>;
	strength: ArrayLike<number>;
	/** How far a branch is rounded towards its parent, as a share of its own radius. */
	collar: ArrayLike<number>;
}

export interface Growth {
	/** Where stems begin: points with `orientation`; their y is the way that they go. */
	roots: Table;
	/** Whether stems go up, whatever way those points are turned. */
	upright: boolean;
	levels: number;
	/** Of the stems: metres. */
	stemRadius(on: Elements): ArrayLike<number>;
	stemLength(on: Elements): ArrayLike<number>;
	/** How many places each branch has for branches of the next level, where on it the first and last are, as shares. */
	places(on: Elements): { count: ArrayLike<number>; from: ArrayLike<number>; to: ArrayLike<number> };
	/** Where places are a distance apart, in metres; null where they are counted. */
	spacing: ((on: Elements) => ArrayLike<number>) | null;
	arrangement: Arrangement;
	numbers(on: Elements): LevelNumbers;
	/** The branch's length and radius as shares of its parent's, by the place on it. */
	lengthAlong(u: number): number;
	/** The radius along a branch. */
	taper(t: number): number;
	/** Whether the areas of the branches at a fork are those of what came to it. */
	keepsArea: boolean;
	/** How much of a branch goes on beyond its last fork. */
	leader(on: Elements): ArrayLike<number>;
	bending: Pick<Bending, 'towards' | 'isPlace' | 'share'>;
	wave: number;
	ground: number | null;
	obstacle: BoxTree | null;
	/** Throws where so many points do not fit. */
	check(level: number, branches: number, points: number): void;
}

/** All branches, the stems first, then level by level. */
export class Branches {
	readonly level = new Growing('int');
	readonly parent = new Growing('int');
	readonly sibling = new Growing('int');
	readonly u = new Growing('double');
	readonly length = new Growing('double');
	readonly baseRadius = new Growing('double');
	readonly collar = new Growing('double');
	readonly ids = new Growing('index');
	/** The first point of each; its points stand one after another. */
	readonly first = new Growing('index');
	readonly count = new Growing('index');
	/** Three numbers a point. */
	readonly p = new Growing('double');
	readonly d = new Growing('double');
	readonly n = new Growing('double');
	readonly radius = new Growing('double');

	get size(): number {
		return this.level.length;
	}
}

/** What formulas are told of the branches from one row to another; `about` in place of their own level where it is the next. */
function elementsOf(of: Branches, from: number, to: number, levels: number, about: number): Elements {
	const count = to - from;
	const ids = idsFrom(of, from, to);
	const made = (read: (row: number) => number) => (): Column => {
		const data = allocate('float', count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			data[i] = read(from + i);
		}
		return column('float', 'plain', data);
	};
	const ofParent = (values: Growing<'double'>) => (row: number) => {
		const parent = of.parent.at(row);
		return parent < 0 ? 0 : values.at(parent);
	};
	const isNext = about > of.level.at(from);
	const columns = new Map<string, () => Column>([
		['level', made(() => about)],
		['levels', made(() => levels)],
		['progress', made(() => progressOf(about, levels))],
		['u', made((row) => of.u.at(row))],
		['sibling', made((row) => of.sibling.at(row))],
		['parent', made((row) => of.parent.at(row))],
		['number', made((row) => row)],
		// Asked of a parent before its branches are there, its own length is that of the parent.
		['parent.length', made(isNext ? (row) => of.length.at(row) : ofParent(of.length))],
		['parent.radius', made(isNext ? (row) => of.baseRadius.at(row) : ofParent(of.baseRadius))]
	]);
	return grownElements(count, ids, 'branches', columns);
}

export function growBranches(of: Growth): Branches {
	const made = new Branches();
	sowStems(made, of);
	let from = 0;
	for (let level = 1; level <= of.levels; level++) {
		const to = made.size;
		if (to === from) break;
		fork(made, of, from, to, level);
		from = to;
	}
	// Those of the last level have no forks: their radius only tapers.
	for (let b = from; b < made.size; b++) taperAlong(made, of, b, []);
	return made;
}

const at = front();

function sowStems(made: Branches, of: Growth): void {
	const { roots } = of;
	const places = roots.columns.get('position')!.data;
	const turns = roots.columns.get('orientation')?.data;
	for (let i = 0; i < roots.count; i++) {
		pollAt(i);
		made.level.push(0);
		made.parent.push(-1);
		made.sibling.push(i);
		made.u.push(0);
		made.length.push(0);
		made.baseRadius.push(0);
		made.ids.push(roots.ids ? roots.ids[2 * i] : i);
		made.ids.push(roots.ids ? roots.ids[2 * i + 1] : 0);
	}
	const on = elementsOf(made, 0, roots.count, of.levels, 0);
	const [length, radius, numbers] = [of.stemLength(on), of.stemRadius(on), of.numbers(on)];
	of.check(0, roots.count, pointsIn(numbers.segments));
	for (let i = 0; i < roots.count; i++) {
		for (let k = 0; k < 3; k++) at.p[k] = places[3 * i + k];
		at.d.set([0, 1, 0]);
		at.n.set([0, 0, 1]);
		if (turns && !of.upright) {
			const q = [0, 1, 2, 3].map((k) => turns[4 * i + k]) as [number, number, number, number];
			quaternion.rotate(at.d, 0, ...q, 0, 1, 0);
			quaternion.rotate(at.n, 0, ...q, 0, 0, 1);
		}
		settle(at);
		growOne(made, of, i, { length: length[i], radius: radius[i], numbers, place: i });
	}
}

function pointsIn(segments: ArrayLike<number>): number {
	let sum = 0;
	for (let i = 0; i < segments.length; i++) {
		pollAt(i);
		sum += Math.max(1, segments[i]) + 1;
	}
	return sum;
}

interface One {
	length: number;
	radius: number;
	numbers: LevelNumbers;
	/** Its place among those numbers. */
	place: number;
}

/** Grows the branch that stands in a row, from the front at hand. */
function growOne(made: Branches, of: Growth, row: number, { length, radius, numbers, place }: One): void {
	const wanted = Math.max(1, Math.min(10_000, Math.floor(numbers.segments[place] + 0.5) || 1));
	const own = length > 0 && Number.isFinite(length) ? length : 0;
	made.first.push(made.p.length / 3);
	const grown = growWay(
		at,
		{
			length: own,
			segments: own ? wanted : 1,
			bending: { ...of.bending, strength: numbers.strength[place] || 0 },
			wobble: quaternion.radians(numbers.wobble[place] || 0),
			wave: of.wave,
			words: [made.ids.at(2 * row) ^ 0x51ed27, made.ids.at(2 * row + 1) ^ 0x2c1b3c6d],
			ground: of.ground,
			obstacle: of.obstacle && { tree: of.obstacle, distance: Math.max(radius, 1e-6) }
		},
		() => {
			for (let k = 0; k < 3; k++) {
				made.p.push(at.p[k]);
				made.d.push(at.d[k]);
				made.n.push(at.n[k]);
			}
			made.radius.push(radius);
		}
	);
	made.count.push(grown + 1);
	made.collar.push(numbers.collar[place] || 0);
	set(made.length, row, (own * grown) / (own ? wanted : 1));
	set(made.baseRadius, row, radius);
}

const set = (of: Growing<'double'>, row: number, x: number): void => void (of.view()[row] = x);

/** Places of branches on one parent: how far along it, in the order in which they stand. */
function placesOn(length: number, count: number, from: number, to: number, spacing: number | null): number[] {
	const low = Math.max(0, Math.min(1, Math.min(from, to))),
		high = Math.max(0, Math.min(1, Math.max(from, to)));
	if (spacing !== null) {
		if (!(spacing > 0) || !(length > 0)) return [];
		const n = Math.min(100_000, Math.floor(((high - low) * length) / spacing + 1e-9));
		return Array.from({ length: n + 1 }, (_, i) => low + (i * spacing) / length);
	}
	const whole = Math.max(0, Math.min(100_000, Math.floor(count + 0.5) || 0));
	return Array.from({ length: whole }, (_, i) => (whole > 1 ? low + ((high - low) * i) / (whole - 1) : high));
}

/** The branches of one level, on those from one row to another. */
function fork(made: Branches, of: Growth, from: number, to: number, level: number): void {
	const on = elementsOf(made, from, to, of.levels, level);
	const asked = of.places(on);
	const spacings = of.spacing?.(on) ?? null;
	const { each, divergence } = of.arrangement;
	const parents: Table = { count: to - from, columns: new Map(), ids: idsFrom(made, from, to) };
	const ids = scratch('index', 2);
	const turns = new Growing('double');
	const starts: number[] = [];
	for (let b = from; b < to; b++) {
		pollAt(b);
		const i = b - from;
		starts.push(turns.length);
		const places = placesOn(
			made.length.at(b),
			asked.count[i],
			asked.from[i],
			asked.to[i],
			spacings && spacings[i]
		);
		// Each has two points at least: what does not fit is told before it is made.
		const branches = made.size - to + places.length * each;
		of.check(level, branches, made.p.length / 3 + 2 * branches);
		places.forEach((u, place) => {
			for (let k = 0; k < each; k++) {
				const sibling = place * each + k;
				made.level.push(level);
				made.parent.push(b);
				made.sibling.push(sibling);
				made.u.push(u);
				made.length.push(0);
				made.baseRadius.push(0);
				writeDerived(ids, 0, parents, i, sibling + 1);
				made.ids.push(ids[0]);
				made.ids.push(ids[1]);
				turns.push(place * divergence + (k * TAU) / each);
			}
		});
	}
	starts.push(turns.length);
	const children = made.size - to;
	const numbers = children ? of.numbers(elementsOf(made, to, made.size, of.levels, level)) : null;
	if (numbers) of.check(level, children, made.p.length / 3 + pointsIn(numbers.segments));
	const leaders = of.leader(on);
	for (let b = from; b < to; b++) {
		const first = starts[b - from],
			end = starts[b - from + 1];
		const forks: Fork[] = [];
		for (let place = first; place < end; place++)
			forks.push({ row: to + place, u: made.u.at(to + place), place });
		cutLeader(made, b, forks, leaders[b - from]);
		const leaving = forks.map(({ u, place }) => ({ u, share: numbers!.radius[place] }));
		taperAlong(made, of, b, leaving);
		const shares = of.keepsArea ? sharesAt(leaving) : leaving.map(({ u }) => of.taper(u));
		const base = made.baseRadius.at(b);
		forks.forEach((one, i) =>
			growChild(made, of, b, { ...one, radius: base * shares[i] }, numbers!, turns.at(one.place))
		);
	}
}

interface Fork {
	row: number;
	u: number;
	place: number;
}

function idsFrom(made: Branches, from: number, to: number): Uint32Array {
	const ids = scratch('index', 2 * (to - from));
	for (let i = 0; i < ids.length; i++) {
		pollAt(i);
		ids[i] = made.ids.at(2 * from + i);
	}
	return ids;
}

/** A share of what lies beyond the last fork stays: the points there draw nearer to it. */
function cutLeader(made: Branches, b: number, forks: readonly Fork[], leader: number): void {
	const share = Math.max(0, Math.min(1, leader));
	if (!forks.length || share === 1) return;
	const last = forks[forks.length - 1].u;
	const end = last + (1 - last) * share;
	const points = Math.max(2, made.count.at(b));
	const before = Array.from({ length: points }, (_, i) => placeAt(made, b, (end * i) / (points - 1)));
	const [p, d, n] = [made.p.view(), made.d.view(), made.n.view()];
	before.forEach((one, i) => {
		const o = 3 * (made.first.at(b) + i);
		for (let k = 0; k < 3; k++) {
			p[o + k] = one.p[k];
			d[o + k] = one.d[k];
			n[o + k] = one.n[k];
		}
	});
	// Its forks keep their places in space.
	const u = made.u.view();
	for (const one of forks) {
		one.u = end > 0 ? Math.min(1, one.u / end) : 0;
		u[one.row] = one.u;
	}
	set(made.length, b, made.length.at(b) * end);
}

/** Where a branch is at a share of its length, and how it is turned there. */
export function placeAt(made: Branches, b: number, u: number): Front {
	const found = front();
	const first = made.first.at(b),
		last = Math.max(0, made.count.at(b) - 1);
	const s = Math.max(0, Math.min(1, u)) * last;
	const i = Math.min(Math.max(0, last - 1), Math.floor(s));
	const t = s - i;
	const next = Math.min(last, i + 1);
	for (let k = 0; k < 3; k++) {
		const a = 3 * (first + i) + k,
			c = 3 * (first + next) + k;
		found.p[k] = made.p.at(a) + (made.p.at(c) - made.p.at(a)) * t;
		found.d[k] = made.d.at(a) + (made.d.at(c) - made.d.at(a)) * t;
		found.n[k] = made.n.at(a) + (made.n.at(c) - made.n.at(a)) * t;
	}
	settle(found);
	return found;
}

/** The radius of a branch along it: by the ramp, or, where areas are kept, by what went off at its forks. */
function taperAlong(
	made: Branches,
	of: Growth,
	b: number,
	forks: readonly { u: number; share: number }[]
): void {
	const first = made.first.at(b),
		count = made.count.at(b);
	const radius = made.radius.view();
	const base = made.baseRadius.at(b);
	for (let i = 0; i < count; i++) {
		const t = count > 1 ? i / (count - 1) : 0;
		radius[first + i] = base * (of.keepsArea ? areaShare(forks, t) : of.taper(t));
	}
}

/** What is left of a branch's radius at a share of its length, after the forks before it. Forks at one place count together. */
function areaShare(forks: readonly { u: number; share: number }[], t: number): number {
	let left = 1;
	for (let i = 0; i < forks.length && forks[i].u < t;) {
		let gone = 0;
		const { u } = forks[i];
		for (; i < forks.length && forks[i].u === u; i++) gone += forks[i].share * forks[i].share;
		left *= Math.sqrt(Math.max(0, 1 - gone));
	}
	return left;
}

/** Grows a branch from its place on its parent. */
function growChild(
	made: Branches,
	of: Growth,
	b: number,
	{ row, u, place, radius }: Fork & { radius: number },
	numbers: LevelNumbers,
	turn: number
): void {
	const here = placeAt(made, b, u);
	const side = new Float64Array(3),
		out = new Float64Array(3);
	cross(here.d, here.n, side);
	const round = turn + quaternion.radians(numbers.rotation[place] || 0);
	for (let k = 0; k < 3; k++) out[k] = cos(round) * here.n[k] + sin(round) * side[k];
	normalise(out);
	const angle = quaternion.radians(numbers.angle[place] || 0);
	for (let k = 0; k < 3; k++) {
		at.p[k] = here.p[k];
		at.d[k] = cos(angle) * here.d[k] + sin(angle) * out[k];
		at.n[k] = cos(angle) * out[k] - sin(angle) * here.d[k];
	}
	settle(at);
	growOne(made, of, row, {
		length: numbers.length[place] * made.length.at(b) * of.lengthAlong(u),
		radius: radius * Math.max(0, numbers.radius[place]),
		numbers,
		place
	});
}

/** What is left of a parent's radius at each of its forks, before it: forks at one place see the same. */
function sharesAt(forks: readonly { u: number; share: number }[]): number[] {
	const shares: number[] = [];
	let left = 1;
	for (let i = 0; i < forks.length;) {
		let gone = 0;
		const { u } = forks[i];
		for (; i < forks.length && forks[i].u === u; i++) {
			gone += forks[i].share * forks[i].share;
			shares.push(left);
		}
		left *= Math.sqrt(Math.max(0, 1 - gone));
	}
	return shares;
}

/** Branches as curves: at each point `radius`; on each curve `level`, `progress`, `parent`, `u`, `sibling`. */
export function curvesOf(made: Branches, levels: number): Curves {
	const { size } = made;
	/** Those with a collar have rings of their own; the others their points as they stand. */
	const collared = new Map<number, Ring[]>();
	const starts = allocate('index', size + 1);
	for (let b = 0; b < size; b++) {
		pollAt(b);
		const rings = collarOf(made, b);
		if (rings) collared.set(b, rings);
		starts[b + 1] = starts[b] + (rings?.length ?? made.count.at(b));
	}
	const points = starts[size];
	const position = allocate('float', 3 * points);
	const radius = allocate('float', points);
	const [p, r] = [made.p.view(), made.radius.view()];
	for (let b = 0; b < size; b++) {
		const rings = collared.get(b);
		const first = made.first.at(b);
		for (let o = starts[b]; o < starts[b + 1]; o++) {
			pollAt(o);
			const i = o - starts[b];
			const at = rings ? placeAt(made, b, rings[i].t).p : null;
			for (let k = 0; k < 3; k++) position[3 * o + k] = at ? at[k] : p[3 * (first + i) + k];
			radius[o] = rings ? radiusAt(made, b, rings[i].t) + rings[i].wider : r[first + i];
		}
	}
	const numbers = (type: 'float' | 'int', read: (b: number) => number): Column => {
		const data = allocate(type, size);
		for (let b = 0; b < size; b++) {
			pollAt(b);
			data[b] = read(b);
		}
		return column(type, 'plain', data);
	};
	const curves = makeTable(
		size,
		{
			closed: column('bool', 'plain', allocate('byte', size)),
			level: numbers('int', (b) => made.level.at(b)),
			progress: numbers('float', (b) => progressOf(made.level.at(b), levels)),
			parent: numbers('int', (b) => made.parent.at(b)),
			place: numbers('float', (b) => made.u.at(b)),
			sibling: numbers('int', (b) => made.sibling.at(b))
		},
		made.ids.take()
	);
	const table = withColumns(makeTable(points, {}), {
		position: column('vec3', 'position', position),
		radius: column('float', 'plain', radius)
	});
	return { points: table, curves, starts };
}

/** The rings of a branch that has a collar; null where it has none. */
function collarOf(made: Branches, b: number): Ring[] | null {
	const parent = made.parent.at(b),
		u = made.u.at(b);
	return parent >= 0 && made.collar.at(b) > 0
		? ringsOf(made, b, radiusAt(made, parent, u), placeAt(made, parent, u).d)
		: null;
}

/** The radius of a branch at a share of its length, as its points have it. */
function radiusAt(made: Branches, b: number, u: number): number {
	const last = Math.max(0, made.count.at(b) - 1);
	const s = Math.max(0, Math.min(1, u)) * last;
	const i = Math.min(Math.max(0, last - 1), Math.floor(s));
	const first = made.first.at(b) + i;
	const here = made.radius.at(first);
	return last ? here + (made.radius.at(first + 1) - here) * (s - i) : here;
}
