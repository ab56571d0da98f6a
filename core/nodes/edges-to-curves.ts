import { PI, cos } from '../math/index.ts';
import {
	allocate,
	column,
	derive,
	edgesOf,
	EMPTY,
	faceNormals,
	gatherTable,
	makeTable,
	shapeOf,
	scratch,
	pollAt
} from '../geometry/index.ts';
import type { Curves, Mesh } from '../geometry/index.ts';
import { choice, defineNode, geometry, number, output } from './define.ts';

export const edgesToCurves = defineNode({
	id: 'edges-to-curves',
	version: 1,
	name: 'Edges to curves',
	family: 'curves',
	words: ['wireframe', 'outline', 'border', 'feature lines', 'mesh edges', 'spline', 'path'],
	help: 'Edges of a mesh as curves: all of them, the open border, sharp ones, or where a weight says. Edges that follow one another become one curve.',
	inputs: {
		mesh: geometry({ label: 'Mesh', help: 'The mesh whose edges are taken.', needs: 'mesh' }),
		which: choice({
			label: 'Which',
			help: 'Which edges are taken.',
			default: 'border',
			options: [
				{ id: 'all', label: 'All' },
				{ id: 'border', label: 'The border' },
				{ id: 'angle', label: 'Sharp ones' },
				{ id: 'weight', label: 'By a weight' }
			]
		}),
		angle: number({
			label: 'Angle',
			help: 'Edges between faces that turn by more than this.',
			default: 30,
			min: 0,
			max: 180,
			unit: '°',
			when: (s) => s.which === 'angle'
		}),
		weight: number({
			label: 'Weight',
			help: 'Edges with more than a half are taken.',
			default: 1,
			min: 0,
			max: 1,
			step: 0.01,
			varies: 'edge',
			when: (s) => s.which === 'weight'
		})
	},
	outputs: { curve: output('geometry', 'Curve', 'The edges.') },
	run({ mesh: source, which, angle, weight }, context) {
		const mesh = source.mesh!;
		const { uses } = edgesOf(mesh.topology);
		let taken: (e: number) => boolean;
		if (which === 'all') taken = () => true;
		else if (which === 'border') taken = (e) => uses[e] === 1;
		else if (which === 'weight') {
			const weights = context.numbers(weight, { geometry: source, part: 'mesh', kind: 'edge' });
			taken = (e) => weights[e] > 0.5;
		} else {
			const turns = cosinesOf(mesh);
			const least = cos((angle * PI) / 180);
			taken = (e) => uses[e] !== 2 || turns[e] < least;
		}
		return { curve: { ...EMPTY, curves: chains(mesh, taken) } };
	}
});

/** The cosine between the two faces of each edge; 1 where there are not two. */
function cosinesOf(mesh: Mesh): Float32Array {
	return derive(shapeOf(mesh), 'cosines of edges', () => {
		const { ofCorner, uses } = edgesOf(mesh.topology);
		const normals = faceNormals(mesh);
		const { faceStarts } = mesh.topology;
		const first = scratch('int', uses.length).fill(-1);
		const out = scratch('float', uses.length).fill(1);
		for (let f = 0; f + 1 < faceStarts.length; f++) {
			pollAt(f);
			for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
				const e = ofCorner[c];
				const g = first[e];
				if (g < 0) first[e] = f;
				else
					out[e] =
						normals[3 * f] * normals[3 * g] +
						normals[3 * f + 1] * normals[3 * g + 1] +
						normals[3 * f + 2] * normals[3 * g + 2];
			}
		}
		return out;
	});
}

/** Runs of edges from branching points or ends; what is left are loops. */
function chains(mesh: Mesh, taken: (e: number) => boolean): Curves {
	const { points, uses } = edgesOf(mesh.topology);
	const at: number[][] = Array.from({ length: mesh.topology.pointCount }, () => []);
	const open = scratch('byte', uses.length);
	for (let e = 0; e < uses.length; e++) {
		pollAt(e);
		if (taken(e)) {
			open[e] = 1;
			at[points[2 * e]].push(e);
			at[points[2 * e + 1]].push(e);
		}
	}
	const rows: number[] = [],
		starts = [0],
		closed: number[] = [];
	const follow = (start: number, edge: number) => {
		const run = [start];
		for (let e: number | undefined = edge, p = start; e !== undefined;) {
			open[e] = 0;
			p = points[2 * e] === p ? points[2 * e + 1] : points[2 * e];
			run.push(p);
			e = at[p].length === 2 ? at[p].find((other) => open[other]) : undefined;
		}
		const loop = run.length > 3 && run[0] === run[run.length - 1];
		rows.push(...(loop ? run.slice(0, -1) : run));
		starts.push(rows.length);
		closed.push(loop ? 1 : 0);
	};
	for (let p = 0; p < at.length; p++) {
		pollAt(p);
		if (at[p].length !== 2) for (const e of at[p]) if (open[e]) follow(p, e);
	}
	for (let e = 0; e < uses.length; e++) {
		pollAt(e);
		if (open[e]) follow(points[2 * e], e);
	}
	const flags = allocate('byte', closed.length);
	flags.set(closed);
	return {
		points: gatherTable(mesh.points, rows),
		curves: makeTable(closed.length, { closed: column('bool', 'plain', flags) }),
		starts: Uint32Array.from(starts)
	};
}
