import { NodeError } from '../../math/index.ts';
import {
	allocate,
	column,
	curveCount,
	geometryOf,
	makeMesh,
	positionsOf,
	withColumns,
	pollAt
} from '../../geometry/index.ts';
import type { Curves, Geometry, Mesh } from '../../geometry/index.ts';
import { resampleCurves } from '../../kernels/resample-curves.ts';
import { defineNode, geometry, number, output, yesNo } from '../define.ts';

export const loft = defineNode({
	id: 'loft',
	version: 1,
	name: 'Loft',
	family: 'meshes',
	words: ['skin', 'bridge', 'surface between curves', 'ruled', 'sail'],
	help: 'A surface through curves in their order, from each to the next. All get as many points as the finest of them.',
	example: { wires: { curves: ['ring', 'upper'] } },
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
	estimate: ({ curves, points }) => {
		const { rows, longest } = rowsIn(curves);
		return {
			elements: rows * Math.max(2, points || longest),
			of: 'points',
			lower: 'Lower “Points”, or use fewer curves.'
		};
	},
	run({ curves: given, points, closed }) {
		const { rows, longest } = rowsIn(given);
		if (rows < 2)
			throw new NodeError('A loft goes from one curve to the next: connect at least two.', {
				input: 'curves'
			});
		const count = Math.max(2, points || longest);
		const positions = allocate('float', 3 * count * rows);
		let row = 0;
		let round = true;
		for (const { curves } of given) {
			if (!curves) continue;
			const own = positionsOf(curves);
			// All curves of a wire are cut at once, and only where one of them needs it.
			let cut: Curves | null = null;
			for (let c = 0; c < curveCount(curves); c++) {
				pollAt(c);
				const size = curves.starts[c + 1] - curves.starts[c];
				if (size !== count) cut ??= resampleCurves(curves, { by: 'count', count });
				const [from, start] = size === count ? [own, curves.starts[c]] : [positionsOf(cut!), cut!.starts[c]];
				positions.set(from.subarray(3 * start, 3 * (start + count)), 3 * count * row++);
				round &&= !!curves.curves.columns.get('closed')!.data[c];
			}
		}
		return {
			mesh: geometryOf({
				mesh: skin(positions, rows, count, round, closed && rows > 2),
				materials: given[0].materials
			})
		};
	}
});

/** How many curves there are, and how many points the longest has. */
function rowsIn(given: readonly Geometry[]): { rows: number; longest: number } {
	let [rows, longest] = [0, 0];
	for (const { curves } of given) {
		if (!curves) continue;
		rows += curveCount(curves);
		for (let c = 0; c < curveCount(curves); c++) {
			pollAt(c);
			longest = Math.max(longest, curves.starts[c + 1] - curves.starts[c]);
		}
	}
	return { rows, longest };
}

/** Quads between rows of points; UVs go from 0 to 1 along both. */
function skin(positions: Float32Array, rows: number, count: number, round: boolean, closed: boolean): Mesh {
	const across = round ? count : count - 1,
		along = closed ? rows : rows - 1;
	const starts = allocate('index', across * along + 1);
	const corners = allocate('index', 4 * across * along);
	const uv = allocate('float', 8 * across * along);
	for (let r = 0, f = 0; r < along; r++) {
		for (let i = 0; i < across; i++, f++) {
			pollAt(f);
			const a = r * count,
				b = ((r + 1) % rows) * count,
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
