import { NodeError, quaternion, cos, sin } from '../../math/index.ts';
import { allocate, filled, geometryOf, makeCurves, pollAt, scratch } from '../../geometry/index.ts';
import type { Curves } from '../../geometry/index.ts';
import { revolve as revolveProfile } from '../../kernels/revolve.ts';
import { sectionsOf } from '../../kernels/section.ts';
import { sweep } from '../../kernels/sweep.ts';
import { defineNode, geometry, number, output, yesNo } from '../define.ts';

export const revolve = defineNode({
	id: 'revolve',
	version: 1,
	name: 'Revolve',
	family: 'meshes',
	words: ['lathe', 'spin', 'turn', 'vase', 'surface of revolution'],
	help: 'Turns a profile about the y axis. Draw the profile facing front: x is the distance from the axis, y the height.',
	renamed: [{ before: 2, inputs: { sides: 'segments' } }],
	example: { wires: { profile: 'profile' } },
	inputs: {
		profile: geometry({ label: 'Profile', help: 'One flat curve, open or closed.', needs: 'curves' }),
		angle: number({
			label: 'Angle',
			help: 'How far round.',
			default: 360,
			min: 0,
			max: 360,
			step: 1,
			unit: '°'
		}),
		segments: number({
			label: 'Segments',
			help: 'Faces around.',
			default: 32,
			min: 3,
			slider: [3, 128],
			whole: true
		}),
		caps: yesNo({
			label: 'Caps',
			help: 'Puts faces on both ends of a closed profile that does not go all the way round.',
			default: true
		})
	},
	outputs: { mesh: output('geometry', 'Mesh', 'The turned mesh.') },
	estimate: ({ profile, segments }) => ({
		elements: profile.curves!.points.count * (segments + 1),
		of: 'points',
		lower: 'Lower “Segments”.'
	}),
	run({ profile, angle, segments, caps }, context) {
		const [section] = sectionsOf(profile.curves!);
		if (!section) throw new NodeError('The profile needs at least two points.', { input: 'profile' });
		const whole = angle === 360;
		if (whole) {
			const side = sideOfAxis(section.points);
			if (side === 'both')
				context.warn(
					'Part of the profile lies left of the axis and was put onto it. Move the profile to one side.'
				);
			// Turned all the way round, what lies left of the axis comes out as its mirror image does.
			const sign = side === 'left' ? -1 : 1;
			const rows = Array.from({ length: section.points.length / 2 }, (_, i): [number, number] => [
				Math.abs(section.points[2 * i]) < 1e-7 ? 0 : sign * section.points[2 * i],
				section.points[2 * i + 1]
			]);
			if (side === 'left' && section.closed) rows.reverse();
			// An open profile is read upward, so that its outside is outside.
			if (!section.closed && rows[0][1] > rows[rows.length - 1][1]) rows.reverse();
			const mesh = revolveProfile({ points: rows, closed: section.closed }, segments);
			return { mesh: geometryOf({ mesh, materials: profile.materials }) };
		}
		const reach = Math.max(...section.points.filter((_, i) => i % 2 === 0).map((x) => Math.abs(x)));
		// A path of no width: the sweep’s own widening is off, so every point goes round exactly at its distance.
		const path = ring(segments + 1);
		const count = path.points.count;
		const tangents = allocate('float', 3 * count),
			normals = allocate('float', 3 * count);
		for (let i = 0; i < count; i++) {
			pollAt(i);
			const turn = quaternion.radians((angle * i) / segments);
			tangents.set([-sin(turn), 0, -cos(turn)], 3 * i);
			normals[3 * i + 1] = 1;
		}
		const ones = filled('float', count, 1);
		const made = sweep(
			path,
			{ tangents, normals },
			{
				sections: [section],
				blend: scratch('float', count),
				scale: ones,
				turn: scratch('float', count),
				offset: null,
				caps,
				mitre: 1,
				along: Float64Array.from(
					{ length: count },
					(_, i) => (quaternion.radians(angle) * reach * i) / segments
				)
			}
		);
		return { mesh: geometryOf({ mesh: made, materials: profile.materials }) };
	}
});

/** On which side of the axis the points of a section lie. */
function sideOfAxis(points: Float64Array): 'left' | 'right' | 'both' {
	let [least, most] = [0, 0];
	for (let i = 0; i < points.length; i += 2) {
		pollAt(i);
		least = Math.min(least, points[i]);
		most = Math.max(most, points[i]);
	}
	const tiny = 1e-6 * (most - least);
	if (least >= -tiny) return 'right';
	return most <= tiny ? 'left' : 'both';
}

/** All points at the axis, told apart only by their number. */
function ring(points: number): Curves {
	return makeCurves(allocate('float', 3 * points), Uint32Array.of(0, points), Uint8Array.of(0));
}
