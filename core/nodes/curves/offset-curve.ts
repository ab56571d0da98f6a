import { EMPTY } from '../../geometry/index.ts';
import { curvesFromSections, offsetOutlines } from '../../kernels/outlines.ts';
import type { Join } from '../../kernels/outlines.ts';
import { heightOf, planeOf, sectionsOf } from '../../kernels/section.ts';
import { choice, defineNode, geometry, number, output, yesNo } from '../define.ts';

/** The library cannot be stopped: this many points take it about two seconds. */
const MOST_POINTS = 400_000;

export const offsetCurve = defineNode({
	id: 'offset-curve',
	version: 1,
	name: 'Offset curve',
	family: 'curves',
	words: ['parallel', 'inset', 'outset', 'border', 'contour', 'stroke', 'spline', 'path'],
	help: 'Outlines at a distance from flat curves: closed ones grow or shrink, open ones get an outline around them.',
	renamed: [{ before: 2, inputs: { smooth: 'tolerance' } }],
	example: { wires: { curve: 'star' } },
	inputs: {
		curve: geometry({ label: 'Curve', help: 'Flat curves.', needs: 'curves' }),
		distance: number({
			label: 'Distance',
			help: 'Outward; negative goes inward.',
			default: 0.1,
			slider: [-1, 1],
			step: 0.01,
			unit: 'm'
		}),
		both: yesNo({
			label: 'Both sides',
			help: 'Inward by the same distance too, so that a band is left.',
			default: false
		}),
		join: choice({
			label: 'Joins',
			help: 'What corners become.',
			default: 'round',
			options: [
				{ id: 'round', label: 'Round' },
				{ id: 'mitre', label: 'Mitred' },
				{ id: 'bevel', label: 'Bevelled' },
				{ id: 'square', label: 'Squared' }
			]
		}),
		tolerance: number({
			label: 'Tolerance',
			help: 'How far round joins may lie from a true arc.',
			default: 0.001,
			min: 0.00001,
			slider: [0.0001, 0.02],
			step: 0.0001,
			unit: 'm',
			when: (s) => s.join === 'round'
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The outlines.') },
	estimate({ curve, distance, both, join, tolerance }) {
		// Points of a whole circle that lies within `tolerance` of a true one, at every point in the worst case.
		const reach = Math.abs(distance);
		const round = join === 'round' && reach > tolerance ? Math.PI / Math.sqrt((2 * tolerance) / reach) : 0;
		return {
			// Both sides of an open curve; where sides cross one another, a corner becomes two.
			elements: (curve.curves?.points.count ?? 0) * (4 + Math.ceil(round)) * (both ? 2 : 1),
			of: 'points',
			most: MOST_POINTS,
			lower: 'Lower “Distance”, raise “Tolerance”, or resample the curve.'
		};
	},
	run({ curve, distance, both, join, tolerance }, context) {
		const sections = sectionsOf(curve.curves!);
		const made = [
			...offsetOutlines(sections, distance, join as Join, tolerance),
			...(both
				? offsetOutlines(
						sections.filter((one) => one.closed),
						-distance,
						join as Join,
						tolerance
					)
				: [])
		];
		if (sections.length && !made.length)
			context.warn('The distance is larger than the outlines, so nothing is left.');
		return {
			curve: {
				...EMPTY,
				materials: curve.materials,
				curves: curvesFromSections(made, planeOf(curve.curves!), heightOf(curve.curves!))
			}
		};
	}
});
