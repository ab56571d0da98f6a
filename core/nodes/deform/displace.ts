import { NodeError, quaternion } from '../../math/index.ts';
import type { Geometry, Part, Table } from '../../geometry/index.ts';
import { allocate, floats, pointNormals, tableOf, pollAt, setInPieces } from '../../geometry/index.ts';
import { treesOf } from '../../kernels/nearest.ts';
import type { Nearest } from '../../kernels/primitives.ts';
import { withMoved } from './deform-tools.ts';
import { choice, defineNode, geometry, number, output, value, vector, yesNo } from '../define.ts';
import { weightInputs, weightsOn } from '../weights/weight-tools.ts';

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
		let out = geometry;
		for (const part of ['mesh', 'curves', 'points', 'copies'] as const) {
			const kind = part === 'copies' ? 'copy' : 'point';
			const table = tableOf(geometry, part, kind);
			if (!table?.count) continue;
			const where = { geometry, part, kind } as const;
			const weights = weightsOn(context, given, where);
			const p = floats(table, 'position');
			const moved = allocate('float', p.length);
			if (nearest) {
				const normals =
					along === 'distance' && inward ? normalsForMoving(geometry, part, table, () => {}) : null;
				moveByObject(p, moved, weights, nearest, {
					along,
					far: context.numbers(along === 'distance' ? distance : amount, where),
					normals
				});
			} else {
				const far = context.numbers(amount, where);
				const ways =
					along === 'vector'
						? context.vectors(vector, where)
						: along === 'normal'
							? normalsForMoving(geometry, part, table, context.warn)
							: null;
				const unit = direction.map((x) => (size > 0 ? x / size : 0));
				for (let i = 0; i < table.count; i++) {
					pollAt(i);
					for (let k = 0; k < 3; k++)
						moved[3 * i + k] = p[3 * i + k] + far[i] * weights[i] * (ways ? ways[3 * i + k] : unit[k]);
				}
			}
			out = withMoved(out, part, kind, moved);
		}
		return { geometry: out };
	}
});

const TO_OBJECT = new Set(['away', 'towards', 'onto', 'distance']);

/** Finds the nearest place on any part of a geometry. */
function nearestOn(object: Geometry): (x: number, y: number, z: number) => Nearest | null {
	const trees = treesOf(object);
	return (x, y, z) => {
		let best: Nearest | null = null;
		for (const tree of trees) {
			const found = tree.nearest(x, y, z);
			if (!best || found.distance < best.distance) best = found;
		}
		return best;
	};
}

interface ByObject {
	along: string;
	/** How far, or the distance to keep. */
	far: Float32Array;
	/** Where only inward moves count. */
	normals: Float32Array | null;
}

/** Points go by the nearest place on an object. One that lies exactly on it goes inward along its normal, or stays. */
function moveByObject(
	p: Float32Array,
	moved: Float32Array,
	weights: Float32Array,
	nearest: (x: number, y: number, z: number) => Nearest | null,
	{ along, far, normals }: ByObject
): void {
	setInPieces(moved, p);
	for (let i = 0, o = 0; o < p.length; i++, o += 3) {
		pollAt(16 * i);
		if (weights[i] === 0) continue;
		const found = nearest(p[o], p[o + 1], p[o + 2]);
		if (!found) return;
		let wx = p[o] - found.x,
			wy = p[o + 1] - found.y,
			wz = p[o + 2] - found.z;
		const d = Math.sqrt(wx * wx + wy * wy + wz * wz);
		let step: number;
		if (along === 'onto') step = -d;
		else if (along === 'distance') {
			if (d >= far[i]) continue;
			step = far[i] - d;
		} else step = along === 'away' ? far[i] : -Math.min(far[i], d);
		if (d > 0) {
			wx /= d;
			wy /= d;
			wz /= d;
		} else if (normals) {
			wx = -normals[o];
			wy = -normals[o + 1];
			wz = -normals[o + 2];
		} else continue;
		if (normals && wx * normals[o] + wy * normals[o + 1] + wz * normals[o + 2] > 0) continue;
		moved[o] = p[o] + wx * step * weights[i];
		moved[o + 1] = p[o + 1] + wy * step * weights[i];
		moved[o + 2] = p[o + 2] + wz * step * weights[i];
	}
}

/** The normals along which the points of a part go; upward where it has none. */
export function normalsForMoving(
	geometry: Geometry,
	part: Part,
	table: Table,
	warn: (message: string) => void
): Float32Array {
	if (part === 'mesh') return pointNormals(geometry.mesh!);
	const own = table.columns.get('normal');
	if (own?.type === 'vec3') return own.data as Float32Array;
	const normals = allocate('float', 3 * table.count);
	const turns = table.columns.get('orientation')?.data;
	if (!turns) {
		warn(`${part === 'curves' ? 'Curves' : 'These points'} have no normals; they were moved upward.`);
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			normals[3 * i + 1] = 1;
		}
	} else
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			quaternion.rotate(
				normals,
				3 * i,
				turns[4 * i],
				turns[4 * i + 1],
				turns[4 * i + 2],
				turns[4 * i + 3],
				0,
				1,
				0
			);
		}
	return normals;
}
