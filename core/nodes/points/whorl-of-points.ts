import { NodeError, TAU, cos, formatCount, quaternion, sin } from '../../math/index.ts';
import type { Geometry, Table } from '../../geometry/index.ts';
import {
	Growing,
	column,
	geometryOf,
	makePoints,
	makeTable,
	pollAt,
	scratch,
	writeDerived
} from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { elementsOf } from '../../varying/index.ts';
import { grownElements } from '../../kernels/grown-elements.ts';
import { defineNode, geometry, number, output } from '../define.ts';

const MOST = 16_000_000;

export const whorlOfPoints = defineNode({
	id: 'whorl-of-points',
	version: 1,
	name: 'Whorl of points',
	family: 'points',
	words: ['rosette', 'radial', 'ring', 'petals', 'around', 'phyllotaxis', 'flower', 'golden angle'],
	help: 'A ring of points about every point, or along every axis: each leans outward by its insertion angle. Formulas for radius, angle and turn know sibling, the number within the ring, and u, from 0 to 1 round it.',
	inputs: {
		about: geometry({
			label: 'About',
			help: 'The points, each with its y as the axis of its whorl; without any, the origin.',
			optional: true
		}),
		count: number({
			label: 'Count',
			help: 'How many in each whorl.',
			default: 5,
			min: 0,
			max: 100_000,
			slider: [1, 24],
			whole: true,
			varies: 'point'
		}),
		turn: number({
			label: 'Rotation',
			help: 'How far each whorl is turned about its axis; a random range turns each by chance.',
			default: 0,
			slider: [-180, 180],
			unit: '°',
			varies: 'point'
		}),
		radius: number({
			label: 'Radius',
			help: 'From the axis to each point.',
			default: 0.2,
			slider: [0, 2],
			unit: 'm',
			varies: 'point',
			group: 'Each point'
		}),
		angle: number({
			label: 'Insertion angle',
			help: 'From the axis outward: 0 stands along it, 90 lies flat.',
			default: 45,
			slider: [0, 180],
			unit: '°',
			varies: 'point'
		}),
		rise: number({
			label: 'Rise',
			help: 'Along the axis.',
			default: 0,
			slider: [-1, 1],
			unit: 'm',
			varies: 'point'
		})
	},
	outputs: { points: output('geometry', 'Points', 'The points, with sibling, whorl and u.') },
	grows: true,
	run({ about, count, turn, radius, angle, rise }, context) {
		const on: Geometry = about
			? asPoints(about)
			: geometryOf({ points: makePoints(Float32Array.of(0, 0, 0)) });
		const table = on.points!.points;
		const elements = elementsOf(on, 'points', 'point');
		const [counts, turns] = [context.numbersOn(count, elements), context.numbersOn(turn, elements)];
		const places = siblings(table, counts);
		const known = new Map([...places.columns].map(([name, column]) => [name, () => column]));
		const own = grownElements(places.count, places.ids, 'points', known);
		const [radii, angles, rises] = [radius, angle, rise].map((one) => context.numbersOn(one, own));
		const position = new Growing('float'),
			orientation = new Growing('float');
		const q = [0, 0, 0, 1];
		const base = table.columns.get('position')!.data;
		const axes = table.columns.get('orientation')?.data;
		const whorl = places.columns.get('whorl')!.data,
			u = places.columns.get('u')!.data;
		for (let i = 0; i < places.count; i++) {
			pollAt(i);
			const o = whorl[i];
			const round = quaternion.radians(turns[o]) + TAU * u[i];
			const lean = quaternion.radians(angles[i]);
			const [cx, sz] = [cos(round), -sin(round)];
			const [upright, outward] = [cos(lean), sin(lean)];
			const there = [radii[i] * cx, rises[i], radii[i] * sz];
			quaternion.lookAlong(q, 0, outward * cx, upright, outward * sz, -upright * cx, outward, -upright * sz);
			const a = axes ? [axes[4 * o], axes[4 * o + 1], axes[4 * o + 2], axes[4 * o + 3]] : [0, 0, 0, 1];
			quaternion.rotate(there, 0, a[0], a[1], a[2], a[3], there[0], there[1], there[2]);
			for (let k = 0; k < 3; k++) position.push(base[3 * o + k] + there[k]);
			quaternion.multiply(q, 0, a[0], a[1], a[2], a[3], q[0], q[1], q[2], q[3]);
			for (let k = 0; k < 4; k++) orientation.push(q[k]);
		}
		const made = makeTable(
			places.count,
			{
				position: column('vec3', 'position', position.take()),
				orientation: column('vec4', 'orientation', orientation.take()),
				...Object.fromEntries(places.columns)
			},
			places.ids
		);
		return { points: geometryOf({ points: { points: made } }) };
	}
});

/** The points of all whorls: whose each is, its number there, and an id that follows from both. */
function siblings(
	of: Table,
	counts: ArrayLike<number>
): { count: number; ids: Uint32Array; columns: Map<string, ReturnType<typeof column>> } {
	const whorl = new Growing('int'),
		sibling = new Growing('int'),
		u = new Growing('float'),
		ids = new Growing('index');
	const id = scratch('index', 2);
	for (let o = 0; o < of.count; o++) {
		pollAt(o);
		const n = Math.max(0, Math.min(100_000, Math.floor(counts[o] + 0.5) || 0));
		if (whorl.length + n > MOST)
			throw new NodeError(
				`There would be more than ${formatCount(MOST)} points. Lower “Count”, or use fewer whorls.`,
				{ input: 'count' }
			);
		for (let i = 0; i < n; i++) {
			whorl.push(o);
			sibling.push(i);
			u.push(i / n);
			writeDerived(id, 0, of, o, i + 1);
			ids.push(id[0]);
			ids.push(id[1]);
		}
	}
	return {
		count: whorl.length,
		ids: ids.take(),
		columns: new Map([
			['whorl', column('int', 'plain', whorl.take())],
			['sibling', column('int', 'plain', sibling.take())],
			['u', column('float', 'plain', u.take())]
		])
	};
}
