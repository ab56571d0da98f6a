import { NodeError } from '../../math/index.ts';
import { pollAt } from '../../geometry/index.ts';
import type { AlongObject } from '../../kernels/move-by-object.ts';
import { moveByObject, nearestOn } from '../../kernels/move-by-object.ts';
import { normalsForMoving } from '../../kernels/normals-for-moving.ts';
import { choice, defineNode, geometry, number, output, value, vector, yesNo } from '../define.ts';
import { weightInputs } from '../weights/weight-tools.ts';
import { movePoints } from './deform-tools.ts';

export const displace = defineNode({
	id: 'displace',
	version: 1,
	name: 'Displace',
	family: 'deform',
	words: [
		'push',
		'inflate',
		'displacement',
		'heightmap',
		'terrain',
		'bump',
		'offset',
		'deform',
		'distort',
		'wave',
		'ripple',
		'jitter'
	],
	help: 'Moves points along their normals, along a direction, or by a vector of their own. Wire a Noise value into Amount to make a landscape.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'The points of meshes and curves, loose points, or whole copies.',
			needs: 'anything'
		}),
		along: choice({
			label: 'Along',
			help: 'Which way points go.',
			default: 'normal',
			options: [
				{ id: 'normal', label: 'Normals' },
				{ id: 'direction', label: 'A direction' },
				{ id: 'vector', label: 'A vector each' },
				{ id: 'away', label: 'Away from an object' },
				{ id: 'towards', label: 'Towards an object' },
				{ id: 'onto', label: 'Onto an object' },
				{ id: 'distance', label: 'To a distance' }
			]
		}),
		object: geometry({
			label: 'Object',
			help: 'A mesh, curves or points that points go away from, towards or onto.',
			optional: true,
			when: (s: Record<string, unknown>) => TO_OBJECT.has(s.along as string)
		}),
		distance: number({
			label: 'Distance',
			help: 'Points nearer to the object than this are moved out to it: a groove for a rope of this radius.',
			default: 0.1,
			min: 0,
			slider: [0, 2],
			step: 0.01,
			unit: 'm',
			varies: 'point',
			when: (s) => s.along === 'distance'
		}),
		inward: yesNo({
			label: 'Inward only',
			help: 'Only points that would go into the surface are moved, so that an object below it makes no ridge.',
			default: true,
			when: (s) => s.along === 'distance'
		}),
		amount: number({
			label: 'Amount',
			help: 'How far, or how many times the vector.',
			default: 1,
			slider: [-2, 2],
			step: 0.01,
			unit: 'm',
			varies: 'point',
			when: (s) => s.along !== 'onto' && s.along !== 'distance'
		}),
		direction: vector({
			label: 'Direction',
			help: 'Only its direction counts.',
			default: [0, 1, 0],
			when: (s) => s.along === 'direction'
		}),
		vector: value({
			label: 'Vector',
			help: 'A vector for each point, from a wire or a formula such as vec(0, sin(position.x), 0).',
			default: 0,
			varies: 'point',
			when: (s) => s.along === 'vector'
		}),
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its points moved.') },
	run({ geometry, along, object, distance, inward, amount, direction, vector, ...given }, context) {
		const size = Math.sqrt(
			direction[0] * direction[0] + direction[1] * direction[1] + direction[2] * direction[2]
		);
		if (along === 'direction' && !(size > 0))
			context.warn('“Direction” has no length, so nothing was moved.');
		if (TO_OBJECT.has(along) && !object)
			throw new NodeError('Connect the object that points move by to “Object”.', { input: 'object' });
		const nearest = object && TO_OBJECT.has(along) ? nearestOn(object) : null;
		const unit = direction.map((x) => (size > 0 ? x / size : 0));
		const out = movePoints(geometry, given, context, ({ where, table, weights, p, moved }) => {
			const normals = (warn: (message: string) => void) =>
				normalsForMoving(geometry, where.part, table, warn);
			if (nearest)
				return moveByObject(p, moved, weights, nearest, {
					along: along as AlongObject,
					far: context.numbers(along === 'distance' ? distance : amount, where),
					normals: along === 'distance' && inward ? normals(() => {}) : null
				});
			const far = context.numbers(amount, where);
			const ways =
				along === 'vector'
					? context.vectors(vector, where)
					: along === 'normal'
						? normals(context.warn)
						: null;
			for (let i = 0; i < far.length; i++) {
				pollAt(i);
				for (let k = 0; k < 3; k++)
					moved[3 * i + k] = p[3 * i + k] + far[i] * weights[i] * (ways ? ways[3 * i + k] : unit[k]);
			}
		});
		return { geometry: out };
	}
});

const TO_OBJECT = new Set(['away', 'towards', 'onto', 'distance']);
