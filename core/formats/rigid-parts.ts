/**
 * What of a shape that changes only moves as a whole: pieces that keep their form are told apart from those that bend, and
 * each gets its place, rotation and size at every state. A file can then move a node, where it would need a shape for each.
 *
 * A piece's motion is read from three of its points (its middle, the one furthest from that, and the one furthest from the line
 * through both) and counts where it brings all others to their places. Least squares over all points (Horn 1987) gave the same
 * to the sixth digit and needs an eigenvalue.
 */
import type { Geometry, Mesh } from '../geometry/index.ts';
import {
	floats,
	geometryOf,
	keepRows,
	matrix,
	pollAt,
	tableOf,
	transformGeometry
} from '../geometry/index.ts';
import { cross, dot, quaternion } from '../math/index.ts';

/** How a piece stands: scaled about its own middle, turned, then moved. */
export interface Pose {
	position: readonly number[];
	/** x, y, z, w. */
	orientation: readonly number[];
	scale: number;
}

export interface RigidPart {
	/** Its states; where it keeps its form the first alone, with its middle at the origin. */
	states: readonly Geometry[];
	/** Its pose at each state of the whole; null where it stands still, or bends. */
	poses: readonly Pose[] | null;
}

/** Points of one table that hang together. */
interface Piece {
	part: 'mesh' | 'curves' | 'points';
	points: Uint32Array;
	/** Its number among the pieces of the mesh. */
	label: number;
}

const AT_REST: Pose = { position: [0, 0, 0], orientation: [0, 0, 0, 1], scale: 1 };
/** More motions than these are no nodes any more: what is left of them is written as shapes. */
const MOST_MOTIONS = 256;
/** How far a point may lie from where its piece's motion brings it: of the size of the piece, and of where it lies. */
const OF_SIZE = 1e-5;
const OF_PLACE = 1e-6;

/**
 * The parts of a shape by how they move. `states` have the same points and faces. One part, as it was, where nothing of it
 * moves as a whole.
 */
export function rigidParts(states: readonly Geometry[]): RigidPart[] {
	const whole: RigidPart[] = [{ states, poses: null }];
	if (states.length < 2) return whole;
	const [first] = states;
	const labels = first.mesh && labelsOf(first.mesh);
	const pieces = [...(labels ? piecesOf(labels) : []), ...looseOf(first)];
	const still: Piece[] = [],
		moving: { piece: Piece; poses: Pose[] }[] = [],
		bending: Piece[] = [];
	for (const piece of pieces) {
		if (states.every((state) => isSame(piece, first, state))) still.push(piece);
		else {
			const poses = posesOf(piece, states);
			if (poses) moving.push({ piece, poses });
			else bending.push(piece);
		}
	}
	if (!moving.length) return whole;
	// The largest first: what moves as it does joins it.
	moving.sort((a, b) => b.piece.points.length - a.piece.points.length);
	const groups: { pieces: Piece[]; poses: Pose[] }[] = [];
	for (const { piece, poses } of moving) {
		const group = groups.find((one) =>
			states.every((state, k) => k === 0 || fits(piece, first, state, one.poses[k]))
		);
		if (group) group.pieces.push(piece);
		else if (groups.length < MOST_MOTIONS) groups.push({ pieces: [piece], poses });
		else bending.push(piece);
	}
	const cut = (of: Geometry, own: readonly Piece[]) => partOf(of, own, labels, pieces.length);
	return [
		...(still.length || first.copies
			? [{ states: [{ ...cut(first, still), copies: first.copies }], poses: null }]
			: []),
		...(bending.length ? [{ states: states.map((state) => cut(state, bending)), poses: null }] : []),
		...groups.map(({ pieces: own, poses }) => centred(cut(first, own), poses, middleOfAll(own, first)))
	];
}

/** About its own middle, so that from one frame to the next it turns where it is. */
function centred(geometry: Geometry, poses: readonly Pose[], middle: readonly number[]): RigidPart {
	const away = middle.map((x) => -x) as [number, number, number];
	return {
		states: [transformGeometry(geometry, matrix.affineFrom(away, [0, 0, 0], [1, 1, 1]))],
		poses: poses.map((pose) => ({ ...pose, position: placed(pose, middle) }))
	};
}

/** Where a pose brings a place. */
function placed({ position, orientation, scale }: Pose, place: readonly number[]): number[] {
	const [x, y, z, w] = orientation;
	const at = [0, 0, 0];
	quaternion.rotate(at, 0, x, y, z, w, place[0], place[1], place[2]);
	return at.map((one, k) => scale * one + position[k]);
}

