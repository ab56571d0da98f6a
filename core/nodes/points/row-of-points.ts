import { allocate, column, geometryOf, makeTable, pollAt } from '../../geometry/index.ts';
import { choice, defineNode, number, output, vector, yesNo } from '../define.ts';

export const rowOfPoints = defineNode({
	id: 'row-of-points',
	version: 1,
	name: 'Row of points',
	family: 'points',
	words: ['linear', 'array', 'line', 'repeat', 'series', 'stack', 'bay', 'fence'],
	help: 'Points in a straight row, by the distance between them or by the length of the whole row.',
	inputs: {
		count: number({
			label: 'Count',
			help: 'How many points.',
			default: 10,
			min: 0,
			slider: [1, 100],
			whole: true
		}),
		by: choice({
			label: 'By',
			help: 'Which of the two lengths you give.',
			default: 'spacing',
			options: [
				{ id: 'spacing', label: 'Spacing' },
				{ id: 'length', label: 'Total length' }
			]
		}),
		spacing: number({
			label: 'Spacing',
			help: 'From one point to the next.',
			default: 1,
			slider: [0, 10],
			unit: 'm',
			when: (s) => s.by === 'spacing'
		}),
		length: number({
			label: 'Total length',
			help: 'From the first point to the last.',
			default: 10,
			slider: [0, 50],
			unit: 'm',
			when: (s) => s.by === 'length'
		}),
		direction: vector({
			label: 'Direction',
			help: 'Where the row leads; only its direction counts.',
			default: [1, 0, 0]
		}),
		centred: yesNo({
			label: 'Centred',
			help: 'The middle of the row lies at the origin; otherwise its first point does.',
			default: false
		})
	},
	outputs: { points: output('geometry', 'Points', 'The points, with u from 0 to 1 along the row.') },
	estimate: ({ count }) => ({ elements: count, of: 'points', lower: 'Lower “Count”.' }),
	run({ count, by, spacing, length, direction, centred }, context) {
		const step = by === 'spacing' ? spacing : count > 1 ? length / (count - 1) : 0;
		const size = Math.sqrt(
			direction[0] * direction[0] + direction[1] * direction[1] + direction[2] * direction[2]
		);
		if (!(size > 0)) context.warn('“Direction” has no length; the row leads along x.');
		const unit = size > 0 ? direction.map((x) => x / size) : [1, 0, 0];
		const start = centred ? (-step * (count - 1)) / 2 : 0;
		const position = allocate('float', 3 * count),
			u = allocate('float', count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			for (let k = 0; k < 3; k++) position[3 * i + k] = unit[k] * (start + i * step);
			u[i] = count > 1 ? i / (count - 1) : 0;
		}
		return {
			points: geometryOf({
				points: {
					points: makeTable(count, {
						position: column('vec3', 'position', position),
						u: column('float', 'plain', u)
					})
				}
			})
		};
	}
});
