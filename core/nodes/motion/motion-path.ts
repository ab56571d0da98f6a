import type { Geometry } from '../../geometry/index.ts';
import { allocate, floats, geometryOf, makeCurves, pollAt } from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { rowsBefore } from '../../kernels/remembered.ts';
import { defineNode, geometry, number, output } from '../define.ts';

/** Bytes of a point or a copy that is looked back at. */
const BYTES = 80;

/** The frames from first to last, in steps; both ends are among them. */
function framesBetween(first: number, last: number, step: number): number[] {
	const frames: number[] = [];
	for (let frame = last; frame > first; frame -= step) frames.unshift(frame);
	return [first, ...frames];
}

export const motionPath = defineNode({
	id: 'motion-path',
	version: 1,
	name: 'Motion path',
	family: 'motion',
	words: ['trail', 'trace', 'trajectory', 'history', 'path of', 'keyframe'],
	help: 'A curve for each point or copy through where it was, from some frames ago up to now.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'Whose points, or copies, are followed.',
			needs: 'anything'
		}),
		frames: number({
			label: 'Frames back',
			help: 'From how long ago.',
			default: 24,
			min: 1,
			max: 2000,
			slider: [2, 240],
			whole: true
		}),
		step: number({
			label: 'Every',
			help: 'A point of the curve for every so many frames.',
			default: 1,
			min: 1,
			max: 500,
			whole: true
		})
	},
	outputs: { curve: output('geometry', 'Curves', 'The paths.') },
	body: true,
	timed: true,
	estimate({ geometry: of, frames, step }) {
		const elements = (asPoints(of).points?.points.count ?? 0) * (Math.ceil(frames / step) + 1);
		return {
			elements,
			of: 'points',
			lower: 'Lower “Frames back”, or look less often.',
			// What comes in is there for each of the frames while the paths are made.
			bytes: BYTES * elements
		};
	},
	looksBack: ({ frames, step }, { frame }) => framesBetween(frame - frames, frame, step),
	run({ geometry: now }, { past }) {
		const table = asPoints(now).points!.points;
		const seen = past.map(({ inputs }) => {
			const { points } = asPoints(inputs.geometry as Geometry);
			const { count, ids } = points!.points;
			const rows = rowsBefore(
				{ part: 'points', kind: 'point', count, ids, data: new Float64Array(0) },
				table
			);
			return { rows, positions: floats(points!.points, 'position') };
		});
		// Of what was not there yet the path is shorter.
		const starts = allocate('index', table.count + 1);
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			const there = seen.filter(({ rows }) => !rows || rows[i] >= 0).length;
			starts[i + 1] = starts[i] + there;
		}
		const positions = allocate('float', 3 * starts[table.count]);
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			let o = starts[i];
			for (const { rows, positions: from } of seen) {
				const row = rows ? rows[i] : i;
				if (row < 0) continue;
				for (let k = 0; k < 3; k++) positions[3 * o + k] = from[3 * row + k];
				o++;
			}
		}
		return { curve: geometryOf({ curves: makeCurves(positions, starts, allocate('byte', table.count)) }) };
	}
});