function middleOfAll(pieces: readonly Piece[], first: Geometry): number[] {
	const count = pieces.reduce((sum, { points }) => sum + points.length, 0);
	const sum = [0, 0, 0];
	for (const { part, points } of pieces)
		middleOf(points, positionsIn(first, part)).forEach((x, k) => (sum[k] += x * points.length));
	return sum.map((x) => x / count);
}

/** For each point of a mesh the number of the piece to which it belongs: pieces hang together by faces. */
function labelsOf({ topology }: Mesh): Int32Array {
	const { pointCount, faceStarts, cornerPoints } = topology;
	const parent = Int32Array.from({ length: pointCount }, (_, i) => i);
	const root = (i: number): number => {
		let at = i;
		while (parent[at] !== at) at = parent[at] = parent[parent[at]];
		return at;
	};
	for (let f = 0; f + 1 < faceStarts.length; f++) {
		pollAt(f);
		const a = root(cornerPoints[faceStarts[f]]);
		for (let c = faceStarts[f] + 1; c < faceStarts[f + 1]; c++) parent[root(cornerPoints[c])] = a;
	}
	const numbers = new Map<number, number>();
	const used = new Uint8Array(pointCount);
	for (const point of cornerPoints) used[point] = 1;
	return parent.map((_, i) => {
		if (!used[i]) return -1;
		const at = root(i);
		if (!numbers.has(at)) numbers.set(at, numbers.size);
		return numbers.get(at)!;
	});
}

function piecesOf(labels: Int32Array): Piece[] {
	const points: number[][] = [];
	labels.forEach((label, i) => label >= 0 && (points[label] ??= []).push(i));
	return points.map((own, label) => ({ part: 'mesh', points: Uint32Array.from(own), label }));
}

/** Curves and loose points, each as one piece. */
const looseOf = (geometry: Geometry): Piece[] =>
	(['curves', 'points'] as const).flatMap((part): Piece[] => {
		const count = tableOf(geometry, part, 'point')?.count ?? 0;
		return count ? [{ part, points: Uint32Array.from({ length: count }, (_, i) => i), label: -1 }] : [];
	});

const positionsIn = (geometry: Geometry, part: Piece['part']): Float32Array =>
	floats(tableOf(geometry, part, 'point')!, 'position');

function isSame({ part, points }: Piece, first: Geometry, other: Geometry): boolean {
	const [p, q] = [positionsIn(first, part), positionsIn(other, part)];
	for (let i = 0; i < points.length; i++) {
		pollAt(i);
		for (let o = 3 * points[i], k = 0; k < 3; k++) if (p[o + k] !== q[o + k]) return false;
	}
	return true;
}

/** The pose of a piece at each state; null where it bends. */
function posesOf(piece: Piece, states: readonly Geometry[]): Pose[] | null {
	const [first] = states;
	const own = marksOf(piece, positionsIn(first, piece.part));
	const poses: Pose[] = [AT_REST];
	for (const state of states.slice(1)) {
		const pose = poseBetween(own, positionsIn(first, piece.part), positionsIn(state, piece.part));
		if (!pose || !fits(piece, first, state, pose)) return null;
		poses.push(pose);
	}
	return poses;
}

/** Three marks of a piece by which its motion is read: its points for the middle, the furthest one, and one beside the line. */
interface Marks {
	points: Uint32Array;
	far: number;
	beside: number;
}

const middleOf = (points: Uint32Array, p: Float32Array): number[] => {
	const sum = [0, 0, 0];
	for (let i = 0; i < points.length; i++) {
		pollAt(i);
		for (let k = 0; k < 3; k++) sum[k] += p[3 * points[i] + k];
	}
	return sum.map((x) => x / points.length);
};
const wayFrom = (middle: readonly number[], p: Float32Array, point: number): number[] =>
	[0, 1, 2].map((k) => p[3 * point + k] - middle[k]);
const lengthOf = (a: readonly number[]): number => Math.sqrt(dot(a, a));

function marksOf({ points }: Piece, p: Float32Array): Marks {
	const middle = middleOf(points, p);
	const furthest = (measure: (way: number[]) => number): number => {
		let [best, most] = [points[0], -1];
		for (let i = 0; i < points.length; i++) {
			pollAt(i);
			const far = measure(wayFrom(middle, p, points[i]));
			if (far > most) [best, most] = [points[i], far];
		}
		return best;
	};
	const far = furthest((way) => dot(way, way));
	const axis = wayFrom(middle, p, far);
	const beside = furthest((way) => {
		const off = cross(axis, way);
		return dot(off, off);
	});
	return { points, far, beside };
}

