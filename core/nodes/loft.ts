import { NodeError } from '../math/index.ts';
import {
	allocate,
	column,
	curveCount,
	geometryOf,
	makeMesh,
	positionsOf,
	withColumns,
	pollAt
} from '../geometry/index.ts';
import type { Mesh } from '../geometry/index.ts';
import { resampleCurves } from '../kernels/resample-curves.ts';
import { defineNode, geometry, number, output, yesNo } from './define.ts';

export const loft = defineNode({
	id: 'loft',
	version: 1,
	name: 'Loft',
	family: 'meshes',
	words: ['skin', 'bridge', 'surface between curves', 'ruled', 'sail'],
	help: 'A surface through curves in their order, from each to the next. All get as many points as the finest of them.',
	inputs: {
		curves: geometry({ label: 'Curves', help: 'Two or more, wired in order.', needs: 'curves', many: true }),
		points: number({
			label: 'Points',
			help: 'On each curve; 0 takes as many as the finest has.',
			default: 0,
			min: 0,
			slider: [0, 128],
			whole: true
		}),
		closed: yesNo({
			label: 'Back to the first',
			help: 'The last curve is joined to the first.',
			default: false
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The surface.') },
	run({ curves: given, points, closed }) {
		const all = given.flatMap((one) => {
			const { curves } = one;
			if (!curves) return [];
			return Array.from({ length: curveCount(curves) }, (_, c) => ({ curves, c }));
		});
		if (all.length < 2)
			throw new NodeError('A loft goes from one curve to the next: connect at least two.', {
				input: 'curves'
			});
		const most = points || Math.max(...all.map(({ curves, c }) => curves.starts[c + 1] - curves.starts[c]));
		const count = Math.max(2, most);
		const round = all.every(({ curves, c }) => curves.curves.columns.get('closed')!.data[c]);
		const rows = all.map(({ curves, c }) => {
			const size = curves.starts[c + 1] - curves.starts[c];
			const p = positionsOf(curves);
			if (size === count) return p.subarray(3 * curves.starts[c], 3 * curves.starts[c + 1]);
			const cut = resampleCurves(curves, { by: 'count', count });
			return positionsOf(cut).subarray(3 * cut.starts[c], 3 * cut.starts[c] + 3 * count);
		});
		return {
			mesh: geometryOf({
				mesh: skin(rows, count, round, closed && rows.length > 2),
				materials: given[0].materials
			})
		};
	}
});

/** Quads between rows of points; UVs go from 0 to 1 along both. */
function skin(rows: readonly Float32Array[], count: number, round: boolean, closed: boolean): Mesh {
	const positions = allocate('float', 3 * count * rows.length);
	rows.forEach((row, r) => positions.set(row.subarray(0, 3 * count), 3 * count * r));
	const across = round ? count : count - 1,
		along = closed ? rows.length : rows.length - 1;
	const starts = allocate('index', across * along + 1);
	const corners = allocate('index', 4 * across * along);
	const uv = allocate('float', 8 * across * along);
	for (let r = 0, f = 0; r < along; r++) {
		pollAt(r);
		for (let i = 0; i < across; i++, f++) {
			const a = r * count,
				b = ((r + 1) % rows.length) * count,
				j = (i + 1) % count;
			corners.set([a + i, a + j, b + j, b + i], 4 * f);
			const [u, v, w, x] = [i / across, (i + 1) / across, r / along, (r + 1) / along];
			uv.set([u, w, v, w, v, x, u, x], 8 * f);
			starts[f + 1] = 4 * (f + 1);
		}
	}
	const mesh = makeMesh(positions, starts, corners);
	return { ...mesh, corners: withColumns(mesh.corners, { uv: column('vec2', 'uv', uv) }) };
}
