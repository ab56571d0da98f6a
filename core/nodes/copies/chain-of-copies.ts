import { quaternion } from '../../math/index.ts';
import { allocate, column, geometryOf, makeTable, matrix, pollAt } from '../../geometry/index.ts';
import type { Varying } from '../../varying/index.ts';
import { operate, part, plainElements, vector as vectorOf } from '../../varying/index.ts';
import { defineNode, geometry, number, output, vector } from '../define.ts';

const ZERO = vectorOf(0, 0, 0);

export const chainOfCopies = defineNode({
	id: 'chain-of-copies',
	version: 1,
	name: 'Chain of copies',
	family: 'copies',
	words: ['duplicate', 'clone', 'staircase', 'array', 'repeat', 'linear', 'recursive', 'instances'],
	help: 'Copies that follow one another: each is moved, rotated and scaled from the last. A small turn each time makes a spiral stair.',
	renamed: [{ before: 2, inputs: { rotate: 'rotation' } }],
	inputs: {
		source: geometry({ label: 'Source', help: 'What is copied.', needs: 'anything' }),
		count: number({
			label: 'Count',
			help: 'How many copies, the first included.',
			default: 10,
			min: 0,
			slider: [1, 100],
			whole: true
		}),
		move: vector({
			label: 'Move',
			help: 'From one copy to the next, along the last one’s axes.',
			default: [1, 0, 0],
			unit: 'm',
			varies: 'copy'
		}),
		rotation: vector({
			label: 'Rotation',
			help: 'From one copy to the next, about the last one’s axes.',
			default: [0, 0, 0],
			unit: '°',
			step: 1,
			varies: 'copy'
		}),
		scale: vector({
			label: 'Scale',
			help: 'From one copy to the next.',
			default: [1, 1, 1],
			unit: '×',
			step: 0.01,
			varies: 'copy',
			uniform: true
		})
	},
	outputs: { copies: output('geometry', 'Copies', 'The copies, with u from 0 to 1 along the chain.') },
	handles: { move: 'move', rotate: 'rotation', scale: 'scale' },
	estimate: ({ count }) => ({ elements: count, of: 'copies', lower: 'Lower “Count”.' }),
	run({ source, count, move, rotation, scale }, context) {
		const on = plainElements(count);
		const parts = (value: Varying) =>
			[0, 1, 2].map((k) =>
				context.numbersOn(value.type === 'number' ? value : part(operate('add', [value, ZERO]), k), on)
			);
		const [moves, turns, scales] = [move, rotation, scale].map(parts);
		const position = allocate('float', 3 * count),
			orientation = allocate('float', 4 * count),
			sizes = allocate('float', 3 * count),
			u = allocate('float', count);
		let whole = matrix.identity();
		// Nine numbers each, for the case that some copy shears: only then are they handed on.
		const linears = allocate('float', 9 * count);
		let shears = false;
		const q = [0, 0, 0, 1];
		for (let i = 0; i < count; i++) {
			pollAt(i);
			if (i > 0) {
				quaternion.fromAngles(q, 0, turns[0][i], turns[1][i], turns[2][i]);
				whole = matrix.product(
					whole,
					matrix.compose([moves[0][i], moves[1][i], moves[2][i]], q, [
						scales[0][i],
						scales[1][i],
						scales[2][i]
					])
				);
			}
			for (let k = 0; k < 9; k++) linears[9 * i + k] = whole[k];
			u[i] = count > 1 ? i / (count - 1) : 0;
			for (let k = 0; k < 3; k++) position[3 * i + k] = whole[9 + k];
			const split = matrix.decompose(whole);
			if (split) {
				orientation.set(split.q, 4 * i);
				sizes.set(split.scale, 3 * i);
			} else {
				shears = true;
				orientation[4 * i + 3] = 1;
				sizes.fill(1, 3 * i, 3 * i + 3);
			}
		}
		const copies = makeTable(count, {
			position: column('vec3', 'position', position),
			orientation: column('vec4', 'orientation', orientation),
			scale: column('vec3', 'plain', sizes),
			source: column('int', 'id', allocate('int', count)),
			u: column('float', 'plain', u)
		});
		return { copies: geometryOf({ copies: { copies, sources: [source], linear: shears ? linears : null } }) };
	}
});
