import { NodeError, formatCount } from '../../math/index.ts';
import { allocate, boundsOf, geometryOf, positionsOf, pollAt } from '../../geometry/index.ts';
import { latticeMap } from '../../kernels/lattice.ts';
import { choice, defineNode, geometry, number, output } from '../define.ts';
import { deform } from './deform-tools.ts';
import { weightInputs } from '../weights/weight-tools.ts';

export const bendLattice = defineNode({
	id: 'bend-lattice',
	version: 1,
	name: 'Bend lattice',
	family: 'deform',
	words: ['cage', 'free form deformation', 'deform', 'warp', 'squash', 'control points'],
	help: 'Bends space with a box of control points. Make the box with “Grid of points” on three axes, change a copy of it with any node, and wire both in: what lies in the box follows.',
	renamed: [{ before: 2, inputs: { how: 'interpolation' } }],
	example: { wires: { geometry: 'fine', rest: 'cage', moved: 'turnedCage' } },
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What is bent. Copies move and turn with it.',
			needs: 'anything'
		}),
		rest: geometry({ label: 'Box', help: 'The control points where they were.', needs: 'points' }),
		moved: geometry({ label: 'Moved box', help: 'The same points where they are now.', needs: 'points' }),
		countX: number({
			label: 'Points along x',
			help: 'How many control points the box has.',
			default: 3,
			min: 2,
			max: 64,
			slider: [2, 8],
			whole: true
		}),
		countY: number({
			label: 'Points along y',
			help: 'How many control points the box has.',
			default: 3,
			min: 2,
			max: 64,
			slider: [2, 8],
			whole: true
		}),
		countZ: number({
			label: 'Points along z',
			help: 'How many control points the box has.',
			default: 3,
			min: 2,
			max: 64,
			slider: [2, 8],
			whole: true
		}),
		interpolation: choice({
			label: 'Interpolation',
			help: 'Smooth bends the whole box; linear goes straight from point to point.',
			default: 'smooth',
			options: [
				{ id: 'smooth', label: 'Smooth' },
				{ id: 'straight', label: 'Linear' }
			]
		}),
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same, bent.') },
	run({ geometry, rest, moved, countX, countY, countZ, interpolation, ...given }, context) {
		const from = positionsOf(rest.points!),
			to = positionsOf(moved.points!);
		const wanted = countX * countY * countZ;
		if (from.length !== 3 * wanted || to.length !== 3 * wanted)
			throw new NodeError(
				`${countX} × ${countY} × ${countZ} are ${formatCount(wanted)} control points; “Box” has ${formatCount(from.length / 3)} and “Moved box” ${formatCount(to.length / 3)}. Make the counts agree with those of “Grid of points”.`,
				{ input: from.length !== 3 * wanted ? 'rest' : 'moved' }
			);
		const moves = allocate('float', from.length);
		for (let k = 0; k < moves.length; k++) {
			pollAt(k);
			moves[k] = to[k] - from[k];
		}
		const box = boundsOf(geometryOf({ points: rest.points }))!;
		const map = latticeMap({
			counts: [countX, countY, countZ],
			box,
			moves,
			smooth: interpolation === 'smooth'
		});
		return { geometry: deform(geometry, given, context, map) };
	}
});
