import { TAU, cos, sin } from '../../math/index.ts';
import { allocate, geometryOf, makeCurves, pollAt } from '../../geometry/index.ts';
import { choice, defineNode, number, output } from '../define.ts';

export const circle = defineNode({
	id: 'circle',
	version: 1,
	name: 'Circle',
	family: 'curves',
	words: ['ring', 'round', 'ellipse', 'closed curve', 'spline', 'path'],
	help: 'A closed round curve about the origin.',
	renamed: [{ before: 2, inputs: { keeps: 'match' } }],
	inputs: {
		radius: number({
			label: 'Radius',
			help: 'From the middle to the curve.',
			default: 1,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		points: number({
			label: 'Points',
			help: 'How many points lie on it.',
			default: 32,
			min: 3,
			slider: [3, 128],
			whole: true
		}),
		match: choice({
			label: 'Match',
			help: 'With few points the corners can lie at the radius, which makes it thinner than a circle, or a little outside, so that it encloses as much.',
			default: 'radius',
			options: [
				{ id: 'radius', label: 'Radius, at its points' },
				{ id: 'area', label: 'Area of a true circle' }
			]
		}),
		facing: choice({
			label: 'Facing',
			help: 'The direction its plane looks.',
			default: 'up',
			options: [
				{ id: 'up', label: 'Up' },
				{ id: 'front', label: 'Front' },
				{ id: 'side', label: 'Side' }
			]
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The circle.') },
	estimate: ({ points }) => ({ elements: points, of: 'points', lower: 'Lower “Points”.' }),
	run({ radius, points, match, facing }) {
		const turn = TAU / points;
		const reach = match === 'area' ? radius * Math.sqrt(turn / sin(turn)) : radius;
		const positions = allocate('float', points * 3);
		for (let i = 0; i < points; i++) {
			pollAt(i);
			const a = reach * cos((TAU * i) / points),
				b = reach * sin((TAU * i) / points);
			positions.set(facing === 'up' ? [a, 0, -b] : facing === 'front' ? [a, b, 0] : [0, b, -a], 3 * i);
		}
		return {
			curve: geometryOf({ curves: makeCurves(positions, Uint32Array.of(0, points), Uint8Array.of(1)) })
		};
	}
});
