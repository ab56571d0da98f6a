import { allocate, geometryOf, makeCurves, pollAt } from '../../geometry/index.ts';
import { defineNode, number, output, vector } from '../define.ts';

export const line = defineNode({
	id: 'line',
	version: 1,
	name: 'Line',
	family: 'curves',
	words: ['segment', 'straight', 'polyline', 'edge', 'spline', 'path'],
	help: 'A straight curve from one place to another.',
	inputs: {
		from: vector({ label: 'From', help: 'Where it begins.', default: [0, 0, 0], unit: 'm' }),
		to: vector({ label: 'To', help: 'Where it ends.', default: [0, 0, 10], unit: 'm' }),
		points: number({
			label: 'Points',
			help: 'How many points it has, ends included.',
			default: 2,
			min: 2,
			slider: [2, 100],
			whole: true
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The line.') },
	estimate: ({ points }) => ({ elements: points, of: 'points', lower: 'Lower “Points”.' }),
	run({ from, to, points }) {
		const positions = allocate('float', points * 3);
		for (let i = 0; i < points; i++) {
			pollAt(i);
			for (let k = 0; k < 3; k++) positions[3 * i + k] = from[k] + ((to[k] - from[k]) * i) / (points - 1);
		}
		return {
			curve: geometryOf({ curves: makeCurves(positions, Uint32Array.of(0, points), Uint8Array.of(0)) })
		};
	}
});
