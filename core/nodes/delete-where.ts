import { allocate, gatherTable, tableOf, withTable, scratch, pollAt } from '../geometry/index.ts';
import type { Geometry, Mesh } from '../geometry/index.ts';
import { choice, defineNode, geometry, number, output, yesNo } from './define.ts';
import { weightInputs, weightsOn } from './weight-tools.ts';

export const deleteWhere = defineNode({
	id: 'delete-where',
	version: 1,
	name: 'Delete where',
	family: 'meshes',
	words: ['remove', 'erase', 'filter', 'cull', 'select', 'keep where', 'prune', 'clip'],
	help: 'Takes away faces, points or copies where a weight is high. What stays keeps its identity, so random values stay with it.',
	renamed: [{ before: 2, inputs: { what: 'elements' } }],
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What is thinned.', needs: 'anything' }),
		elements: choice({
			label: 'Elements',
			help: 'Which elements go. Points that no face uses any more go with the faces.',
			default: 'face',
			options: [
				{ id: 'copy', label: 'Copies' },
				{ id: 'face', label: 'Faces' },
				{ id: 'point', label: 'Loose points' }
			]
		}),
		...weightInputs,
		weight: number({
			...weightInputs.weight,
			help: 'Elements with more than the threshold go. Wire a weight in, or type a formula.',
			default: 0,
			varies: 'face'
		}),
		threshold: number({
			label: 'Threshold',
			help: 'From which weight on elements go.',
			default: 0.5,
			min: 0,
			max: 1,
			step: 0.01
		}),
		invert: yesNo({ label: 'Invert', help: 'Only those above the threshold stay.', default: false })
	},
	outputs: { geometry: output('geometry', 'Geometry', 'What is left.') },
	run({ geometry, elements, weight, strength, weightAt, threshold, invert }, context) {
		const part = elements === 'face' ? 'mesh' : elements === 'copy' ? 'copies' : 'points';
		const kind = elements as 'face' | 'copy' | 'point';
		const table = tableOf(geometry, part, kind);
		if (!table) {
			context.warn(
				`There are no ${elements === 'copy' ? 'copies' : elements === 'face' ? 'faces' : 'loose points'} here.`
			);
			return { geometry };
		}
		const weights = weightsOn(context, { weight, strength, weightAt }, { geometry, part, kind });
		const rows: number[] = [];
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			if (weights[i] > threshold === invert) rows.push(i);
		}
		const kept = Uint32Array.from(rows);
		return {
			geometry:
				elements === 'face'
					? withFaces(geometry, kept)
					: withTable(geometry, part, kind, gatherTable(table, kept))
		};
	}
});

/** The mesh with some of its faces, and the points that they use. */
function withFaces(geometry: Geometry, kept: Uint32Array): Geometry {
	const mesh = geometry.mesh!;
	const { faceStarts, cornerPoints, pointCount } = mesh.topology;
	const starts = allocate('index', kept.length + 1);
	for (let f = 0; f < kept.length; f++) {
		pollAt(f);
		starts[f + 1] = starts[f] + faceStarts[kept[f] + 1] - faceStarts[kept[f]];
	}
	const corners = allocate('index', starts[kept.length]);
	const oldCorners = allocate('index', starts[kept.length]);
	const newPoint = scratch('int', pointCount).fill(-1);
	const points: number[] = [];
	for (let f = 0, k = 0; f < kept.length; f++) {
		pollAt(f);
		for (let c = faceStarts[kept[f]]; c < faceStarts[kept[f] + 1]; c++, k++) {
			const p = cornerPoints[c];
			if (newPoint[p] < 0) newPoint[p] = points.push(p) - 1;
			corners[k] = newPoint[p];
			oldCorners[k] = c;
		}
	}
	const out: Mesh = {
		topology: { pointCount: points.length, faceStarts: starts, cornerPoints: corners },
		points: gatherTable(mesh.points, points),
		faces: gatherTable(mesh.faces, kept),
		corners: gatherTable(mesh.corners, oldCorners),
		edges: null
	};
	return { ...geometry, mesh: out };
}
