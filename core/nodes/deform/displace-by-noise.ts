import { mix } from '../../math/index.ts';
import { floats, tableOf, allocate, pollAt } from '../../geometry/index.ts';
import { constant, operate, vector as vectorOf } from '../../varying/index.ts';
import { choice, defineNode, geometry, number, output, vector } from '../define.ts';
import { withMoved } from './deform-tools.ts';
import { normalsForMoving } from './displace.ts';
import { noiseInputs, placeInNoise } from '../values/noise-inputs.ts';
import { weightInputs, weightsOn } from '../weights/weight-tools.ts';

export const displaceByNoise = defineNode({
	id: 'displace-by-noise',
	version: 1,
	name: 'Displace by noise',
	family: 'deform',
	words: ['turbulence', 'rough', 'crumple', 'wobble', 'terrain', 'jitter', 'deform', 'distort'],
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
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its points moved.') },
	seeded: true,
	run({ geometry, along, amount, direction, size, octaves, gain, offset, seed, ...given }, context) {
		const [first, second] = context.stream();
		const place = placeInNoise(size, offset);
		const noise = (axis: number) =>
			operate(
				'fractal',
				[place, constant(octaves), constant(2), constant(gain)],
				mix(mix(mix(first, second), seed), axis)
			);
		let out = geometry;
		for (const part of ['mesh', 'curves', 'points', 'copies'] as const) {
			const kind = part === 'copies' ? 'copy' : 'point';
			const table = tableOf(geometry, part, kind);
			if (!table?.count) continue;
			const where = { geometry, part, kind } as const;
			const weights = weightsOn(context, given, where);
			const p = floats(table, 'position');
			const moved = allocate('float', p.length);
			if (along === 'every') {
				const steps = context.vectors(vectorOf(noise(0), noise(1), noise(2)), where);
				for (let k = 0; k < p.length; k++) {
					pollAt(k);
					moved[k] = p[k] + steps[k] * amount * weights[(k / 3) | 0];
				}
			} else {
				const far = context.numbers(noise(0), where);
				const ways =
					along === 'normal'
						? normalsForMoving(geometry, part, table, context.warn)
						: context.vectors(
								operate('normalize', [vectorOf(direction[0], direction[1], direction[2])]),
								where
							);
				for (let i = 0; i < table.count; i++) {
					pollAt(i);
					for (let k = 3 * i; k < 3 * i + 3; k++) moved[k] = p[k] + ways[k] * far[i] * amount * weights[i];
				}
			}
			out = withMoved(out, part, kind, moved);
		}
		return { geometry: out };
	}
});
