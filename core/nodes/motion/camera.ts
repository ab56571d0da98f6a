import { geometryOf, makePoints } from '../../geometry/index.ts';
import { constant, operate, vector as vectorOf } from '../../varying/index.ts';
import { choice, defineNode, number, output, vector } from '../define.ts';

const triple = (v: readonly number[]) => vectorOf(v[0], v[1], v[2]);

export const camera = defineNode({
	id: 'camera',
	version: 1,
	name: 'Camera',
	family: 'motion',
	words: ['view', 'viewpoint', 'lens', 'shot', 'orthographic', 'perspective'],
	help: 'A place from which pictures and videos are taken: in perspective, or orthographic as a drawing. The View can look through it. Its settings take keys like any others; its place and direction go to other settings.',
	inputs: {
		place: vector({ label: 'Position', help: 'Where it stands.', default: [6, 4, 8], unit: 'm' }),
		target: vector({ label: 'Looks at', help: 'What it looks at.', default: [0, 1, 0], unit: 'm' }),
		lens: choice({
			label: 'Projection',
			help: 'Orthographic: what is far away is as large as what is near, as in a drawing.',
			default: 'lens',
			options: [
				{ id: 'lens', label: 'Perspective' },
				{ id: 'straight', label: 'Orthographic' }
			]
		}),
		angle: number({
			label: 'Angle of view',
			help: 'From the lower to the upper rim of the picture.',
			default: 40,
			min: 1,
			max: 150,
			slider: [5, 100],
			step: 1,
			unit: '°',
			when: (s) => s.lens === 'lens'
		}),
		height: number({
			label: 'Height shown',
			help: 'From the lower to the upper rim of the picture.',
			default: 6,
			min: 0.001,
			slider: [0.5, 50],
			unit: 'm',
			when: (s) => s.lens === 'straight'
		})
	},
	givesOne: true,
	outputs: {
		place: output('vector', 'Position', 'Where it stands, in metres.'),
		target: output('vector', 'Target', 'What it looks at.'),
		direction: output('vector', 'Direction', 'Where it looks, of length 1.'),
		angle: output('number', 'Angle of view', 'In degrees; 0 where it has no lens.'),
		height: output('number', 'Height shown', 'In metres; 0 where it has a lens.'),
		point: output('geometry', 'Point', 'A point where it stands.')
	},
	example: { then: ['place-copies', { follow: false }, { points: 'shown.point', source: 'post.mesh' }] },
	handles: { move: 'place' },
	run({ place, target, lens, angle, height }, context) {
		const isThere = place.some((x, k) => x !== target[k]);
		if (!isThere)
			context.warn('It stands where it looks at, so it sees nothing. Move it, or its target.', 'target');
		return {
			place: triple(place),
			target: triple(target),
			direction: isThere
				? operate('normalize', [operate('subtract', [triple(target), triple(place)])])
				: vectorOf(0, 0, -1),
			angle: constant(lens === 'lens' ? angle : 0),
			height: constant(lens === 'lens' ? 0 : height),
			point: geometryOf({ points: makePoints(Float32Array.from(place)) })
		};
	}
});