/** Right-angled axes by the marks of a piece, with how far the furthest is; null where all of it lies on one line. */
function axesAt(
	{ points, far, beside }: Marks,
	p: Float32Array
): { middle: number[]; axes: number[][]; size: number } | null {
	const middle = middleOf(points, p);
	const along = wayFrom(middle, p, far);
	const size = lengthOf(along);
	const up = cross(along, wayFrom(middle, p, beside));
	const height = lengthOf(up);
	if (!(size > 0) || !(height > 1e-6 * size * size)) return null;
	const x = along.map((one) => one / size),
		z = up.map((one) => one / height);
	return { middle, axes: [x, cross(z, x), z], size };
}

function poseBetween(marks: Marks, from: Float32Array, to: Float32Array): Pose | null {
	const shift = wayFrom(middleOf(marks.points, from), Float32Array.from(middleOf(marks.points, to)), 0);
	const [a, b] = [axesAt(marks, from), axesAt(marks, to)];
	// A line, or a single point, may only be moved.
	if (!a || !b) return { ...AT_REST, position: shift };
	const ratio = b.size / a.size;
	const scale = Math.abs(ratio - 1) < 1e-5 ? 1 : ratio;
	// The columns of the turn that brings the one's axes onto the other's.
	const columns = [0, 1, 2].map((c) =>
		[0, 1, 2].map((r) => a.axes.reduce((sum, axis, k) => sum + axis[c] * b.axes[k][r], 0))
	);
	const orientation = [0, 0, 0, 1];
	quaternion.fromAxes(orientation, 0, ...(columns.flat() as Nine));
	const turned = [0, 0, 0];
	const [x, y, z, w] = orientation;
	quaternion.rotate(turned, 0, x, y, z, w, a.middle[0], a.middle[1], a.middle[2]);
	return { position: b.middle.map((one, k) => one - scale * turned[k]), orientation, scale };
}
type Nine = [number, number, number, number, number, number, number, number, number];

/** Whether a pose brings all of a piece to where it is in another state. */
function fits(
	{ part, points }: Piece,
	first: Geometry,
	other: Geometry,
	{ position, orientation, scale }: Pose
): boolean {
	const [p, q] = [positionsIn(first, part), positionsIn(other, part)];
	const [x, y, z, w] = orientation;
	const at = [0, 0, 0];
	let [low, high] = [Infinity, -Infinity];
	for (const point of points)
		for (let k = 0; k < 3; k++) {
			low = Math.min(low, p[3 * point + k]);
			high = Math.max(high, p[3 * point + k]);
		}
	const room = OF_SIZE * (high - low) * scale;
	for (let i = 0; i < points.length; i++) {
		pollAt(i);
		const o = 3 * points[i];
		quaternion.rotate(at, 0, x, y, z, w, p[o], p[o + 1], p[o + 2]);
		for (let k = 0; k < 3; k++) {
			const off = Math.abs(scale * at[k] + position[k] - q[o + k]);
			if (!(off <= room + OF_PLACE * (Math.abs(q[o + k]) + Math.abs(p[o + k])))) return false;
		}
	}
	return true;
}

/** Some pieces of a geometry by themselves; all of them are the geometry as it is. */
function partOf(geometry: Geometry, own: readonly Piece[], labels: Int32Array | null, all: number): Geometry {
	const { mesh, curves, points, materials, whole } = geometry;
	if (own.length === all) return { ...geometry, copies: null };
	const has = (part: Piece['part']) => own.some((piece) => piece.part === part);
	const mine = new Set(own.flatMap(({ part, label }) => (part === 'mesh' ? [label] : [])));
	const made = geometryOf({
		curves: has('curves') ? curves : null,
		points: has('points') ? points : null,
		materials,
		whole
	});
	if (!mesh || !labels || !mine.size) return made;
	const { faceStarts, cornerPoints } = mesh.topology;
	const rows = Uint32Array.from(
		Array.from({ length: mesh.faces.count }, (_, f) => f).filter((f) =>
			mine.has(labels[cornerPoints[faceStarts[f]]])
		)
	);
	return { ...made, mesh: keepRows(geometryOf({ mesh, materials }), 'mesh', 'face', rows).mesh };
}
