import { countResampled, resampleCurves, spacingOf } from '../../kernels/resample-curves.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';

export const resampleCurve = defineNode({
	id: 'resample-curve',
	version: 1,
	name: 'Resample curve',
	family: 'curves',
	words: ['subdivide', 'divide', 'even', 'spacing', 'rebuild', 'spline', 'path'],
	help: 'Gives every curve new points at even distances. Attributes are read between the old ones.',
	renamed: [{ before: 2, inputs: { length: 'spacing' }, options: { by: { length: 'spacing' } } }],
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The curves to cut.', needs: 'curves' }),
		by: choice({
			label: 'By',
			help: 'Fitted takes the spacing that is nearest to yours and makes all pieces even.',
			default: 'fitted',
			options: [
				{ id: 'count', label: 'Count' },
				{ id: 'spacing', label: 'Spacing' },
				{ id: 'fitted', label: 'Fitted spacing' }
			]
		}),
		count: number({
			label: 'Count',
			help: 'Points on each curve.',
			default: 20,
			min: 2,
			slider: [2, 200],
			whole: true,
			when: (s) => s.by === 'count'
		}),
		spacing: number({
			label: 'Spacing',
			help: 'The distance between points.',
			default: 0.5,
			min: 0.000001,
			slider: [0.01, 5],
			unit: 'm',
			when: (s) => s.by !== 'count'
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The curves with their new points.') },
	estimate: ({ curve, by, count, spacing }) => ({
		elements: countResampled(curve.curves!, spacingOf(by, count, spacing)),
		of: 'points',
		lower: 'Lower “Count”, or raise “Spacing”.'
	}),
	run: ({ curve, by, count, spacing }) => ({
		curve: { ...curve, curves: resampleCurves(curve.curves!, spacingOf(by, count, spacing)) }
	})
});
