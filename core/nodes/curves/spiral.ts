import { pollAt, scratch } from '../../geometry/index.ts';
import { TAU, cos, sin } from '../../math/index.ts';
import { rampOf, readRamp, tableOfRamp } from '../../varying/index.ts';
import { defineNode, number, output, ramp } from '../define.ts';
import { facingInput, flatCurveAlong } from './curve-tools.ts';

/** Places that are read from the ramp at once. */
const BLOCK = 4096;

export const spiral = defineNode({
	id: 'spiral',
	version: 1,
	name: 'Spiral',
	family: 'curves',
	words: ['coil', 'snail', 'archimedean', 'watch spring', 'spline', 'path'],
	help: 'A flat curve that winds from one radius to another.',
	inputs: {
		turns: number({
			label: 'Turns',
			help: 'How often it goes round.',
			default: 3,
			slider: [0, 12],
			step: 0.05
		}),
		start: number({
			label: 'Start radius',
			help: 'Where it begins.',
			default: 0.1,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		end: number({
			label: 'End radius',
			help: 'Where it ends.',
			default: 1,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		ramp: ramp({
			label: 'Ramp',
			help: 'How the radius goes from start (0) to end (1).',
			default: rampOf('linear', [0, 0], [1, 1])
		}),
		points: number({
			label: 'Points a turn',
			help: 'How finely it is made.',
			default: 32,
			min: 3,
			slider: [6, 128],
			whole: true
		}),
		facing: facingInput
	},
	outputs: { curve: output('geometry', 'Curve', 'The spiral.') },
	estimate: ({ turns, points }) => ({
		elements: Math.ceil(Math.abs(turns) * points) + 2,
		of: 'points',
		lower: 'Lower “Turns” or “Points a turn”.'
	}),
	run({ turns, start, end, ramp, points, facing }) {
		const n = Math.max(1, Math.ceil(Math.abs(turns) * points));
		const t = scratch('double', n + 1);
		for (let i = 0; i <= n; i++) {
			pollAt(i);
			t[i] = i / n;
		}
		const share = scratch('double', n + 1);
		const table = tableOfRamp(ramp, 1);
		for (let from = 0; from <= n; from += BLOCK) {
			pollAt(from);
			const [size, at] = [Math.min(BLOCK, n + 1 - from), t.subarray(from)];
			readRamp(table, 1, size, at, [share.subarray(from)]);
		}
		return {
			curve: flatCurveAlong(n + 1, facing, false, (i) => {
				const r = start + (end - start) * share[i];
				return [r * cos(TAU * turns * t[i]), r * sin(TAU * turns * t[i])];
			})
		};
	}
});
