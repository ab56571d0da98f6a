/** The faces between cross-sections that stand along curves, and their caps. */
import {
	SHARP_ANGLE,
	allocate,
	column,
	curveCount,
	filled,
	gatherColumn,
	lengthsAlong,
	makeMesh,
	pollAt,
	scratch,
	smoothColumn,
	withColumns
} from '../geometry/index.ts';
import type { Column, Curves, Mesh } from '../geometry/index.ts';

export interface SkinOptions {
	/** Points of each section. */
	around: number;
	/** Whether sections go round. */
	closed: boolean;
	/** Closes the ends of open curves with a face each, where sections go round. */
	caps: boolean;
	/** Whether sections run clockwise for someone who looks along the curve: their faces are then turned the other way. */
	clockwise?: boolean;
	/** Metres along the curves at each point, for UVs; left out, they are measured. */
	along?: Float64Array;
	/** How often a texture repeats in a metre, for each curve; left out, once. */
	repeat?: ArrayLike<number> | null;
	/** UVs in metres: around a curve’s section, for its points and once more where it closes. */
	u: (curve: number, place: number) => number;
	/** UVs on the cap at a curve’s first or last point, of its corner at a step; the first cap is seen from behind. */
	cap: (curve: number, isLast: boolean, step: number) => readonly [number, number];
	/** Degrees up to which the faces around shade as one; those of caps as usual. */
	smooth?: number;
}

/**
 * A mesh over sections.
 * @param positions three numbers for each point of each section, in the order of the curves’ points.
 */
export function skin(curves: Curves, positions: Float32Array, options: SkinOptions): Mesh {
	const { around, closed, caps, clockwise = false, u, cap } = options;
	const { along: measured, lengths } = lengthsAlong(curves);
	const along = options.along ?? measured;
	const columns = closed ? around : around - 1;
	const sizes = skinSizes(curves, options);
	const starts = allocate('index', sizes.faces + 1);
	const cornerPoints = allocate('index', sizes.corners);
	const uv = allocate('float', sizes.corners * 2);
	const smooth = options.smooth ? filled('float', sizes.faces, options.smooth) : null;
	/** The first face of each curve, and one more entry. */
	const firstFaces = scratch('index', curveCount(curves) + 1);
	let f = 0,
		k = 0;
	const corner = (point: number, x: number, y: number) => {
		cornerPoints[k] = point;
		uv[2 * k] = x;
		uv[2 * k++ + 1] = y;
	};
	for (let c = 0; c < curveCount(curves); c++) {
		const from = k;
		firstFaces[c] = f;
		const first = curves.starts[c],
			size = curves.starts[c + 1] - first;
		const rows = rowsOf(curves, c);
		for (let r = 0; r < rows; r++) {
			pollAt(r);
			const a = (first + r) * around,
				b = (r + 1 < size ? first + r + 1 : first) * around;
			const v = along[first + r],
				w = r + 1 < size ? along[first + r + 1] : lengths[c];
			for (let s = 0; s < columns; s++) {
				const t = (s + 1) % around;
				const x = u(c, s),
					y = u(c, s + 1);
				corner(a + s, x, v);
				if (clockwise) {
					corner(a + t, y, v);
					corner(b + t, y, w);
					corner(b + s, x, w);
				} else {
					corner(b + s, x, w);
					corner(b + t, y, w);
					corner(a + t, y, v);
				}
				starts[++f] = k;
			}
		}
		if (caps && closed && isOpenEnded(curves, c, around))
			for (const isLast of [false, true]) {
				const base = (isLast ? first + size - 1 : first) * around;
				for (let s = 0; s < around; s++) {
					const [x, y] = cap(c, isLast, s);
					corner(base + (isLast === clockwise ? s : (around - s) % around), x, y);
				}
				if (smooth) smooth[f] = SHARP_ANGLE;
				starts[++f] = k;
			}
		const often = options.repeat ? options.repeat[c] : 1;
		if (often !== 1) for (let i = 2 * from; i < 2 * k; i++) uv[i] *= often;
	}
	firstFaces[curveCount(curves)] = f;
	const mesh = makeMesh(positions, starts, cornerPoints);
	return {
		...mesh,
		corners: withColumns(mesh.corners, { uv: column('vec2', 'uv', uv) }),
		faces: withColumns(mesh.faces, {
			...ofCurves(curves, firstFaces, sizes.faces),
			...(smooth && { smooth: smoothColumn(smooth) })
		})
	};
}

/** What curves know, their faces know too: a column for each of theirs. */
function ofCurves({ curves }: Curves, firstFaces: Uint32Array, faces: number): Record<string, Column> {
	const own = [...curves.columns].filter(([name]) => name !== 'closed');
	if (!own.length) return {};
	const rows = scratch('index', faces);
	for (let c = 0; c < curves.count; c++)
		for (let f = firstFaces[c]; f < firstFaces[c + 1]; f++) {
			pollAt(f);
			rows[f] = c;
		}
	return Object.fromEntries(own.map(([name, of]) => [name, gatherColumn(of, rows)]));
}

/** Rows of faces along a curve: one for each piece of it. */
function rowsOf({ starts, curves }: Curves, c: number): number {
	const size = starts[c + 1] - starts[c];
	if (size < 2) return 0;
	return curves.columns.get('closed')!.data[c] && size > 2 ? size : size - 1;
}

const isOpenEnded = (curves: Curves, c: number, around: number): boolean => {
	const rows = rowsOf(curves, c);
	return around > 2 && rows > 0 && rows < curves.starts[c + 1] - curves.starts[c];
};

function skinSizes(
	curves: Curves,
	{ around, closed, caps }: SkinOptions
): { faces: number; corners: number } {
	const columns = closed ? around : around - 1;
	let faces = 0,
		corners = 0;
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		const rows = rowsOf(curves, c);
		const ends = caps && closed && isOpenEnded(curves, c, around) ? 2 : 0;
		faces += rows * columns + ends;
		corners += rows * columns * 4 + ends * around;
	}
	return { faces, corners };
}
