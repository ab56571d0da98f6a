import { cos, quaternion } from '../math/index.ts';
import { allocate, column, geometryOf, makeTable, positionsOf } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import { framesOf } from '../kernels/frames.ts';
import { countResampled, resampleCurves, spacingOf } from '../kernels/resample-curves.ts';
import { choice, defineNode, geometry, number, output } from './define.ts';

export const pointsAlongCurve = defineNode({
	id: 'points-along-curve',
	version: 1,
	name: 'Points along curve',
	family: 'points',
	words: ['distribute', 'spacing', 'divide', 'path', 'array along curve', 'fence'],
	help: 'Points at even distances along every curve, each turned to follow it: forward along the curve, up as near to upright as the curve allows.',
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The curves to follow.', needs: 'curves' }),
		by: choice({
			label: 'By',
			help: 'Fitted takes the spacing nearest to yours that ends exactly at the curve’s end.',
			default: 'fitted',
			options: [
				{ id: 'count', label: 'Count' },
				{ id: 'length', label: 'Spacing' },
				{ id: 'fitted', label: 'Fitted spacing' },
				{ id: 'corners', label: 'Ends and corners' }
			]
		}),
		count: number({
			label: 'Count',
			help: 'Points on each curve.',
			default: 10,
			min: 1,
			slider: [2, 200],
			whole: true,
			when: (s) => s.by === 'count'
		}),
		spacing: number({
			label: 'Spacing',
			help: 'The distance between points.',
			default: 0.5,
			min: 0.000001,
			slider: [0.01, 5],
			unit: 'm',
			when: (s) => s.by === 'length' || s.by === 'fitted'
		}),
		corner: number({
			label: 'Corner angle',
			help: 'Where the curve turns by more than this there is a corner.',
			default: 30,
			min: 0,
			max: 180,
			unit: '°',
			when: (s) => s.by === 'corners'
		}),
		place: choice({
			label: 'Place',
			help: 'At the ends of the pieces, or in their middles.',
			default: 'ends',
			options: [
				{ id: 'ends', label: 'Ends of pieces' },
				{ id: 'middles', label: 'Middles of pieces' }
			],
			when: (s) => s.by !== 'corners'
		}),
		up: choice({
			label: 'Up',
			help: 'World keeps points upright; curve follows it round without spinning.',
			default: 'world',
			options: [
				{ id: 'world', label: 'World' },
				{ id: 'curve', label: 'Curve' }
			]
		})
	},
	outputs: {
		points: output('geometry', 'Points', 'The points, with tangent, normal, orientation, u and length.')
	},
	estimate: ({ curve, by, count, spacing }) => ({
		elements:
			by === 'corners'
				? curve.curves!.points.count
				: countResampled(curve.curves!, spacingOf(by, count, spacing)),
		of: 'points',
		lower: 'Lower “Count”, or raise “Spacing”.'
	}),
	run({ curve, by, count, spacing, corner, place, up }) {
		const corners = by === 'corners' ? cornersOf(curve.curves!, corner) : null;
		const middles = !corners && place === 'middles';
		const cut = corners
			? curve.curves!
			: resampleCurves(
					curve.curves!,
					spacingOf(
						by,
						middles && by === 'count' ? 2 * count + 1 : count,
						middles && by !== 'count' ? spacing / 2 : spacing
					)
				);
		const { tangents, normals } = framesOf(cut);
		const rows: number[] = [];
		const curveOf: number[] = [];
		for (let c = 0; c + 1 < cut.starts.length; c++)
			for (let i = cut.starts[c], k = 0; i < cut.starts[c + 1]; i++, k++)
				if (corners ? corners[i] : !middles || k % 2 === 1) {
					rows.push(i);
					curveOf.push(c);
				}
		const n = rows.length;
		const p = cut.points.columns.get('position')!.data;
		const position = allocate('float', 3 * n),
			tangent = allocate('float', 3 * n),
			normal = allocate('float', 3 * n);
		const orientation = allocate('float', 4 * n),
			u = allocate('float', n),
			length = allocate('float', n);
		const index = allocate('int', n);
		const lengths = Array.from({ length: cut.starts.length - 1 }, () => 0);
		const along = new Float64Array(cut.points.count);
		for (let c = 0; c < lengths.length; c++) {
			for (let i = cut.starts[c] + 1; i < cut.starts[c + 1]; i++) {
				const x = p[3 * i] - p[3 * i - 3],
					y = p[3 * i + 1] - p[3 * i - 2],
					z = p[3 * i + 2] - p[3 * i - 1];
				along[i] = lengths[c] += Math.sqrt(x * x + y * y + z * z);
			}
			if (cut.curves.columns.get('closed')!.data[c] && cut.starts[c + 1] > cut.starts[c]) {
				const a = 3 * cut.starts[c],
					b = 3 * (cut.starts[c + 1] - 1);
				const x = p[a] - p[b],
					y = p[a + 1] - p[b + 1],
					z = p[a + 2] - p[b + 2];
				lengths[c] += Math.sqrt(x * x + y * y + z * z);
			}
		}
		for (let i = 0; i < n; i++) {
			const r = 3 * rows[i];
			for (let k = 0; k < 3; k++) {
				position[3 * i + k] = p[r + k];
				tangent[3 * i + k] = tangents[r + k];
			}
			const upright = up === 'world';
			const [nx, ny, nz] = upright ? [0, 1, 0] : [normals[r], normals[r + 1], normals[r + 2]];
			// Upright points keep the world's up and face along the curve as seen from above.
			quaternion.lookAlong(orientation, 4 * i, nx, ny, nz, tangents[r], tangents[r + 1], tangents[r + 2]);
			normal.set([nx, ny, nz], 3 * i);
			length[i] = lengths[curveOf[i]];
			u[i] = lengths[curveOf[i]] > 0 ? along[rows[i]] / lengths[curveOf[i]] : 0;
			index[i] = curveOf[i];
		}
		const table = makeTable(n, {
			position: column('vec3', 'position', position),
			tangent: column('vec3', 'direction', tangent),
			normal: column('vec3', 'normal', normal),
			orientation: column('vec4', 'orientation', orientation),
			u: column('float', 'plain', u),
			length: column('float', 'plain', length),
			curve: column('int', 'id', index)
		});
		return { points: geometryOf({ points: { points: table } }) };
	}
});

/** The ends of open curves, and points at which a curve turns by more than an angle in degrees. */
function cornersOf(curves: Curves, angle: number): Uint8Array {
	const p = positionsOf(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const least = cos(quaternion.radians(angle));
	const out = new Uint8Array(curves.points.count);
	for (let c = 0; c + 1 < curves.starts.length; c++) {
		const first = curves.starts[c],
			last = curves.starts[c + 1] - 1;
		for (let i = first; i <= last; i++) {
			const a = i > first ? i - 1 : closed[c] ? last : -1,
				b = i < last ? i + 1 : closed[c] ? first : -1;
			if (a < 0 || b < 0) {
				out[i] = 1;
				continue;
			}
			let [dot, before, after] = [0, 0, 0];
			for (let k = 0; k < 3; k++) {
				const u = p[3 * i + k] - p[3 * a + k],
					v = p[3 * b + k] - p[3 * i + k];
				dot += u * v;
				before += u * u;
				after += v * v;
			}
			if (before > 0 && after > 0 && dot / Math.sqrt(before * after) < least) out[i] = 1;
		}
	}
	return out;
}
