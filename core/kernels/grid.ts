/** A flat grid of quads in the xz plane, facing up. */
import { allocate, column, makeMesh, withColumns, pollAt } from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';

/**
 * @param width size along x in metres, `depth` along z.
 * @param columns cells along x, `rows` along z; at least 1.
 */
export function makeGrid(width: number, depth: number, columns: number, rows: number): Mesh {
	const wide = columns + 1;
	const positions = allocate('float', wide * (rows + 1) * 3);
	for (let j = 0, o = 0; j <= rows; j++)
		for (let i = 0; i <= columns; i++, o += 3) {
			pollAt(o);
			positions[o] = width * (i / columns - 0.5);
			positions[o + 2] = depth * (j / rows - 0.5);
		}
	const faces = columns * rows;
	const starts = allocate('index', faces + 1);
	for (let f = 0; f <= faces; f++) {
		pollAt(f);
		starts[f] = 4 * f;
	}
	const corners = allocate('index', faces * 4);
	const uv = allocate('float', faces * 8);
	for (let j = 0, c = 0; j < rows; j++)
		for (let i = 0; i < columns; i++, c += 4) {
			pollAt(c);
			const p = j * wide + i;
			corners[c] = p;
			corners[c + 1] = p + wide;
			corners[c + 2] = p + wide + 1;
			corners[c + 3] = p + 1;
			const u = i / columns,
				v = 1 - j / rows,
				du = 1 / columns,
				dv = 1 / rows;
			uv.set([u, v, u, v - dv, u + du, v - dv, u + du, v], 2 * c);
		}
	const mesh = makeMesh(positions, starts, corners);
	return { ...mesh, corners: withColumns(mesh.corners, { uv: column('vec2', 'uv', uv) }) };
}
