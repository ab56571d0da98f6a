import { PI, TAU, cos, sin } from '../../math/index.ts';
import { boundsOf, digestOf, poll } from '../../geometry/index.ts';
import type { Geometry } from '../../geometry/index.ts';
import { treeOfMesh } from '../../kernels/nearest.ts';
import { constant, defineField, fieldAt } from '../../varying/index.ts';
import { defineNode, geometry, number } from '../define.ts';
import { weightOutput } from './weight-tools.ts';

export const weightByOpenness = defineNode({
	id: 'weight-by-openness',
	version: 1,
	name: 'Weight by openness',
	family: 'weights',
	words: ['overhang', 'sky', 'exposure', 'occlusion', 'shelter', 'snow', 'dirt', 'moss', 'falloff', 'mask'],
	help: 'How open to the sky a place is: 1 where nothing lies above, 0 under a roof or an overhang.',
	renamed: [{ before: 2, inputs: { spread: 'coneAngle', looks: 'rays' } }],
	inputs: {
		object: geometry({ label: 'Object', help: 'The mesh that may lie above.', needs: 'mesh' }),
		coneAngle: number({
			label: 'Cone angle',
			help: 'How far from straight up the rays go. 0 looks straight up only.',
			default: 30,
			min: 0,
			max: 89,
			unit: '°'
		}),
		rays: number({
			label: 'Rays',
			help: 'How many ways each element looks. More is smoother and slower.',
			default: 16,
			min: 1,
			max: 256,
			whole: true,
			when: (s) => s.coneAngle !== 0
		}),
		reach: number({
			label: 'Reach',
			help: 'What lies farther above does not count.',
			default: 100,
			min: 0.001,
			slider: [0.1, 100],
			unit: 'm'
		})
	},
	outputs: { weight: weightOutput },
	run({ object, coneAngle, rays, reach }, context) {
		if (!object.mesh!.faces.count) {
			context.warn('The object has no faces, so everything is open.');
			return { weight: constant(1) };
		}
		return { weight: fieldAt(openness(object, coneAngle, coneAngle === 0 ? 1 : rays, reach)) };
	}
});

interface Openness extends Readonly<Record<string, unknown>> {
	readonly object: Geometry;
	readonly coneAngle: number;
	readonly rays: number;
	readonly reach: number;
}

const openness = (object: Geometry, coneAngle: number, rays: number, reach: number) =>
	opennessField(`${digestOf(object)} ${coneAngle} ${rays} ${reach}`, { object, coneAngle, rays, reach });

/** Rays spread evenly over the cap of a sphere, turn by the golden angle; the same for every element. */
const opennessField = defineField('openness', ({ object, coneAngle, rays, reach }: Openness) => {
	const tree = treeOfMesh(object.mesh!);
	const box = boundsOf(object)!;
	const size = Math.max(...[0, 1, 2].map((k) => box.high[k] - box.low[k]));
	const least = 1e-5 * size;
	const lowest = cos((coneAngle * PI) / 180);
	const ways = Array.from({ length: rays }, (_, i) => {
		const y = rays === 1 ? 1 : 1 - ((i + 0.5) / rays) * (1 - lowest);
		const flat = Math.sqrt(Math.max(0, 1 - y * y));
		const angle = i * TAU * 0.3819660112501051;
		return [flat * cos(angle), y, flat * sin(angle)] as const;
	});
	return (n, out, x, y, z) => {
		for (let i = 0; i < n; i++) {
			poll();
			let open = 0;
			for (const [dx, dy, dz] of ways) if (!tree.meets(x[i], y[i], z[i], dx, dy, dz, least, reach)) open++;
			out[i] = open / rays;
		}
	};
});
