/** Flat outlines combined and offset, by the library that the trade uses for it; its numbers are whole millionths of a metre. */
import { ClipType, EndType, FillRule, JoinType, booleanOpD, inflatePathsD } from 'clipper2-ts';
import { allocate, makeCurves, poll, pollAt } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import type { Plane } from './extrude.ts';
import type { Section } from './section.ts';

/** Digits after the point that the library keeps. */
const PRECISION = 6;
/** Metres by which it moves a point at most. */
const ROUNDING = 1e-6;

interface Point {
	x: number;
	y: number;
}
type Paths = Point[][];

const pathsOf = (sections: readonly Section[]): Paths =>
	sections.map(({ points }) =>
		Array.from({ length: points.length / 2 }, (_, i) => ({ x: points[2 * i], y: points[2 * i + 1] }))
	);
const sectionsFrom = (paths: Paths): Section[] =>
	paths
		.filter((path) => path.length > 2)
		.map((path) => ({ closed: true, points: Float64Array.from(path.flatMap(({ x, y }) => [x, y])) }));

function clip(type: ClipType, subjects: Paths, clips: Paths, fill: FillRule): Paths {
	return booleanOpD(type, subjects.map(withoutTurns), clips.map(withoutTurns), fill, PRECISION);
}

/**
 * An outline that runs along a horizontal line never runs back on it: what lies between encloses nothing, and the library
 * never comes to an end with it (16 of 16,639 outlines on a grid; without, none of 500,000). To let it drop all points on
 * straight sides would help too, but then some outlines come out the wrong way round.
 */
function withoutTurns(path: Paths[number]): Paths[number] {
	const level = ({ y }: { y: number }): number => Math.round(y / ROUNDING);
	const along = ({ x }: { x: number }): number => Math.round(x / ROUNDING);
	const out: Paths[number] = [];
	const turns = (a: Point, b: Point, c: Point): boolean =>
		level(a) === level(b) && level(b) === level(c) && (along(b) - along(a)) * (along(c) - along(b)) <= 0;
	for (const next of path) {
		while (out.length > 1 && turns(out[out.length - 2], out[out.length - 1], next)) out.pop();
		out.push(next);
	}
	// The same where its end meets its beginning.
	for (let isDone = false; !isDone && out.length > 2;) {
		const last = out.length - 1;
		isDone = true;
		if (turns(out[last - 1], out[last], out[0])) isDone = !out.pop();
		else if (turns(out[last], out[0], out[1])) isDone = !out.shift();
	}
	return out;
}

const CLIPS = {
	union: ClipType.Union,
	difference: ClipType.Difference,
	overlap: ClipType.Intersection,
	either: ClipType.Xor
} as const;
export type Combination = keyof typeof CLIPS;

/** Closed outlines of two sets as one. Within a set an outline inside another is a hole. */
export function combineOutlines(
	first: readonly Section[],
	second: readonly Section[],
	how: Combination
): Section[] {
	// Each set by itself first: where many sides cross in one point the library is wrong by up to a hundredth of the area in one go.
	const [one, two] = [first, second].map((set) => {
		const paths = pathsOf(set.filter(hasInside));
		return paths.length ? clip(ClipType.Union, paths, [], FillRule.EvenOdd) : paths;
	});
	poll();
	return sectionsFrom(clip(CLIPS[how], one, two, FillRule.EvenOdd));
}

/**
 * Whether an outline encloses more than the library’s rounding could make of nothing. One that is seen edge-on is a line
 * that runs there and back: it encloses nothing, and thousands of crossings with itself would be all that is found.
 */
export function hasInside({ points }: Section): boolean {
	let around = 0,
		swept = 0;
	const [left, low] = points;
	for (let i = 0; i < points.length; i += 2) {
		pollAt(i);
		const j = (i + 2) % points.length;
		const x = points[j] - points[i],
			y = points[j + 1] - points[i + 1];
		around += Math.sqrt(x * x + y * y);
		// Without its sign: of two loops run through the other way round neither takes from the other.
		swept += Math.abs((points[i] - left) * y - (points[i + 1] - low) * x) / 2;
	}
	return swept > around * ROUNDING;
}

/** Outlines that may cross themselves and one another as simple ones, by either of SVG’s fill rules. */
export function resolveCrossings(sections: readonly Section[], rule: 'even-odd' | 'nonzero'): Section[] {
	const fill = rule === 'nonzero' ? FillRule.NonZero : FillRule.EvenOdd;
	return sectionsFrom(clip(ClipType.Union, pathsOf(sections), [], fill));
}

const JOINS = {
	round: JoinType.Round,
	mitre: JoinType.Miter,
	bevel: JoinType.Bevel,
	square: JoinType.Square
} as const;
export type Join = keyof typeof JOINS;

/** Closed outlines made wider (or narrower, below 0); open ones become outlines around them. */
export function offsetOutlines(
	sections: readonly Section[],
	distance: number,
	join: Join,
	smooth: number
): Section[] {
	const closed = sections.filter((one) => one.closed),
		open = sections.filter((one) => !one.closed);
	const inflate = (some: readonly Section[], end: EndType, by: number) =>
		some.length ? inflatePathsD(pathsOf(some), by, JOINS[join], end, 4, PRECISION, smooth) : [];
	// Holes run the other way round, so that they grow as their outlines shrink.
	const oriented = closed.length ? combineOutlines(closed, [], 'union') : [];
	return [
		...sectionsFrom(inflate(oriented, EndType.Polygon, distance)),
		...sectionsFrom(
			inflate(
				open,
				join === 'round' ? EndType.Round : join === 'square' ? EndType.Square : EndType.Butt,
				Math.abs(distance)
			)
		)
	];
}

/** Sections of a plane as closed curves in space. */
export function curvesFromSections(
	sections: readonly Section[],
	[a, signA, b, signB]: Plane,
	height: number
): Curves {
	const starts = allocate('index', sections.length + 1);
	sections.forEach(({ points }, c) => (starts[c + 1] = starts[c] + points.length / 2));
	const positions = allocate('float', 3 * starts[sections.length]).fill(height);
	sections.forEach(({ points }, c) => {
		for (let i = 0; i < points.length / 2; i++) {
			pollAt(i);
			positions[3 * (starts[c] + i) + a] = signA * points[2 * i];
			positions[3 * (starts[c] + i) + b] = signB * points[2 * i + 1];
		}
	});
	return makeCurves(
		positions,
		starts,
		Uint8Array.from(sections, ({ closed }) => (closed ? 1 : 0))
	);
}
