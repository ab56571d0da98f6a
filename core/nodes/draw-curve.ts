import { allocate, geometryOf, makeCurves } from '../geometry/index.ts';
import { samplePath } from '../kernels/path.ts';
import type { PathType } from '../kernels/path.ts';
import { choice, defineNode, number, output, path, yesNo } from './define.ts';

export const drawCurve = defineNode({
	id: 'draw-curve',
	version: 1,
	name: 'Draw curve',
	family: 'curves',
	words: ['pen', 'spline', 'path', 'sketch', 'bezier', 'catmull', 'polyline', 'hand drawn'],
	help: 'A curve drawn by hand in the View: click to add points, drag them, or type exact numbers.',
	inputs: {
		path: path({
			label: 'Points',
			help: 'Its control points. Draw them in the View, or set them in the table.'
		}),
		type: choice({
			label: 'Type',
			help: 'Through goes smoothly through the points; Bézier follows the handles of each point.',
			default: 'through',
			options: [
				{ id: 'straight', label: 'Straight pieces' },
				{ id: 'through', label: 'Smooth' },
				{ id: 'bezier', label: 'Bézier, by handles' }
			]
		}),
		closed: yesNo({ label: 'Closed', help: 'The last point joins the first.', default: false }),
		steps: number({
			label: 'Steps',
			help: 'Pieces between two control points.',
			default: 12,
			min: 1,
			max: 1000,
			slider: [1, 48],
			whole: true,
			when: (s) => s.type !== 'straight'
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The curve.') },
	estimate: ({ path, steps }) => ({ elements: path.length * steps, of: 'points', lower: 'Lower “Steps”.' }),
	run({ path, type, closed, steps }, context) {
		if (path.length === 1) context.warn('One point makes no curve yet. Add another in the View.');
		const points = samplePath(path, type as PathType, closed, steps);
		const positions = allocate('float', points.length);
		positions.set(points);
		const empty = points.length === 0;
		return {
			curve: geometryOf({
				curves: makeCurves(
					positions,
					empty ? Uint32Array.of(0) : Uint32Array.of(0, points.length / 3),
					empty ? new Uint8Array(0) : Uint8Array.of(closed && path.length > 2 ? 1 : 0)
				)
			})
		};
	}
});
