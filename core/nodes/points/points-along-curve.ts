import { cos, quaternion } from '../../math/index.ts';
import {
	allocate,
	column,
	geometryOf,
	makeTable,
	positionsOf,
	scratch,
	pollAt
} from '../../geometry/index.ts';
import type { Curves } from '../../geometry/index.ts';
import { evenStops, stopsBetween, stopsOn } from '../../kernels/stops-along.ts';
import { countResampled, spacingOf } from '../../kernels/resample-curves.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';

/** What a point takes while it is made, with its frame. */
const BYTES_A_POINT = 200;

export const pointsAlongCurve = defineNode({
	id: 'points-along-curve',
	// 2: u and length are those of the curve itself, where those of the even points cut its corners.
	// 3: middles are those of whole pieces, all as far from one another; by spacing, nothing stands where less than one is left.
	version: 3,
	name: 'Points along curve',
	family: 'points',
	words: [
		'distribute',
		'spacing',
		'divide',
		'path',
		'in a row along a curve',
		'align',
		'orient',
		'aim',
		'railing',
		'spline',
		'fence'
	],
	help: 'Points at even distances along every curve, each turned to follow it: forward along the curve, up as near to upright as the curve allows.',
	renamed: [{ before: 2, inputs: { place: 'putAt' }, options: { by: { length: 'spacing' } } }],
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The curves to follow.', needs: 'curves' }),
		by: choice({
			label: 'By',
			help: 'Fitted takes the spacing nearest to yours that ends exactly at the curve’s end. Spacing keeps yours: what is left over at the end, less than one piece, stays free. Between fits from corner to corner, and leaves ends and corners free.',
			default: 'fitted',
			options: [
				{ id: 'count', label: 'Count' },
				{ id: 'spacing', label: 'Spacing' },
				{ id: 'fitted', label: 'Fitted spacing' },
				{ id: 'corners', label: 'Ends and corners' },
				{ id: 'between', label: 'Between ends and corners' }
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
			when: (s) => s.by === 'spacing' || s.by === 'fitted' || s.by === 'between'
		}),
		corner: number({
			label: 'Corner angle',
			help: 'Where the curve turns by more than this there is a corner.',
			default: 30,
			min: 0,
			max: 180,
			unit: '°',
			when: (s) => s.by === 'corners' || s.by === 'between'
		}),
		putAt: choice({
			label: 'Put at',
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
			help: 'World keeps points upright; curve follows it round without spinning; or anything in between.',
			default: 'world',
			options: [
				{ id: 'world', label: 'World' },
				{ id: 'curve', label: 'Curve' },
				{ id: 'mix', label: 'In between' }
			]
		}),
		lean: number({
			label: 'Towards the curve',
			help: '0 stands upright, 1 stands off the curve.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01,
			when: (s) => s.up === 'mix'
		})
	},
	outputs: {
		points: output('geometry', 'Points', 'The points, with tangent, normal, orientation, u and length.')
	},
	estimate({ curve, by, count, spacing }) {
		const elements =
			(by === 'corners' || by === 'between' ? curve.curves!.points.count : 0) +
			(by === 'corners' ? 0 : countResampled(curve.curves!, spacingOf(by, count, spacing)));
		return {
			elements,
			of: 'points',
			// Each has a frame of its own: more would take longer than anybody waits.
			most: 4_000_000,
			bytes: BYTES_A_POINT * elements,
			lower: 'Lower “Count”, or raise “Spacing”.'
		};
	},
	run({ curve, by, count, spacing, corner, putAt, up, lean }) {
		const curves = curve.curves!;
		const middles = putAt === 'middles';
		const stops =
			by === 'between'
				? stopsBetween(curves, cornersOf(curves, corner), spacing, middles)
				: by === 'corners'
					? stopsOn(curves, cornersOf(curves, corner))
					: evenStops(
							curves,
							by === 'count' ? { by: 'stops', count, middles } : spacingOf(by, count, spacing),
							middles
						);
		const n = stops.curve.length;
		const normal = allocate('float', 3 * n),
			orientation = allocate('float', 4 * n),
			u = allocate('float', n),
			length = allocate('float', n);
		const share = up === 'world' ? 0 : up === 'curve' ? 1 : lean;
		for (let i = 0; i < n; i++) {
			pollAt(i);
			const o = 3 * i;
			// Upright points keep the world's up and face along the curve as seen from above.
			normal[o + 1] = 1;
			if (share > 0) {
				const [x, y, z] = [0, 1, 2].map((k) => normal[o + k] * (1 - share) + stops.normals[o + k] * share);
				const size = share < 1 ? Math.sqrt(x * x + y * y + z * z) || 1 : 1;
				normal.set([x / size, y / size, z / size], o);
			}
			quaternion.lookAlong(
				orientation,
				4 * i,
				normal[o],
				normal[o + 1],
				normal[o + 2],
				stops.tangents[o],
				stops.tangents[o + 1],
				stops.tangents[o + 2]
			);
			length[i] = stops.whole[i];
			u[i] = stops.whole[i] > 0 ? stops.along[i] / stops.whole[i] : 0;
		}
		const table = makeTable(n, {
			position: column('vec3', 'position', stops.positions),
			tangent: column('vec3', 'direction', stops.tangents),
			normal: column('vec3', 'normal', normal),
			orientation: column('vec4', 'orientation', orientation),
			u: column('float', 'plain', u),
			length: column('float', 'plain', length),
			curve: column('int', 'id', stops.curve)
		});
		return { points: geometryOf({ points: { points: table } }) };
	}
});

/** The ends of open curves, and points at which a curve turns by more than an angle in degrees. */
function cornersOf(curves: Curves, angle: number): Uint8Array {
	const p = positionsOf(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const least = cos(quaternion.radians(angle));
	const out = scratch('byte', curves.points.count);
	for (let c = 0; c + 1 < curves.starts.length; c++) {
		pollAt(c);
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
