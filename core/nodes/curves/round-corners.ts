import { PI, acos, tan } from '../../math/index.ts';
import { curveCount, positionsOf, makeCurves, allocate, pollAt } from '../../geometry/index.ts';
import type { Curves } from '../../geometry/index.ts';
import { defineNode, geometry, number, output } from '../define.ts';

export const roundCorners = defineNode({
	id: 'round-corners',
	version: 1,
	name: 'Round corners',
	family: 'curves',
	words: ['fillet', 'bevel', 'radius', 'soften corners', 'spline', 'path'],
	help: 'Puts an arc in place of each corner. Where two corners are too near for the radius, it is made as large as fits.',
	renamed: [{ before: 2, inputs: { steps: 'segments' } }],
	example: { wires: { curve: 'corners' } },
	inputs: {
		curve: geometry({ label: 'Curve', help: 'Curves of straight pieces.', needs: 'curves' }),
		radius: number({
			label: 'Radius',
			help: 'Of the arcs, at each point.',
			default: 0.2,
			min: 0,
			slider: [0, 2],
			step: 0.01,
			unit: 'm',
			varies: 'point'
		}),
		segments: number({
			label: 'Segments',
			help: 'Pieces of each arc.',
			default: 6,
			min: 1,
			max: 256,
			slider: [1, 24],
			whole: true
		}),
		corner: number({
			label: 'Corner angle',
			help: 'Only where the curve turns by more than this.',
			default: 1,
			min: 0,
			max: 180,
			unit: '°'
		})
	},
	outputs: {
		curve: output('geometry', 'Curve', 'The same with round corners. Attributes of points do not survive.')
	},
	run({ curve, radius, segments, corner }, context) {
		const radii = context.numbers(radius, { geometry: curve, part: 'curves', kind: 'point' });
		const { made, clamped } = rounded(curve.curves!, radii, segments, corner);
		if (clamped)
			context.warn(
				`At ${clamped === 1 ? 'one corner' : `${clamped} corners`} the radius does not fit and was made smaller.`
			);
		return { curve: { ...curve, curves: made } };
	}
});

type Vector = [number, number, number];

function rounded(
	curves: Curves,
	radii: Float32Array,
	segments: number,
	corner: number
): { made: Curves; clamped: number } {
	const p = positionsOf(curves);
	const closed = curves.curves.columns.get('closed')!.data;
	const out: number[] = [];
	const starts = [0];
	let clamped = 0;
	const at = (i: number): Vector => [p[3 * i], p[3 * i + 1], p[3 * i + 2]];
	for (let c = 0; c < curveCount(curves); c++) {
		pollAt(c);
		const first = curves.starts[c],
			last = curves.starts[c + 1] - 1;
		for (let i = first; i <= last; i++) {
			const a = i > first ? i - 1 : closed[c] ? last : -1,
				b = i < last ? i + 1 : closed[c] ? first : -1;
			const here = at(i);
			if (a < 0 || b < 0 || radii[i] <= 0) {
				out.push(...here);
				continue;
			}
			const [u, lu] = unit(at(a), here),
				[v, lv] = unit(at(b), here);
			// The angle between the two pieces as seen from the corner: straight on is half a turn.
			const between = acos(Math.max(-1, Math.min(1, u[0] * v[0] + u[1] * v[1] + u[2] * v[2])));
			if (!(lu > 0 && lv > 0) || ((PI - between) * 180) / PI <= corner || between < 1e-4) {
				out.push(...here);
				continue;
			}
			// Half of each piece belongs to either of its corners, all of it where the other end is no corner.
			const room = Math.min(a === first && !closed[c] ? lu : lu / 2, b === last && !closed[c] ? lv : lv / 2);
			let back = radii[i] / tan(between / 2);
			if (back > room * (1 + 1e-9)) {
				clamped++;
				back = room;
			}
			const radius = back * tan(between / 2);
			// The middle of the arc lies on the bisector.
			const w: Vector = [u[0] + v[0], u[1] + v[1], u[2] + v[2]];
			const size = Math.sqrt(w[0] * w[0] + w[1] * w[1] + w[2] * w[2]);
			const far = Math.sqrt(back * back + radius * radius);
			const middle = here.map((x, k) => x + (w[k] / size) * far) as Vector;
			const from = here.map((x, k) => x + u[k] * back - middle[k]) as Vector,
				to = here.map((x, k) => x + v[k] * back - middle[k]) as Vector;
			for (let s = 0; s <= segments; s++) {
				// Straight between the ends, brought out to the radius: even enough, and exact at both.
				const t = s / segments;
				const q = from.map((x, k) => x + (to[k] - x) * t) as Vector;
				const length = Math.sqrt(q[0] * q[0] + q[1] * q[1] + q[2] * q[2]) || 1;
				out.push(...q.map((x, k) => middle[k] + (x / length) * radius));
			}
		}
		starts.push(out.length / 3);
	}
	const positions = allocate('float', out.length);
	positions.set(out);
	return { made: makeCurves(positions, Uint32Array.from(starts), Uint8Array.from(closed)), clamped };
}

function unit(to: Vector, from: Vector): [Vector, number] {
	const d = to.map((x, k) => x - from[k]) as Vector;
	const length = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
	return [length > 0 ? (d.map((x) => x / length) as Vector) : d, length];
}
