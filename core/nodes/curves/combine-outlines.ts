import { EMPTY } from '../../geometry/index.ts';
import { combineOutlines as combine, curvesFromSections, hasInside } from '../../kernels/outlines.ts';
import type { Combination } from '../../kernels/outlines.ts';
import { heightOf, planeOf, sectionsOf } from '../../kernels/section.ts';
import { choice, defineNode, geometry, output } from '../define.ts';

export const combineOutlines = defineNode({
	id: 'combine-outlines',
	version: 1,
	name: 'Combine outlines',
	family: 'curves',
	words: ['boolean', 'union', 'subtract', 'intersect', 'weld outlines', 'cut out', 'spline', 'path'],
	help: 'Closed flat outlines joined, cut from one another, or kept where they overlap; holes are respected. Both must lie in one plane.',
	renamed: [{ before: 2, inputs: { how: 'operation' } }],
	example: { wires: { first: 'ring', second: 'star' } },
	inputs: {
		first: geometry({ label: 'First', help: 'Closed outlines.', needs: 'curves' }),
		second: geometry({ label: 'Second', help: 'Closed outlines to combine them with.', needs: 'curves' }),
		operation: choice({
			label: 'Operation',
			help: 'What is kept.',
			default: 'union',
			options: [
				{ id: 'union', label: 'Union' },
				{ id: 'difference', label: 'First without second' },
				{ id: 'overlap', label: 'Overlap' },
				{ id: 'either', label: 'Either, but not both' }
			]
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The combined outlines, holes as curves of their own.') },
	run({ first, second, operation }, context) {
		const plane = planeOf(first.curves!);
		if (second.curves!.points.count && planeOf(second.curves!).join() !== plane.join())
			context.warn('The two lie in different planes; the second is seen from its own.');
		const closed = (curves: NonNullable<typeof first.curves>) => sectionsOf(curves, { closedOnly: true });
		const [one, two] = [closed(first.curves!), closed(second.curves!)];
		const flat = [...one, ...two].filter((section) => !hasInside(section)).length;
		if (flat)
			context.warn(
				`${flat === 1 ? 'One outline encloses' : `${flat} outlines enclose`} nothing, as one that is seen edge-on; ${flat === 1 ? 'it was' : 'they were'} left out.`
			);
		const made = combine(one, two, operation as Combination);
		if (!made.length) context.warn('Nothing is left.');
		return {
			curve: {
				...EMPTY,
				materials: first.materials,
				curves: curvesFromSections(made, plane, heightOf(first.curves!))
			}
		};
	}
});
