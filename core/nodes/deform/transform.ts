import { NodeError } from '../../math/index.ts';
import type { Geometry, Table } from '../../geometry/index.ts';
import { matrix, tableOf, transformGeometry, withTable } from '../../geometry/index.ts';
import { curveSpaceMap } from '../../kernels/curve-space.ts';
import type { OnCopies, Shares } from '../../kernels/move-by-weight.ts';
import type { Varying } from '../../varying/index.ts';
import { copiesMovedOnTheirOwn, copiesResized } from '../../kernels/move-by-weight.ts';
import { framesBy, upInput } from '../curves/curve-tools.ts';
import type { Context, Where } from '../define.ts';
import { choice, defineNode, geometry, number, output, vector } from '../define.ts';
import type { Given } from './deform-tools.ts';
import { deform } from './deform-tools.ts';
import { movedByShares } from './moved-by-shares.ts';
import { swayAt, swayInputs } from './sway.ts';
import { product, weightInputs, weightsOn } from '../weights/weight-tools.ts';

/** How much of one of the three each element gets, beside its weight. */
const amount = (of: string, isFirst = false) =>
	number({
		label: `Of the ${of}`,
		help: `How much of the ${of} each gets, beside the weight.`,
		default: 1,
		slider: [-1, 1],
		step: 0.01,
		unit: '×',
		varies: 'point',
		when: (s) => s.about !== 'curve',
		...(isFirst && { group: 'Amounts' })
	});

const isOne = (of: Varying): boolean => of.op === 'constant' && of.value === 1;
const onCopiesOf = (geometry: Geometry): Where => ({ geometry, part: 'copies', kind: 'copy' });

export const transform = defineNode({
	id: 'transform',
	version: 1,
	name: 'Transform',
	family: 'deform',
	words: [
		'move',
		'rotate',
		'scale',
		'flip',
		'pivot',
		'symmetry',
		'mirror',
		'translate',
		'position',
		'deform',
		'sway',
		'swing'
	],
	help: 'Moves, rotates and scales: first the scale, then the rotation, then the move, about a pivot, about each copy’s own place, or in the space of a curve. A weight says how much of it each point or copy gets.',
	renamed: [{ before: 2, inputs: { rotate: 'rotation' } }],
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What is moved, copies too.', needs: 'anything' }),
		move: vector({
			label: 'Move',
			help: 'Along the world’s axes, or each copy’s own. On a curve: x to the right, y up from it, z along it.',
			default: [0, 0, 0],
			unit: 'm'
		}),
		rotation: vector({
			label: 'Rotation',
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
			unit: 'm',
			when: (s) => s.about === 'pivot'
		}),
		about: choice({
			label: 'About',
			help: 'Each own: every copy turns and grows where it stands, along its own axes. A curve: about the nearest place of it, along its way.',
			default: 'pivot',
			options: [
				{ id: 'pivot', label: 'The pivot' },
				{ id: 'own', label: 'Each copy’s own place' },
				{ id: 'curve', label: 'A curve' }
			]
		}),
		curve: geometry({
			label: 'Curve',
			help: 'The curve whose space is used.',
			optional: true,
			when: (s: Record<string, unknown>) => s.about === 'curve'
		}),
		curveUp: { ...upInput, when: (s: Record<string, unknown>) => s.about === 'curve' },
		onCopies: choice({
			label: 'On copies',
			help: 'What becomes of the rotation and scale that copies have: multiplied (on top of it), added to, or replaced.',
			default: 'multiply',
			options: [
				{ id: 'multiply', label: 'Multiply' },
				{ id: 'add', label: 'Add' },
				{ id: 'replace', label: 'Replace' }
			],
			when: (s) => s.about === 'own'
		}),
		...weightInputs,
		moveAmount: amount('move', true),
		turnAmount: amount('rotation'),
		sizeAmount: amount('scale'),
		...swayInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same in its new place.') },
	handles: { move: 'move', rotate: 'rotation', scale: 'scale', pivot: 'pivot' },
	// Elsewhere the numbers are not along the world's axes.
	handlesWhen: (s) => s.about === 'pivot',
	timed: ['sway'],
	run(settings, context) {
		const { geometry, move, rotation, scale, pivot, about, curve, curveUp, onCopies, ...more } = settings;
		const { weight, strength, weightAt, moveAmount, turnAmount, sizeAmount, ...swaying } = more;
		const given: Given = { weight, strength, weightAt, times: swayAt(swaying, context.moment) };
		const amounts = [moveAmount, turnAmount, sizeAmount];
		const sharesOn = (weights: Float32Array, where: Where): Shares => {
			const [m, r, s] = amounts.map((by) =>
				isOne(by) ? weights : product(weights, context.numbers(by, where))
			);
			return { move: m, rotation: r, scale: s };
		};
		if (about === 'curve') {
			const curves = curve?.curves;
			if (!curves?.points.count)
				throw new NodeError('There is no curve to move along. Wire one to “Curve”, or choose “The pivot”.', {
					input: 'curve'
				});
			const frames = framesBy(curves, curveUp);
			const out = deform(
				geometry,
				given,
				context,
				curveSpaceMap(curves, frames, { move, rotate: rotation, scale })
			);
			if (scale.every((x) => x === 1)) return { geometry: out };
			return {
				geometry: withCopies(
					geometry,
					given,
					context,
					(_, weights) => copiesResized(tableOf(out, 'copies', 'copy')!, weights, scale),
					out
				)
			};
		}
		const whole = isOne(weight) && strength === 1 && !given.times && amounts.every(isOne);
		if (whole && about === 'pivot')
			return { geometry: transformGeometry(geometry, matrix.affineFrom(move, rotation, scale, pivot)) };
		if (about === 'own') {
			if (!geometry.copies)
				context.warn(
					'There are no copies here, so nothing was moved. Choose “The pivot” for meshes and curves.'
				);
			return {
				geometry: withCopies(geometry, given, context, (copies, weights) =>
					copiesMovedOnTheirOwn(
						copies,
						sharesOn(weights, onCopiesOf(geometry)),
						{ move, rotation, scale },
						onCopies as OnCopies
					)
				)
			};
		}
		const out = movedByShares(geometry, { move, rotation, scale, pivot }, (where) =>
			sharesOn(weightsOn(context, given, where), where)
		);
		return { geometry: out };
	}
});

/** A geometry with its copies changed by weight; weights are read on the geometry as it arrives. */
function withCopies(
	geometry: Geometry,
	given: Given,
	context: Context,
	change: (copies: Table, weights: Float32Array) => Table,
	out = geometry
): Geometry {
	const copies = tableOf(geometry, 'copies', 'copy');
	if (!copies?.count) return out;
	const weights = weightsOn(context, given, onCopiesOf(geometry));
	return withTable(out, 'copies', 'copy', change(copies, weights));
}
