import { cos, quaternion, sin } from '../../math/index.ts';
import { allocate, column, geometryOf, makeTable, pollAt } from '../../geometry/index.ts';
import { choice, defineNode, number, output } from '../define.ts';

export const ringOfPoints = defineNode({
	id: 'ring-of-points',
	version: 1,
	name: 'Ring of points',
	family: 'points',
	words: ['radial', 'circular', 'polar', 'array', 'around', 'arc'],
	help: 'Points at even angles round the origin, each turned to look outward, inward or along the ring.',
	inputs: {
		count: number({
			label: 'Count',
			help: 'How many points.',
			default: 12,
			min: 0,
			slider: [1, 100],
			whole: true
		}),
		radius: number({
			label: 'Radius',
			help: 'From the middle to the points.',
			default: 2,
			min: 0,
			slider: [0, 10],
			unit: 'm'
		}),
		from: number({
			label: 'From',
			help: 'The angle of the first point.',
			default: 0,
			slider: [-360, 360],
			unit: '°'
		}),
		sweep: number({
			label: 'Sweep',
			help: 'The angle that the points cover; 360 is the whole round.',
			default: 360,
			slider: [-360, 360],
			unit: '°'
		}),
		facing: choice({
			label: 'Facing',
			help: 'Where each point looks.',
			default: 'outward',
			options: [
				{ id: 'outward', label: 'Outward' },
				{ id: 'inward', label: 'Inward' },
				{ id: 'along', label: 'Along the ring' }
			]
		})
	},
	outputs: { points: output('geometry', 'Points', 'The points, with u from 0 to 1 round the ring.') },
	estimate: ({ count }) => ({ elements: count, of: 'points', lower: 'Lower “Count”.' }),
	run({ count, radius, from, sweep, facing }) {
		const whole = Math.abs(sweep) >= 360;
		const pieces = whole ? count : Math.max(1, count - 1);
		const position = allocate('float', 3 * count),
			orientation = allocate('float', 4 * count),
			u = allocate('float', count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			u[i] = count > 1 ? i / pieces : 0;
			const angle = quaternion.radians(from + sweep * u[i]);
			const x = cos(angle),
				z = -sin(angle);
			position.set([radius * x, 0, radius * z], 3 * i);
			const forward = facing === 'outward' ? [x, z] : facing === 'inward' ? [-x, -z] : [z, -x];
			quaternion.lookAlong(orientation, 4 * i, 0, 1, 0, forward[0], 0, forward[1]);
		}
		const table = makeTable(count, {
			position: column('vec3', 'position', position),
			orientation: column('vec4', 'orientation', orientation),
			u: column('float', 'plain', u)
		});
		return { points: geometryOf({ points: { points: table } }) };
	}
});
