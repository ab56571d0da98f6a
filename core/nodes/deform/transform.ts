import { NodeError, quaternion } from '../../math/index.ts';
import type { Geometry, Table } from '../../geometry/index.ts';
import {
	allocate,
	column,
	floats,
	matrix,
	pollAt,
	tableOf,
	transformGeometry,
	withColumns,
	withTable
} from '../../geometry/index.ts';
import { curveSpaceMap } from '../../kernels/curve-space.ts';
import { framesBy, upInput } from '../curves/curve-tools.ts';
import type { Context } from '../define.ts';
import { choice, defineNode, geometry, output, vector } from '../define.ts';
import { deform, withMoved } from './deform-tools.ts';
import { weightInputs, weightsOn } from '../weights/weight-tools.ts';

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
		'deform'
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
		...weightInputs
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same in its new place.') },
	handles: { move: 'move', rotate: 'rotation', scale: 'scale', pivot: 'pivot' },
	// Elsewhere the numbers are not along the world's axes.
	handlesWhen: (s) => s.about === 'pivot',
	run({ geometry, move, rotation, scale, pivot, about, curve, curveUp, onCopies, ...given }, context) {
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
			return { geometry: withSizes(out, scale, given, context) };
		}
		const whole = given.weight.op === 'constant' && given.weight.value === 1 && given.strength === 1;
		if (whole && about === 'pivot')
			return { geometry: transformGeometry(geometry, matrix.affineFrom(move, rotation, scale, pivot)) };
		let out = geometry;
		for (const part of ['mesh', 'curves', 'points', 'copies'] as const) {
			const kind = part === 'copies' ? 'copy' : 'point';
			const table = tableOf(geometry, part, kind);
			if (!table?.count) continue;
			const weights = weightsOn(context, given, { geometry, part, kind });
			if (about === 'own') {
				if (part === 'copies')
					out = withTable(out, part, kind, onItsOwn(table, weights, { move, rotation, scale, onCopies }));
				continue;
			}
			const p = floats(table, 'position');
			const moved = allocate('float', p.length);
			const turns = table.columns.has('orientation') ? floats(table, 'orientation').slice() : null;
			const sizes = part === 'copies' ? floats(table, 'scale').slice() : null;
			for (let i = 0; i < table.count; i++) {
				pollAt(i);
				const w = weights[i];
				const m = matrix.affineFrom(
					move.map((x) => x * w),
					rotation.map((x) => x * w),
					scale.map((x) => 1 + (x - 1) * w),
					pivot
				);
				matrix.apply(moved, 3 * i, m, p[3 * i], p[3 * i + 1], p[3 * i + 2]);
				if (turns) turn(turns, i, rotation, w);
				if (sizes) for (let k = 0; k < 3; k++) sizes[3 * i + k] *= 1 + (scale[k] - 1) * w;
			}
			out = withMoved(out, part, kind, moved);
			if (turns)
				out = withTable(
					out,
					part,
					kind,
					withColumns(tableOf(out, part, kind)!, {
						orientation: column('vec4', 'orientation', turns),
						...(sizes && { scale: column('vec3', 'plain', sizes) })
					})
				);
		}
		if (about === 'own' && !geometry.copies)
			context.warn(
				'There are no copies here, so nothing was moved. Choose “The pivot” for meshes and curves.'
			);
		return { geometry: out satisfies Geometry };
	}
});

/** Copies made larger or smaller along their own axes. */
function withSizes(
	geometry: Geometry,
	scale: readonly number[],
	given: Parameters<typeof weightsOn>[1],
	context: Context
): Geometry {
	const table = tableOf(geometry, 'copies', 'copy');
	if (!table?.count || scale.every((x) => x === 1)) return geometry;
	const weights = weightsOn(context, given, { geometry, part: 'copies', kind: 'copy' });
	const sizes = floats(table, 'scale').slice();
	for (let i = 0; i < sizes.length; i++) {
		pollAt(i);
		sizes[i] *= 1 + (scale[i % 3] - 1) * weights[Math.floor(i / 3)];
	}
	return withTable(geometry, 'copies', 'copy', withColumns(table, { scale: column('vec3', 'plain', sizes) }));
}

const angles = [0, 0, 0, 1];

/** Puts a share of a rotation on top of the one that is there. */
function turn(turns: Float32Array, i: number, rotation: readonly number[], w: number): void {
	quaternion.fromAngles(angles, 0, rotation[0] * w, rotation[1] * w, rotation[2] * w);
	const o = 4 * i;
	const [x, y, z, s] = [turns[o], turns[o + 1], turns[o + 2], turns[o + 3]];
	quaternion.multiply(turns, o, angles[0], angles[1], angles[2], angles[3], x, y, z, s);
}

interface OwnMove {
	move: readonly number[];
	rotation: readonly number[];
	scale: readonly number[];
	onCopies: string;
}

/** Copies turned and scaled where they stand, and moved along their own axes. */
function onItsOwn(table: Table, weights: Float32Array, { move, rotation, scale, onCopies }: OwnMove): Table {
	const position = floats(table, 'position').slice(),
		orientation = floats(table, 'orientation').slice(),
		size = floats(table, 'scale').slice();
	const step = [0, 0, 0];
	for (let i = 0; i < table.count; i++) {
		pollAt(i);
		const w = weights[i];
		if (w === 0) continue;
		const o = 4 * i;
		const [x, y, z, s] = [orientation[o], orientation[o + 1], orientation[o + 2], orientation[o + 3]];
		quaternion.rotate(step, 0, x, y, z, s, move[0] * w, move[1] * w, move[2] * w);
		for (let k = 0; k < 3; k++) {
			position[3 * i + k] += step[k];
			const was = size[3 * i + k];
			size[3 * i + k] =
				onCopies === 'multiply'
					? was * (1 + (scale[k] - 1) * w)
					: onCopies === 'add'
						? was + (scale[k] - 1) * w
						: was + (scale[k] - was) * w;
		}
		if (onCopies === 'replace') {
			quaternion.fromAngles(angles, 0, rotation[0], rotation[1], rotation[2]);
			// The shorter way round, straight between the two and made 1 long again.
			const sign = x * angles[0] + y * angles[1] + z * angles[2] + s * angles[3] < 0 ? -1 : 1;
			const q = [x, y, z, s].map((c, k) => c + (sign * angles[k] - c) * w);
			const length = Math.sqrt(q[0] * q[0] + q[1] * q[1] + q[2] * q[2] + q[3] * q[3]) || 1;
			for (let k = 0; k < 4; k++) orientation[o + k] = q[k] / length;
			continue;
		}
		// About the copy's own axes: the new rotation comes first.
		quaternion.fromAngles(angles, 0, rotation[0] * w, rotation[1] * w, rotation[2] * w);
		quaternion.multiply(orientation, o, x, y, z, s, angles[0], angles[1], angles[2], angles[3]);
	}
	return withColumns(table, {
		position: column('vec3', 'position', position),
		orientation: column('vec4', 'orientation', orientation),
		scale: column('vec3', 'plain', size)
	});
}
