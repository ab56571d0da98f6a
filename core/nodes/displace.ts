import { quaternion } from '../math/index.ts';
import type { Geometry, Part, Table } from '../geometry/index.ts';
import { allocate, pointNormals, tableOf, withPositions, withTable } from '../geometry/index.ts';
import { choice, defineNode, geometry, number, output, value, vector } from './define.ts';

export const displace = defineNode({
	id: 'displace',
	version: 1,
	name: 'Displace',
	family: 'deform',
	words: ['push', 'inflate', 'height', 'terrain', 'bump', 'offset', 'deform', 'noise'],
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
				{ id: 'vector', label: 'A vector each' }
			]
		}),
		amount: number({
			label: 'Amount',
			help: 'How far, or how many times the vector.',
			default: 1,
			slider: [-2, 2],
			step: 0.01,
			unit: 'm',
			varies: 'point'
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
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with its points moved.') },
	run({ geometry, along, amount, direction, vector }, context) {
		let out = geometry;
		for (const part of ['mesh', 'curves', 'points', 'copies'] as const) {
			const kind = part === 'copies' ? 'copy' : 'point';
			const table = tableOf(geometry, part, kind);
			if (!table) continue;
			const where = { geometry, part, kind } as const;
			const far = context.numbers(amount, where);
			const ways =
				along === 'vector'
					? context.vectors(vector, where)
					: along === 'normal'
						? normalsOf(geometry, part, table, context.warn)
						: null;
			const size = Math.sqrt(
				direction[0] * direction[0] + direction[1] * direction[1] + direction[2] * direction[2]
			);
			if (!ways && !(size > 0)) context.warn('“Direction” has no length, so nothing was moved.');
			const unit = direction.map((x) => (size > 0 ? x / size : 0));
			const p = table.columns.get('position')!.data;
			const moved = allocate('float', p.length);
			for (let i = 0; i < table.count; i++)
				for (let k = 0; k < 3; k++)
					moved[3 * i + k] = p[3 * i + k] + far[i] * (ways ? ways[3 * i + k] : unit[k]);
			const columns = withPositions(table, moved);
			// Corner normals that were imported no longer fit the shape.
			if (part === 'mesh' && out.mesh?.corners.columns.has('normal')) {
				const corners = new Map(out.mesh.corners.columns);
				corners.delete('normal');
				out = { ...out, mesh: { ...out.mesh, corners: { ...out.mesh.corners, columns: corners } } };
			}
			out = withTable(out, part, kind, columns);
		}
		return { geometry: out };
	}
});

function normalsOf(
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
		for (let i = 0; i < table.count; i++) normals[3 * i + 1] = 1;
	} else
		for (let i = 0; i < table.count; i++)
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
	return normals;
}
