/** The blade of a leaf: it grows along y, its face looks towards z. */
import { TAU, cos, sin } from '../math/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { allocate, column, makeMesh, pollAt, withColumns } from '../geometry/index.ts';

export interface LeafShape {
	/** Metres. */
	length: number;
	width: number;
	/** Half the width at a share of the length, from 0 to 1. */
	outline: (t: number) => number;
	/** Radians: how far the midrib turns back from its beginning to its end, how far the halves are folded up, and how far their edges curl. */
	bend: number;
	fold: number;
	curl: number;
	/** Metres that the edges wave up and down, and how often. */
	wave: number;
	waves: number;
	/** Pieces along it, and from the midrib to an edge. */
	along: number;
	across: number;
}

export function makeLeaf(shape: LeafShape): Mesh {
	const { along, across, length, bend } = shape;
	const wide = 2 * across + 1;
	const positions = allocate('float', 3 * wide * (along + 1));
	const uv = allocate('float', 2 * wide * (along + 1));
	let y = 0,
		z = 0;
	for (let i = 0, p = 0; i <= along; i++) {
		const t = i / along;
		if (i > 0) {
			// The middle of the piece says its direction: as many pieces as one likes make the same arc.
			const middle = bend * (t - 0.5 / along);
			y += (length / along) * cos(middle);
			z -= (length / along) * sin(middle);
		}
		for (let j = -across; j <= across; j++, p++) {
			pollAt(p);
			const v = j / across;
			const [side, up] = acrossAt(shape, t, v);
			// What stands up from the midrib does so at right angles to it.
			positions[3 * p] = side;
			positions[3 * p + 1] = y + up * sin(bend * t);
			positions[3 * p + 2] = z + up * cos(bend * t);
			uv[2 * p] = 0.5 + v / 2;
			uv[2 * p + 1] = t;
		}
	}
	return quads({ positions, uv }, wide, along);
}

interface Laid {
	positions: Float32Array;
	uv: Float32Array;
}

/** How far to the side of the midrib, and how far up from it, a place is: `v` runs from −1 at one edge to 1 at the other. */
function acrossAt(
	{ width, outline, fold, curl, wave, waves }: LeafShape,
	t: number,
	v: number
): [number, number] {
	const half = (width / 2) * Math.max(0, outline(t));
	const off = Math.abs(v);
	const sign = v < 0 ? -1 : 1;
	const distance = half * off;
	let side = distance * cos(fold),
		up = distance * sin(fold);
	if (curl && off > 0) {
		// An arc that leaves the midrib along the fold and has turned by the curl at the edge.
		const turned = curl * off;
		const radius = distance / turned;
		side = radius * (sin(fold + turned) - sin(fold));
		up = radius * (cos(fold) - cos(fold + turned));
	}
	const ripple = half > 0 ? wave * off * sin(TAU * waves * t) : 0;
	return [sign * side, up + ripple];
}

/** Rows of quads; where a row has no width, its quads are triangles. */
function quads(laid: Laid, wide: number, along: number): Mesh {
	const { positions } = laid;
	const isPoint = (row: number): boolean => {
		const a = 3 * row * wide,
			b = 3 * (row * wide + wide - 1);
		return positions[a] === positions[b];
	};
	const starts: number[] = [0];
	const corners: number[] = [];
	const middle = (wide - 1) / 2;
	/** The point of a row, which is only one where it has no width. */
	const at = (row: number, j: number): number => row * wide + (isPoint(row) ? middle : j);
	for (let i = 0; i < along; i++)
		for (let j = 0; j + 1 < wide; j++) {
			const ring = [at(i, j), at(i, j + 1), at(i + 1, j + 1), at(i + 1, j)];
			const own = ring.filter((one, k) => one !== ring[(k + 1) % 4]);
			if (own.length < 3) continue;
			corners.push(...own);
			starts.push(corners.length);
		}
	return used(laid, starts, corners);
}

/** The mesh with only the points that its faces use, and UVs at their corners. */
function used({ positions, uv }: Laid, starts: readonly number[], corners: readonly number[]): Mesh {
	const names = new Map<number, number>();
	for (const point of corners) if (!names.has(point)) names.set(point, names.size);
	const kept = allocate('float', 3 * names.size);
	for (const [from, to] of names) for (let k = 0; k < 3; k++) kept[3 * to + k] = positions[3 * from + k];
	const faceStarts = allocate('index', starts.length);
	faceStarts.set(starts);
	const cornerPoints = allocate('index', corners.length);
	const cornerUv = allocate('float', 2 * corners.length);
	for (let c = 0; c < corners.length; c++) {
		pollAt(c);
		cornerPoints[c] = names.get(corners[c])!;
		for (let k = 0; k < 2; k++) cornerUv[2 * c + k] = uv[2 * corners[c] + k];
	}
	const mesh = makeMesh(kept, faceStarts, cornerPoints);
	return { ...mesh, corners: withColumns(mesh.corners, { uv: column('vec2', 'uv', cornerUv) }) };
}
