import type { Column } from '../../geometry/index.ts';
import { column, geometryOf, withColumns } from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { growStrands as grow } from '../../kernels/grow-strands.ts';
import { elementsOf } from '../../varying/index.ts';
import type { Varying } from '../../varying/index.ts';
import { defineNode, geometry, number, output, yesNo } from '../define.ts';

export const growStrands = defineNode({
	id: 'grow-strands',
	// 2: as long as its setting says, however it bends.
	version: 2,
	name: 'Grow strands',
	family: 'growth',
	renamed: [{ before: 5, inputs: { place: 'bendAt' } }],
	words: ['grass', 'hair', 'fur', 'thatch', 'blades', 'bristles', 'sedge', 'reed', 'stalk'],
	help: 'A curve from every point: how long it is, how far it leans and to which side, how far it bends and where, how it droops and curls. Every number may differ from strand to strand. Ribbon and Tube make meshes of them, whose width may read attribute width.',
	inputs: {
		from: geometry({
			label: 'Roots',
			help: 'Points from which strands grow, each along its y.',
			needs: 'anything'
		}),
		length: number({
			label: 'Length',
			help: 'Along the strand.',
			default: 0.5,
			min: 0,
			slider: [0, 3],
			unit: 'm',
			varies: 'point'
		}),
		lean: number({
			label: 'Lean',
			help: 'From the point’s y, where it begins.',
			default: 10,
			slider: [0, 90],
			unit: '°',
			varies: 'point'
		}),
		direction: number({
			label: 'Direction',
			help: 'The side to which it leans, round the point’s y.',
			default: 0,
			slider: [-180, 180],
			unit: '°',
			varies: 'point'
		}),
		bend: number({
			label: 'Bend',
			help: 'How far its end is turned against its beginning.',
			default: 40,
			slider: [-180, 180],
			unit: '°',
			varies: 'point'
		}),
		bendAt: number({
			label: 'Bend at',
			help: 'Where it bends, as a fraction of its length.',
			default: 0.6,
			min: 0,
			max: 1,
			varies: 'point'
		}),
		droop: number({
			label: 'Droop',
			help: 'How far its end sinks, as a fraction of its length.',
			default: 0,
			slider: [0, 1],
			varies: 'point'
		}),
		curl: number({
			label: 'Curl',
			help: 'Turns round itself.',
			default: 0,
			slider: [-5, 5],
			varies: 'point'
		}),
		curlWidth: number({
			label: 'Curl width',
			help: 'How wide those turns are, as a fraction of its length.',
			default: 0,
			slider: [0, 0.3],
			varies: 'point'
		}),
		width: number({
			label: 'Width',
			help: 'Kept as attribute width, for Ribbon.',
			default: 0.01,
			min: 0,
			slider: [0, 0.1],
			unit: 'm',
			varies: 'point'
		}),
		segments: number({
			label: 'Segments',
			help: 'Pieces of each strand.',
			default: 8,
			min: 1,
			max: 1000,
			slider: [2, 32],
			whole: true
		}),
		keep: yesNo({
			label: 'Keep its numbers',
			help: 'Each strand keeps those of its numbers that differ from strand to strand, such as length and lean, as attributes of these names.',
			default: false
		})
	},
	brings: ['width'],
	outputs: {
		strands: output('geometry', 'Strands', 'Curves, with the attributes of their points, and width.')
	},
	estimate: ({ from, segments }) => ({
		elements: asPoints(from).points!.points.count * (segments + 1),
		of: 'points',
		lower: 'Lower “Segments”, or use fewer points.'
	}),
	run({ from, segments, keep, ...numbers }, context) {
		const on = asPoints(from);
		const elements = elementsOf(on, 'points', 'point');
		const of = (value: Varying) => context.numbersOn(value, elements);
		const own = {
			length: of(numbers.length),
			lean: of(numbers.lean),
			direction: of(numbers.direction),
			bend: of(numbers.bend),
			bendAt: of(numbers.bendAt),
			droop: of(numbers.droop),
			curl: of(numbers.curl),
			curlWidth: of(numbers.curlWidth),
			width: of(numbers.width)
		};
		const curves = grow(on.points!.points, segments, own);
		if (!keep) return { strands: geometryOf({ curves }) };
		const kept = Object.entries(own)
			.filter(([name]) => name !== 'width' && !numbers[name as keyof typeof own].constant)
			.map(([name, data]): [string, Column] => [name, column('float', 'plain', Float32Array.from(data))]);
		const table = withColumns(curves.curves, Object.fromEntries(kept));
		return { strands: geometryOf({ curves: { ...curves, curves: table } }) };
	}
});
