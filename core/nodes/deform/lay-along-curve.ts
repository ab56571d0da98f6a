import {
	boundsOf,
	countsOf,
	curveCount,
	lengthsAlong,
	matrix,
	mergeGeometries,
	transformGeometry,
	pollAt
} from '../../geometry/index.ts';
import type { Geometry } from '../../geometry/index.ts';
import { layMap, timesThatFit } from '../../kernels/lay-along.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';
import { framesBy, upInput } from '../curves/curve-tools.ts';
import { deform } from './deform-tools.ts';
import { weightInputs } from '../weights/weight-tools.ts';

export const layAlongCurve = defineNode({
	id: 'lay-along-curve',
	version: 1,
	name: 'Lay along curve',
	family: 'deform',
	words: ['bend along', 'deform', 'follow', 'along path', 'repeat along', 'spline'],
	help: 'Bends what is straight along a curve. What touches before touches after, at bends too, where rigid copies would open.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What is laid, made straight along one axis about the origin.',
			needs: 'anything'
		}),
		path: geometry({
			label: 'Path',
			help: 'The curves to lay it along; each gets its own.',
			needs: 'curves'
		}),
		axis: choice({
			label: 'Its axis',
			help: 'The axis of the geometry that goes along the curve.',
			default: 'x',
			options: [
				{ id: 'x', label: 'x' },
				{ id: 'y', label: 'y' },
				{ id: 'z', label: 'z' }
			]
		}),
		length: choice({
			label: 'Length',
			help: 'Keep leaves its length; stretch fills the curve; repeat sets as many in a row as fit, each stretched a little, so that they close.',
			default: 'stretch',
			options: [
				{ id: 'keep', label: 'Keep' },
				{ id: 'stretch', label: 'Stretch' },
				{ id: 'repeat', label: 'Repeat' }
			]
		}),
		start: number({
			label: 'Start',
			help: 'Where on the curve it begins.',
			default: 0,
			slider: [0, 10],
			unit: 'm',
			when: (s) => s.length === 'keep'
		}),
		count: number({
			label: 'Count',
			help: 'How many in a row on each curve; 0 sets as many as fit.',
			default: 0,
			min: 0,
			max: 100_000,
			whole: true,
			when: (s) => s.length === 'repeat'
		}),
		up: upInput,
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same along the curve.') },
	estimate({ geometry, path, axis, length, count }) {
		const box = boundsOf(geometry);
		const k = 'xyz'.indexOf(axis);
		const size = box ? box.high[k] - box.low[k] : 0;
		let rows = 0;
		for (const long of lengthsAlong(path.curves!).lengths)
			rows += length === 'repeat' ? count || timesThatFit(long, size) : 1;
		const { points, faces, curves, copies } = countsOf(geometry);
		return {
			elements: rows * (points + faces + curves + copies),
			of: 'elements',
			lower: 'Lower “Count”, or lay longer pieces.'
		};
	},
	run({ geometry, path, axis, length, start, count, up, ...given }, context) {
		const box = boundsOf(geometry);
		const curves = path.curves!;
		if (!box) return { geometry };
		const k = 'xyz'.indexOf(axis);
		const size = box.high[k] - box.low[k];
		if (length !== 'keep' && !(size > 0))
			context.warn(
				'The geometry has no length along this axis, so it cannot be stretched. Choose another axis.'
			);
		const frames = framesBy(curves, up);
		const { lengths } = lengthsAlong(curves);
		const laid: Geometry[] = [];
		for (let c = 0; c < curveCount(curves); c++) {
			pollAt(c);
			if (!(lengths[c] > 0)) continue;
			const times = length === 'repeat' ? count || timesThatFit(lengths[c], size) : 1;
			const stretch = length === 'keep' || !(size > 0) ? 1 : lengths[c] / (size * times);
			const step = [0, 0, 0];
			step[k] = size;
			const row =
				times === 1
					? geometry
					: mergeGeometries(
							Array.from({ length: times }, (_, i) =>
								transformGeometry(
									geometry,
									matrix.affineFrom(
										step.map((x) => x * i),
										[0, 0, 0],
										[1, 1, 1]
									)
								)
							)
						);
			laid.push(
				deform(
					row,
					given,
					context,
					layMap(curves, c, frames, {
						axis: k,
						from: box.low[k],
						stretch,
						start: length === 'keep' ? start : 0
					})
				)
			);
		}
		if (!laid.length) context.warn('The path has no length, so nothing was laid.');
		return { geometry: laid.length === 1 ? laid[0] : mergeGeometries(laid) };
	}
});
