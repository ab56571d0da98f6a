/** A geometry from frame to frame: its states, each kept once, with the same points and faces in all of them. */
import { NodeError, formatCount } from '../math/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { PART_NAMES, countsOf, derive, digestOf, tableOf, withPoints } from '../geometry/index.ts';
import type { RigidPart } from './rigid-parts.ts';
import { rigidParts } from './rigid-parts.ts';

/** Morph targets that readers bear, and the points that all of them may have together. */
const MOST_SHAPES = 128;
const MOST_POINTS = 20_000_000;

export class Shapes {
	readonly #what: string;
	/** The states in the order of their first frames. */
	readonly list: Geometry[] = [];
	readonly #places = new Map<string, number>();
	readonly #frames = new Map<number, number>();

	/** @param what it is called in sentences. */
	constructor(what: string) {
		this.#what = what;
	}

	/** One that never changes. */
	static of(geometry: Geometry): Shapes {
		const shapes = new Shapes('');
		shapes.add(geometry, 0);
		return shapes;
	}

	/** The parts that move as wholes, and those that bend; found once all frames are there. */
	get parts(): readonly RigidPart[] {
		return (this.#parts ??= rigidParts(this.list).map((part) => {
			this.#checkShapes(part.states);
			return part;
		}));
	}
	#parts: readonly RigidPart[] | null = null;

	/** Which state stands at a frame; where none was said, the first. */
	at(frame: number): number {
		return this.#frames.get(frame) ?? 0;
	}

	add(geometry: Geometry, frame: number): void {
		const digest = digestOf(bare(geometry));
		let place = this.#places.get(digest);
		if (place === undefined) {
			this.#check(geometry, frame);
			place = this.list.push(geometry) - 1;
			this.#places.set(digest, place);
		}
		this.#frames.set(frame, place);
	}

	#check(geometry: Geometry, frame: number): void {
		const first = this.list.at(0);
		if (!first) return;
		const why = whyOther(first, geometry);
		if (why)
			throw new NodeError(
				`${this.#what} has ${why} at frame ${frame + 1} of these, which one GLB cannot follow. Write a file for each frame.`
			);
		if (countsOf(geometry).points * (this.list.length + 1) > MOST_POINTS) this.#refuse(this.list);
	}

	/** What bends has a morph target for each of its states. */
	#checkShapes(states: readonly Geometry[]): void {
		if (states.length > MOST_SHAPES + 1) this.#refuse(states);
	}

	#refuse(states: readonly Geometry[]): never {
		throw new NodeError(
			`${this.#what} has another shape at more than ${formatCount(states.length - 1)} frames, with ${formatCount(countsOf(states[0]).points)} points each; ${formatCount(MOST_SHAPES)} shapes and ${formatCount(MOST_POINTS)} points fit into one GLB. Write a file for each frame.`
		);
	}
}

/** Without what a GLB does not move: another attribute is not another shape. */
const bare = (geometry: Geometry): Geometry =>
	withPoints(geometry, (table) => ({
		...table,
		columns: new Map([...table.columns].filter(([name]) => PLACES.has(name)))
	}));
/** What says where points are. */
const PLACES: ReadonlySet<string> = new Set(['position', 'normal']);

/** What of a geometry is not as in another, so that one cannot bend into the other; null where it can. */
function whyOther(first: Geometry, other: Geometry): string | null {
	for (const part of PART_NAMES)
		if (tableOf(first, part, 'point')?.count !== tableOf(other, part, 'point')?.count) return 'other points';
	const [a, b] = [first.mesh, other.mesh];
	if (a && b) {
		if (!sameNumbers(a.topology.faceStarts, b.topology.faceStarts)) return 'other faces';
		if (!sameNumbers(a.topology.cornerPoints, b.topology.cornerPoints)) return 'other faces';
		for (const name of ['shown', 'material'])
			if (!sameNumbers(a.faces.columns.get(name)?.data, b.faces.columns.get(name)?.data))
				return name === 'shown' ? 'other faces hidden' : 'other materials';
	}
	if (first.curves && other.curves && !sameNumbers(first.curves.starts, other.curves.starts))
		return 'other curves';
	if (first.copies && digestOf({ ...first, mesh: null }) !== digestOf({ ...other, mesh: null }))
		return 'other copies within it';
	return null;
}

/** Whether two geometries are alike but for where their points are: the same faces, and the same attributes. */
export const isLike = (first: Geometry, other: Geometry): boolean =>
	whyOther(first, other) === null && digestUnplaced(first) === digestUnplaced(other);

/** Kept with the geometry: it is compared with that of every frame. */
const digestUnplaced = (geometry: Geometry): string =>
	derive(geometry, 'digest without places', () => digestOf(unplaced(geometry)));

/** A geometry all of whose points lie at the origin. */
const unplaced = (geometry: Geometry): Geometry =>
	withPoints(geometry, (table) => ({
		...table,
		columns: new Map([...table.columns].filter(([name]) => !PLACES.has(name)))
	}));

function sameNumbers(a: ArrayLike<number> | undefined, b: ArrayLike<number> | undefined): boolean {
	if (a === b) return true;
	if (a?.length !== b?.length) return false;
	for (let i = 0; i < a!.length; i++) if (a![i] !== b![i]) return false;
	return true;
}
