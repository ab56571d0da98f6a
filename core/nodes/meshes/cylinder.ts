import { geometryOf } from '../../geometry/index.ts';
import { revolve } from '../../kernels/revolve.ts';
import { roundProfile } from '../../kernels/round-profile.ts';
import { defineNode, number, output, yesNo } from '../define.ts';
import { edgeInputs, piecesOf } from './edge-inputs.ts';

export const cylinder = defineNode({
	id: 'cylinder',
	version: 1,
	name: 'Cylinder',
	family: 'meshes',
	words: [
		'cone',
		'post',
		'pole',
		'frustum',
		'column',
		'pipe',
		'bevel',
		'chamfer',
		'rounded',
		'pyramid',
		'prism',
		'primitive'
	],
	help: 'An upright cylinder. Different radii at its ends make a cone, or a post that tapers.',
	renamed: [{ before: 2, inputs: { edgeSize: 'bevel', edgeSegments: 'bevelSegments', sides: 'segments' } }],
	inputs: {
		radius: number({
			label: 'Lower radius',
			help: 'The radius at the foot.',
			default: 0.5,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		topRadius: number({
			label: 'Upper radius',
			help: 'The radius at the top; 0 makes a cone.',
			default: 0.5,
			min: 0,
			slider: [0, 5],
			unit: 'm'
		}),
		height: number({
			label: 'Height',
			help: 'From foot to top.',
			default: 1,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		standing: yesNo({
			label: 'Standing',
			help: 'Its foot lies at height 0; otherwise its middle does.',
			default: true
		}),
		segments: number({
			label: 'Segments',
			help: 'Faces around.',
			default: 24,
			min: 3,
			max: 2048,
			slider: [3, 64],
			whole: true,
			group: 'Faces'
		}),
		rows: number({
			label: 'Rows',
			help: 'Faces from foot to top.',
			default: 1,
			min: 1,
			slider: [1, 50],
			whole: true
		}),
		caps: yesNo({ label: 'Caps', help: 'Puts a face on both ends.', default: true }),
		...edgeInputs
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The cylinder.') },
	estimate: ({ segments, rows, caps, edge, bevelSegments }) => ({
		elements: segments * (rows + 1 + (caps ? 2 * piecesOf(edge, bevelSegments) : 0)) + 2,
		of: 'points',
		lower: 'Lower “Segments” or “Rows”.'
	}),
	run({ radius, topRadius, height, standing, segments, rows, caps, edge, bevel, bevelSegments }) {
		const low = standing ? 0 : -height / 2;
		const corners: [number, number][] = [
			[0, low],
			[radius, low],
			[topRadius, low + height],
			[0, low + height]
		];
		const cut =
			caps && edge !== 'sharp'
				? roundProfile(corners, bevel, piecesOf(edge, bevelSegments), [1, 2])
				: corners;
		const rim = cut.slice(1, -1);
		// The longest piece is the wall: it alone is divided into rows.
		const wall = rim.reduce(
			(best, _, i) => (i + 1 < rim.length && span(rim, i) > span(rim, best) ? i : best),
			0
		);
		const profile = rim.flatMap((point, i) =>
			i === wall
				? Array.from(
						{ length: rows },
						(_, k): [number, number] =>
							[0, 1].map((a) => point[a] + ((rim[i + 1][a] - point[a]) * k) / rows) as [number, number]
					)
				: [point as [number, number]]
		);
		return { mesh: geometryOf({ mesh: revolve({ points: profile, closed: false }, segments, caps) }) };
	}
});

const span = (line: readonly (readonly [number, number])[], i: number): number => {
	const x = line[i + 1][0] - line[i][0],
		y = line[i + 1][1] - line[i][1];
	return x * x + y * y;
};
