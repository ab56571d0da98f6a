import { allocate, geometryOf, makeCurves } from '../../geometry/index.ts';
import { piecesOf, samplePath } from '../../kernels/path.ts';
import type { PathType } from '../../kernels/path.ts';
import { choice, defineNode, number, output, path, yesNo } from '../define.ts';

export const drawCurve = defineNode({
	id: 'draw-curve',
	version: 1,
	name: 'Draw curve',
	family: 'curves',
	words: ['spline', 'path', 'pen', 'sketch', 'bezier', 'catmull', 'polyline', 'hand drawn'],
	help: 'Curves drawn by hand in the View: click to add points, drag them, split and join them, or type exact numbers.',
	renamed: [{ before: 2, inputs: { steps: 'segments' } }],
	example: {
		settings: {
			path: {
				path: [
					{ at: [-2, 0, 0.5], in: [-0.8, 0, 0], out: [0.8, 0, 0] },
					{ at: [0, 0.4, -0.8], in: [-0.8, 0, 0], out: [0.8, 0, 0] },
					{ at: [2, 0, 0.6], in: [-0.8, 0, 0], out: [0.8, 0, 0] }
				]
			}
		}
	},
	inputs: {
		path: path({
			label: 'Points',
			help: 'Its control points. Draw them in the View, or set them in the table.'
		}),
		type: choice({
			label: 'Type',
			help: 'Smooth goes through the points in soft bends, Straight pieces from one to the next; Bézier follows the handles of each point.',
			default: 'through',
			options: [
				{ id: 'straight', label: 'Straight pieces' },
				{ id: 'through', label: 'Smooth' },
				{ id: 'bezier', label: 'Bézier, by handles' }
			]
		}),
		closed: yesNo({
			label: 'Closed',
			help: 'The last point joins the first, in each curve that was split off too.',
			default: false
		}),
		segments: number({
			label: 'Segments',
			help: 'Pieces between two control points.',
			default: 12,
			min: 1,
			max: 1000,
			slider: [1, 48],
			whole: true,
			when: (s) => s.type !== 'straight'
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The curve, or the curves it was split into.') },
	estimate: ({ path, segments }) => ({
		elements: path.length * segments,
		of: 'points',
		lower: 'Lower “Segments”.'
	}),
	run({ path, type, closed, segments }, context) {
		const pieces = piecesOf(path);
		const short = pieces.filter((piece) => piece.length === 1).length;
		if (short)
			context.warn(
				path.length === 1
					? 'One point makes no curve yet. Add another in the View.'
					: `${short === 1 ? 'One of the curves is' : `${short} of the curves are`} a single point. Add another to it, or join it.`
			);
		const sampled = pieces.map((piece) => samplePath(piece, type as PathType, closed, segments));
		const starts = allocate('index', pieces.length + 1);
		sampled.forEach((points, i) => (starts[i + 1] = starts[i] + points.length / 3));
		const positions = allocate('float', 3 * starts[pieces.length]);
		sampled.forEach((points, i) => positions.set(points, 3 * starts[i]));
		return {
			curve: geometryOf({
				curves: makeCurves(
					positions,
					starts,
					Uint8Array.from(pieces, (piece) => (closed && piece.length > 2 ? 1 : 0))
				)
			})
		};
	}
});
