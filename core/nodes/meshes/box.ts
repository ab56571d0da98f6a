import { geometryOf, pollAt } from '../../geometry/index.ts';
import { makeBox } from '../../kernels/box.ts';
import { defineNode, number, output, vector, yesNo } from '../define.ts';
import { edgeInputs, piecesOf } from './edge-inputs.ts';

export const box = defineNode({
	id: 'box',
	version: 1,
	name: 'Box',
	family: 'meshes',
	words: ['cube', 'bevel', 'chamfer', 'rounded', 'cuboid', 'block', 'plank', 'primitive'],
	help: 'A box around the origin, or standing on it.',
	renamed: [{ before: 2, inputs: { edgeSize: 'bevel', edgeSegments: 'bevelSegments' } }],
	inputs: {
		size: vector({ label: 'Size', help: 'Width, height and depth.', default: [1, 1, 1], unit: 'm', min: 0 }),
		standing: yesNo({
			label: 'Standing',
			help: 'Its lower side lies at height 0; otherwise its middle does.',
			default: false
		}),
		cellsX: number({
			label: 'Cells along x',
			help: 'Faces along the width.',
			default: 1,
			min: 1,
			slider: [1, 50],
			whole: true,
			group: 'Cells'
		}),
		cellsY: number({
			label: 'Cells along y',
			help: 'Faces along the height.',
			default: 1,
			min: 1,
			slider: [1, 50],
			whole: true
		}),
		cellsZ: number({
			label: 'Cells along z',
			help: 'Faces along the depth.',
			default: 1,
			min: 1,
			slider: [1, 50],
			whole: true
		}),
		...edgeInputs
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The box.') },
	estimate: ({ cellsX: x, cellsY: y, cellsZ: z }) => ({
		elements: 8 * (x * y + y * z + x * z),
		of: 'points',
		lower: 'Lower the cells.'
	}),
	run({ size, standing, cellsX, cellsY, cellsZ, edge, bevel, bevelSegments }) {
		const sizes = size.map((s) => Math.max(0, s)) as [number, number, number];
		const mesh = makeBox({
			size: sizes,
			cells: [cellsX, cellsY, cellsZ],
			edge: edge === 'sharp' ? 0 : bevel,
			segments: piecesOf(edge, bevelSegments)
		});
		if (standing) {
			const p = mesh.points.columns.get('position')!.data;
			for (let i = 1; i < p.length; i += 3) {
				pollAt(i);
				p[i] += sizes[1] / 2;
			}
		}
		return { mesh: geometryOf({ mesh }) };
	}
});
