import { floats } from '../../geometry/index.ts';
import { constant, element, operate, rampOf, throughRamp, vector as vectorOf } from '../../varying/index.ts';
import type { Varying } from '../../varying/index.ts';
import { choice, defineNode, geometry, output, ramp } from '../define.ts';
import { movedByShares } from '../deform/moved-by-shares.ts';
import { clamped, oneMinus, weightInputs, weightsOn } from '../weights/weight-tools.ts';
import { MARKER_COLUMNS } from './marker.ts';

export const followMarker = defineNode({
	id: 'follow-marker',
	version: 1,
	name: 'Follow marker',
	family: 'motion',
	words: ['constrain', 'pull along', 'soft selection', 'deform'],
	help: 'What lies within the reach of a marker goes along with it: as far, as turned and as scaled as the marker is from its rest, less towards the rim. Or all of it goes wholly. Several markers act one after another.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What follows, copies too.', needs: 'anything' }),
		marker: geometry({ label: 'Marker', help: 'One marker, or several merged.', needs: 'points' }),
		who: choice({
			label: 'Who follows',
			help: 'What lies within the reach of the marker’s rest, or everything.',
			default: 'reach',
			options: [
				{ id: 'reach', label: 'What is within its reach' },
				{ id: 'all', label: 'All, wholly' }
			]
		}),
		ramp: ramp({
			label: 'Ramp along',
			help: 'How much it follows, from the rim of the reach, at 0, to the marker, at 1.',
			default: rampOf('smooth', [0, 0], [1, 1]),
			when: (s) => s.who === 'reach'
		}),
		...weightInputs
	},
	example: { wires: { geometry: 'hill', marker: 'pull' } },
	outputs: { geometry: output('geometry', 'Geometry', 'The same, gone along.') },
	run({ geometry, marker, who, ramp, ...given }, context) {
		const { points } = marker.points!;
		if (!points.columns.has(MARKER_COLUMNS.rest)) {
			context.warn(
				'These points are no markers, so nothing follows them. Wire the “Marker” of a Marker node.',
				'marker'
			);
			return { geometry };
		}
		const read = (name: keyof typeof MARKER_COLUMNS) => floats(points, MARKER_COLUMNS[name]);
		const [place, rest] = [floats(points, 'position'), read('rest')];
		const [rotation, size, reach] = [read('rotation'), read('size'), read('reach')];
		const row = (data: Float32Array, i: number) => [...data.subarray(3 * i, 3 * i + 3)];
		let out = geometry;
		for (let i = 0; i < points.count; i++) {
			const from = row(rest, i);
			const how = {
				move: row(place, i).map((x, k) => x - from[k]),
				rotation: row(rotation, i),
				scale: row(size, i),
				pivot: from
			};
			const near = who === 'all' ? constant(1) : throughRamp(nearness(from, reach[i]), ramp);
			// Read on what arrives, so that several markers do not pull things out of each other's reach.
			const weighing = { ...given, times: near, weightAt: given.weightAt ?? geometry };
			out = movedByShares(out, how, (where) => {
				const weights = weightsOn(context, weighing, where);
				return { move: weights, rotation: weights, scale: weights };
			});
		}
		return { geometry: out };
	}
});

/** From 0 at the rim of a reach to 1 in its middle. */
const nearness = (middle: readonly number[], reach: number): Varying =>
	reach > 0
		? clamped(
				oneMinus(
					operate('divide', [
						operate('distance', [element('position'), vectorOf(middle[0], middle[1], middle[2])]),
						constant(reach)
					])
				)
			)
		: constant(0);
