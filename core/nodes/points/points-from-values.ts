import { allocate, geometryOf, makePoints, pollAt } from '../../geometry/index.ts';
import { plainElements } from '../../varying/index.ts';
import { defineNode, list, number, output } from '../define.ts';

export const pointsFromValues = defineNode({
	id: 'points-from-values',
	version: 1,
	name: 'Points from values',
	family: 'points',
	words: ['list', 'coordinates', 'function', 'graph of a function', 'plot'],
	help: 'A point for each value of a list, or for each number from 0 up to a count. Each coordinate may be a formula in index, such as cos(index / 4).',
	example: {
		settings: {
			count: 40,
			x: { formula: 'cos(index / 4)', streams: [] },
			y: { formula: 'index / 20', streams: [] },
			z: { formula: 'sin(index / 4)', streams: [] }
		}
	},
	inputs: {
		list: list({
			label: 'List',
			help: 'One point for each value; vectors become positions. Unwired: Count says how many.',
			optional: true
		}),
		count: number({
			label: 'Count',
			help: 'How many points, where no list is wired.',
			default: 20,
			min: 0,
			slider: [0, 500],
			whole: true
		}),
		x: number({
			label: 'x',
			help: 'A formula in index, or a wire.',
			default: 0,
			unit: 'm',
			varies: 'point',
			group: 'Position'
		}),
		y: number({ label: 'y', help: 'Height.', default: 0, unit: 'm', varies: 'point' }),
		z: number({ label: 'z', help: 'A formula in index, or a wire.', default: 0, unit: 'm', varies: 'point' })
	},
	outputs: { points: output('geometry', 'Points', 'The points.') },
	estimate: ({ list, count }) => ({
		elements: list ? list.data.length / list.width : count,
		of: 'points',
		lower: 'Lower “Count”.'
	}),
	run({ list, count, x, y, z }, context) {
		const n = list ? list.data.length / list.width : count;
		const positions = allocate('float', n * 3);
		const on = plainElements(n);
		[x, y, z].forEach((value, k) => {
			const numbers = context.numbersOn(value, on);
			for (let i = 0; i < n; i++) {
				pollAt(i);
				positions[3 * i + k] = numbers[i];
			}
		});
		if (list?.width === 3)
			for (let i = 0; i < positions.length; i++) {
				pollAt(i);
				positions[i] += list.data[i];
			}
		else if (list)
			for (let i = 0; i < n; i++) {
				pollAt(i);
				positions[3 * i] += list.data[i];
			}
		return { points: geometryOf({ points: makePoints(positions) }) };
	}
});
