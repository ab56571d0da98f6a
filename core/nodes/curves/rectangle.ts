import { TAU, cos, sin } from '../../math/index.ts';
import { defineNode, number, output } from '../define.ts';
import { facingInput, flatCurve, range } from './curve-tools.ts';

export const rectangle = defineNode({
	id: 'rectangle',
	version: 1,
	name: 'Rectangle',
	family: 'curves',
	words: ['square', 'frame', 'box outline', 'spline', 'path'],
	help: 'A closed rectangle about the origin, its corners round if you like.',
	renamed: [{ before: 2, inputs: { steps: 'segments' } }],
	inputs: {
		width: number({
			label: 'Width',
			help: 'From side to side.',
			default: 2,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		height: number({
			label: 'Height',
			help: 'The other way.',
			default: 1,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		round: number({
			label: 'Corner radius',
			help: 'At most half of the shorter side.',
			default: 0,
			min: 0,
			slider: [0, 2],
			step: 0.01,
			unit: 'm'
		}),
		segments: number({
			label: 'Segments',
			help: 'Pieces of each round corner.',
			default: 4,
			min: 1,
			max: 256,
			slider: [1, 16],
			whole: true,
			when: (s) => s.round !== 0
		}),
		facing: facingInput
	},
	outputs: { curve: output('geometry', 'Curve', 'The rectangle.') },
	run({ width, height, round, segments, facing }) {
		const r = Math.min(round, width / 2, height / 2);
		const corners = [
			[1, 1],
			[-1, 1],
			[-1, -1],
			[1, -1]
		];
		const places = corners.flatMap(([sx, sy], quarter) => {
			if (r === 0) return [[(sx * width) / 2, (sy * height) / 2]];
			return range(segments + 1).map((i) => {
				const angle = TAU * ((quarter + i / segments) / 4);
				return [sx * (width / 2 - r) + r * cos(angle), sy * (height / 2 - r) + r * sin(angle)];
			});
		});
		return { curve: flatCurve(places, facing, true) };
	}
});
