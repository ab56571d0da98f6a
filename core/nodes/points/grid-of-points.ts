import { allocate, column, geometryOf, makeTable, pollAt } from '../../geometry/index.ts';
import { choice, defineNode, number, output, vector, yesNo } from '../define.ts';

const HEXAGONAL = 0.8660254037844386;

export const gridOfPoints = defineNode({
	id: 'grid-of-points',
	version: 1,
	name: 'Grid of points',
	family: 'points',
	words: ['array', 'lattice', 'rectangular', 'matrix', 'brick', 'tiles', 'room', 'module'],
	help: 'Points on a grid of one to three axes, straight or staggered. Each point knows its place along every axis.',
	inputs: {
		countX: number({
			label: 'Count along x',
			help: 'Points along x.',
			default: 5,
			min: 0,
			slider: [1, 50],
			whole: true
		}),
		countY: number({
			label: 'Count along y',
			help: 'Layers upward; 1 keeps the grid flat.',
			default: 1,
			min: 0,
			slider: [1, 50],
			whole: true
		}),
		countZ: number({
			label: 'Count along z',
			help: 'Points along z; 1 leaves a row.',
			default: 5,
			min: 0,
			slider: [1, 50],
			whole: true
		}),
		by: choice({
			label: 'By',
			help: 'Which of the two you give.',
			default: 'spacing',
			options: [
				{ id: 'spacing', label: 'Spacing' },
				{ id: 'size', label: 'Total size' }
			]
		}),
		spacing: vector({
			label: 'Spacing',
			help: 'From one point to the next along each axis.',
			default: [1, 1, 1],
			unit: 'm',
			when: (s) => s.by === 'spacing'
		}),
		size: vector({
			label: 'Total size',
			help: 'From the first to the last point along each axis.',
			default: [4, 4, 4],
			unit: 'm',
			when: (s) => s.by === 'size'
		}),
		stagger: number({
			label: 'Row offset',
			help: 'Every other row along z is moved by this fraction of the spacing along x; 0.5 as for bricks.',
			default: 0,
			min: 0,
			max: 1,
			step: 0.05
		}),
		centred: yesNo({
			label: 'Centred',
			help: 'The middle of the grid lies at the origin; otherwise its first corner does.',
			default: true
		})
	},
	outputs: { points: output('geometry', 'Points', 'The points, with column, layer and row.') },
	entries: [
		{
			name: 'Hexagonal grid',
			words: ['honeycomb', 'triangular', 'hex'],
			settings: { stagger: 0.5, spacing: [1, 1, HEXAGONAL] }
		},
		{
			name: 'Brick pattern',
			words: ['bond', 'wall', 'masonry'],
			settings: { countX: 10, countY: 1, countZ: 10, stagger: 0.5, spacing: [0.25, 1, 0.08] }
		}
	],
	estimate: ({ countX, countY, countZ }) => ({
		elements: countX * countY * countZ,
		of: 'points',
		lower: 'Lower the counts.'
	}),
	run({ countX, countY, countZ, by, spacing, size, stagger, centred }) {
		const counts = [countX, countY, countZ];
		const step = counts.map((count, k) =>
			by === 'spacing' ? spacing[k] : count > 1 ? size[k] / (count - 1) : 0
		);
		const n = countX * countY * countZ;
		const low = counts.map((count, k) => (centred ? (-step[k] * (count - 1)) / 2 : 0));
		if (centred && countZ > 1) low[0] -= (stagger * step[0]) / 2;
		const position = allocate('float', 3 * n);
		const columns = allocate('int', n),
			layers = allocate('int', n),
			rows = allocate('int', n);
		let i = 0;
		// Where one of the counts is 0 there is nothing to go through, however large the others are.
		for (let y = 0; y < (n ? countY : 0); y++)
			for (let z = 0; z < countZ; z++)
				for (let x = 0; x < countX; x++, i++) {
					pollAt(i);
					position[3 * i] = low[0] + step[0] * (x + (z % 2 ? stagger : 0));
					position[3 * i + 1] = low[1] + step[1] * y;
					position[3 * i + 2] = low[2] + step[2] * z;
					columns[i] = x;
					layers[i] = y;
					rows[i] = z;
				}
		const int = (data: Int32Array) => column('int', 'id', data);
		const table = makeTable(n, {
			position: column('vec3', 'position', position),
			column: int(columns),
			layer: int(layers),
			row: int(rows)
		});
		// What Measure tells of a grid.
		const whole = makeTable(1, {
			cell: column('vec3', 'plain', Float32Array.from(step)),
			cells: column('vec3', 'plain', Float32Array.from(counts))
		});
		return { points: geometryOf({ points: { points: table }, whole }) };
	}
});
