import { matrix, transformGeometry } from '../geometry/index.ts';
import { defineNode, geometry, output, vector } from './define.ts';

export const transform = defineNode({
	id: 'transform',
	version: 1,
	name: 'Transform',
	family: 'deform',
	words: ['move', 'rotate', 'scale', 'translate', 'position', 'mirror'],
	help: 'Moves, rotates and scales everything: first the scale, then the rotation, then the move, about a pivot.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What is moved, copies too.', needs: 'anything' }),
		move: vector({ label: 'Move', help: 'Along the world’s axes.', default: [0, 0, 0], unit: 'm' }),
		rotate: vector({
			label: 'Rotate',
			help: 'About the world’s axes x, then y, then z.',
			default: [0, 0, 0],
			unit: '°',
			step: 1
		}),
		scale: vector({
			label: 'Scale',
			help: 'A negative number mirrors.',
			default: [1, 1, 1],
			unit: '×',
			step: 0.01,
			uniform: true
		}),
		pivot: vector({
			label: 'Pivot',
			help: 'The place that rotation and scale leave where it is.',
			default: [0, 0, 0],
			unit: 'm'
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same in its new place.') },
	handles: { move: 'move', rotate: 'rotate', scale: 'scale', pivot: 'pivot' },
	run: ({ geometry, move, rotate, scale, pivot }) => ({
		geometry: transformGeometry(geometry, matrix.affineFrom(move, rotate, scale, pivot))
	})
});
