import { column, geometryOf, makeTable } from '../../geometry/index.ts';
import { makeGrid } from '../../kernels/grid.ts';
import { defineNode, number, output } from '../define.ts';

export const grid = defineNode({
	id: 'grid',
	version: 1,
	name: 'Grid',
	family: 'meshes',
	words: ['plane', 'ground', 'terrain', 'floor', 'quad', 'surface'],
	help: 'A flat mesh of square cells, facing up, around the origin.',
	inputs: {
		width: number({
			label: 'Width',
			help: 'Size along x.',
			default: 10,
			min: 0,
			slider: [0.1, 50],
			unit: 'm'
		}),
		depth: number({
			label: 'Depth',
			help: 'Size along z.',
			default: 10,
			min: 0,
			slider: [0.1, 50],
			unit: 'm'
		}),
		columns: number({
			label: 'Columns',
			help: 'Cells along x.',
			default: 20,
			min: 1,
			slider: [1, 200],
			whole: true
		}),
		rows: number({
			label: 'Rows',
			help: 'Cells along z.',
			default: 20,
			min: 1,
			slider: [1, 200],
			whole: true
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The grid.') },
	estimate: ({ columns, rows }) => ({
		elements: (columns + 1) * (rows + 1),
		of: 'points',
		lower: 'Lower “Columns” or “Rows”.'
	}),
	run({ width, depth, columns, rows }) {
		// What Measure tells of a grid.
		const whole = makeTable(1, {
			cell: column('vec3', 'plain', Float32Array.of(width / columns, 0, depth / rows)),
			cells: column('vec3', 'plain', Float32Array.of(columns, 0, rows))
		});
		return { mesh: geometryOf({ mesh: makeGrid(width, depth, columns, rows), whole }) };
	}
});
