import { allocate, column, geometryOf, makeTable, pollAt, withColumns } from '../../geometry/index.ts';
import { chainPlaces } from '../../kernels/chain-places.ts';
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
		const u = allocate('float', count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			u[i] = count > 1 ? i / (count - 1) : 0;
		}
		const copies = withColumns(
			makeTable(count, {
				source: column('int', 'id', allocate('int', count)),
				u: column('float', 'plain', u)
			}),
			chainPlaces(count, { moves, turns, scales }).columns()
		);
		return { copies: geometryOf({ copies: { copies, sources: [source] } }) };
	}
});
