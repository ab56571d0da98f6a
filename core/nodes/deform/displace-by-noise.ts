import { mix } from '../../math/index.ts';
import type { Table } from '../../geometry/index.ts';
import { pollAt } from '../../geometry/index.ts';
import { normalsForMoving } from '../../kernels/normals-for-moving.ts';
import { operate, vector as vectorOf } from '../../varying/index.ts';
import type { Where } from '../define.ts';
import { choice, defineNode, geometry, number, output, vector } from '../define.ts';
import { movePoints } from './deform-tools.ts';
import {
	MOVED_BY,
	driftAt,
	driftInputs,
	drifting,
	noiseInputs,
	placeInNoise
} from '../values/noise-inputs.ts';
import { weightInputs } from '../weights/weight-tools.ts';

export const displaceByNoise = defineNode({
	id: 'displace-by-noise',
	version: 1,
	name: 'Displace by noise',
	family: 'deform',
	words: [
		'turbulence',
		'rough',
		'crumple',
		'wobble',
		'terrain',
		'jitter',
		'deform',
		'distort',
		'uneven',
		'bark'
	],
	help: 'Moves points by a fractal noise: along their normals, along a direction, or every way at once. Copies move as wholes.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What is moved.', needs: 'anything' }),
		along: choice({
			label: 'Along',
			help: 'Which way points go.',
			default: 'normal',
			options: [
				{ id: 'normal', label: 'Normals' },
				{ id: 'direction', label: 'A direction' },
				{ id: 'every', label: 'Every way' }
			]
		}),
		amount: number({
			label: 'Amount',
			help: 'The farthest that a point goes, to either side.',
			default: 0.2,
			slider: [0, 2],
			step: 0.01,
			unit: 'm'
		}),
		direction: vector({
			label: 'Direction',
			help: 'Only its direction counts.',
			default: [0, 1, 0],
			when: (s) => s.along === 'direction'
		}),
		...noiseInputs,
		...driftInputs,
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its points moved.') },
	seeded: true,
	timed: MOVED_BY,
	run({ geometry, along, amount, direction, size, octaves, gain, offset, seed, ...more }, context) {
		const [first, second] = context.stream();
		const { drift, speed, loop, hold, ...given } = more;
		const place = placeInNoise(size, offset);
		const moving = driftAt({ drift, speed, loop, hold }, context.moment);
		const noise = (axis: number) =>
			drifting('fractal', place, [octaves, 2, gain], moving, mix(mix(mix(first, second), seed), axis));
		const waysOn = (where: Where, table: Table) =>
			along === 'normal'
				? normalsForMoving(geometry, where.part, table, context.warn)
				: context.vectors(operate('normalize', [vectorOf(direction[0], direction[1], direction[2])]), where);
		const out = movePoints(geometry, given, context, ({ where, table, weights, p, moved }) => {
			if (along === 'every') {
				const steps = context.vectors(vectorOf(noise(0), noise(1), noise(2)), where);
				for (let k = 0; k < p.length; k++) {
					pollAt(k);
					moved[k] = p[k] + steps[k] * amount * weights[(k / 3) | 0];
				}
				return;
			}
			const far = context.numbers(noise(0), where);
			const ways = waysOn(where, table);
			for (let i = 0; i < far.length; i++) {
				pollAt(i);
				for (let k = 3 * i; k < 3 * i + 3; k++) moved[k] = p[k] + ways[k] * far[i] * amount * weights[i];
			}
		});
		return { geometry: out };
	}
});
