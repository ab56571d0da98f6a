/** A round tube along curves. */
import { TAU, cos, sin } from '../math/index.ts';
import {
	allocate,
	column,
	lengthsAlong,
	makeMesh,
	positionsOf,
	withColumns,
	pollAt
} from '../geometry/index.ts';
import type { Curves, Mesh } from '../geometry/index.ts';
import { framesOf } from './frames.ts';

/**
 * @param radii one radius for each point of the curves, in metres.
 * @param sides faces around, at least 3.
 * @param caps closes the ends of open curves with a face each.
 * Outward faces; UVs in metres: around at the mean radius, and along.
 */
export function makeTube(curves: Curves, radii: ArrayLike<number>, sides: number, caps: boolean): Mesh {
	const p = positionsOf(curves);
	const { tangents, normals } = framesOf(curves);
	const { along, lengths } = lengthsAlong(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const points = p.length / 3;
	const positions = allocate('float', points * sides * 3);
	const circle = Array.from({ length: sides }, (_, s) => [cos((TAU * s) / sides), sin((TAU * s) / sides)]);
	for (let i = 0, o = 0; i < points; i++) {
		pollAt(i);
		const [tx, ty, tz] = [tangents[3 * i], tangents[3 * i + 1], tangents[3 * i + 2]];
		const [nx, ny, nz] = [normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]];
		const bx = ty * nz - tz * ny,
			by = tz * nx - tx * nz,
			bz = tx * ny - ty * nx;
		for (let s = 0; s < sides; s++, o += 3) {
			const a = circle[s][0] * radii[i],
				b = circle[s][1] * radii[i];
			positions[o] = p[3 * i] + nx * a + bx * b;
			positions[o + 1] = p[3 * i + 1] + ny * a + by * b;
			positions[o + 2] = p[3 * i + 2] + nz * a + bz * b;
		}
	}
	const count = curves.starts.length - 1;
	let faces = 0,
		corners = 0;
	for (let c = 0; c < count; c++) {
		pollAt(c);
		const size = curves.starts[c + 1] - curves.starts[c];
		if (size < 2) continue;
		const rows = closed[c] && size > 2 ? size : size - 1;
		faces += rows * sides;
		corners += rows * sides * 4;
		if (caps && rows < size) {
			faces += 2;
			corners += 2 * sides;
		}
	}
	const starts = allocate('index', faces + 1);
	const cornerPoints = allocate('index', corners);
	const uv = allocate('float', corners * 2);
	let f = 0,
		k = 0;
	const corner = (point: number, u: number, v: number) => {
		cornerPoints[k] = point;
		uv[2 * k] = u;
		uv[2 * k++ + 1] = v;
	};
	for (let c = 0; c < count; c++) {
		const first = curves.starts[c],
			size = curves.starts[c + 1] - first;
		if (size < 2) continue;
		const rows = closed[c] && size > 2 ? size : size - 1;
		let mean = 0;
		for (let i = first; i < first + size; i++) mean += radii[i] / size;
		const around = TAU * mean;
		for (let r = 0; r < rows; r++) {
			pollAt(r);
			const a = first + r,
				b = r + 1 < size ? a + 1 : first;
			const v = along[a],
				w = r + 1 < size ? along[b] : lengths[c];
			for (let s = 0; s < sides; s++) {
				const t = (s + 1) % sides;
				const u = (around * s) / sides,
					x = (around * (s + 1)) / sides;
				corner(a * sides + s, u, v);
				corner(a * sides + t, x, v);
				corner(b * sides + t, x, w);
				corner(b * sides + s, u, w);
				starts[++f] = k;
			}
		}
		if (!caps || rows === size) continue;
		for (let s = 0; s < sides; s++)
			corner(first * sides + ((sides - s) % sides), circle[s][0] * mean, -circle[s][1] * mean);
		starts[++f] = k;
		for (let s = 0; s < sides; s++)
			corner((first + size - 1) * sides + s, circle[s][0] * mean, circle[s][1] * mean);
		starts[++f] = k;
	}
	const mesh = makeMesh(positions, starts, cornerPoints);
	return { ...mesh, corners: withColumns(mesh.corners, { uv: column('vec2', 'uv', uv) }) };
}
