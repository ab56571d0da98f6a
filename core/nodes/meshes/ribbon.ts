import { geometryOf, scratch, pollAt } from '../../geometry/index.ts';
import { sweep } from '../../kernels/sweep.ts';
import { framesBy } from '../curves/curve-tools.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';

export const ribbon = defineNode({
	id: 'ribbon',
	// 2: faces know what their curve knows.
	version: 2,
	name: 'Ribbon',
	family: 'meshes',
	words: ['strip', 'blade', 'tape', 'road', 'leaf', 'flat tube', 'billboard'],
	help: 'A flat strip along every curve. Its width and its roll may vary along it: a formula in u tapers it.',
	renamed: [{ before: 2, inputs: { turn: 'roll', across: 'segments' } }],
	inputs: {
		curve: geometry({ label: 'Curve', help: 'The middle line.', needs: 'curves' }),
		width: number({
			label: 'Width',
			help: 'From side to side, at each point of the curve.',
			default: 0.2,
			min: 0,
			slider: [0, 2],
			unit: 'm',
			varies: 'point'
		}),
		roll: number({
			label: 'Roll',
			help: 'About the curve, at each point.',
			default: 0,
			slider: [-360, 360],
			step: 1,
			unit: '°',
			varies: 'point'
		}),
		segments: number({
			label: 'Segments',
			help: 'Faces from side to side.',
			default: 1,
			min: 1,
			max: 256,
			slider: [1, 16],
			whole: true
		}),
		up: choice({
			label: 'Up',
			help: 'World lies flat; curve follows it round without spinning.',
			default: 'world',
			options: [
				{ id: 'world', label: 'World' },
				{ id: 'curve', label: 'Curve' }
			]
		})
	},
	begins: { width: 'width' },
	outputs: { mesh: output('geometry', 'Mesh', 'The strip.') },
	estimate: ({ curve, segments }) => ({
		elements: curve.curves!.points.count * (segments + 1),
		of: 'points',
		lower: 'Lower “Segments”, or resample the curve.'
	}),
	run({ curve, width, roll, segments, up }, context) {
		const curves = curve.curves!;
		const where = { geometry: curve, part: 'curves', kind: 'point' } as const;
		const points = scratch('double', 2 * (segments + 1));
		// From right to left, so that the strip looks up.
		for (let i = 0; i <= segments; i++) {
			pollAt(i);
			points[2 * i] = 0.5 - i / segments;
		}
		const mesh = sweep(curves, framesBy(curves, up), {
			sections: [{ points, closed: false }],
			blend: scratch('float', curves.points.count),
			scale: context.numbers(width, where),
			turn: context.numbers(roll, where),
			offset: null,
			caps: false,
			mitre: 4
		});
		return { mesh: geometryOf({ mesh, materials: curve.materials }) };
	}
});
