import { column, geometryOf, makePoints, withColumns } from '../../geometry/index.ts';
import { quaternion } from '../../math/index.ts';
import { constant, element, operate, rampOf, throughRamp, vector as vectorOf } from '../../varying/index.ts';
import { defineNode, number, output, ramp, vector } from '../define.ts';
import { clamped, oneMinus, weightOutput } from '../weights/weight-tools.ts';

/** What a marker's point carries beside its place and orientation: how it was moved, and from where. */
export const MARKER_COLUMNS = { rest: 'rest', rotation: 'rotation', size: 'size', reach: 'reach' } as const;

const triple = (v: readonly number[]) => vectorOf(v[0], v[1], v[2]);

export const marker = defineNode({
	id: 'marker',
	version: 1,
	name: 'Marker',
	family: 'motion',
	words: ['null', 'locator', 'helper', 'target', 'pivot', 'controller', 'handle'],
	help: 'A thing in the View that is moved, turned and scaled by handles or keys. Its place, rotation, scale and axes go to any setting by wires or formulas; what lies within its reach can follow it.',
	inputs: {
		place: vector({ label: 'Position', help: 'Where it is.', default: [0, 1, 0], unit: 'm' }),
		rotation: vector({
			label: 'Rotation',
			help: 'About the world’s axes x, then y, then z.',
			default: [0, 0, 0],
			unit: '°',
			step: 1
		}),
		scale: vector({
			label: 'Scale',
			help: 'How large it is.',
			default: [1, 1, 1],
			unit: '×',
			step: 0.01,
			uniform: true
		}),
		rest: vector({
			label: 'Place at rest',
			help: 'Where it is when nothing has moved yet: what follows it goes as far as it went from there. It is where the marker stood when something began to follow it, until it is set.',
			default: [0, 1, 0],
			unit: 'm',
			becomes: { setting: 'place', label: 'Where it stands now' }
		}),
		reach: number({
			label: 'Reach',
			help: 'How far its weight goes, from 1 at its place to 0.',
			default: 2,
			min: 0,
			slider: [0, 20],
			step: 0.05,
			unit: 'm'
		}),
		ramp: ramp({
			label: 'Ramp along',
			help: 'The weight from the rim of its reach, at 0, to its place, at 1.',
			default: rampOf('smooth', [0, 0], [1, 1])
		})
	},
	givesOne: true,
	outputs: {
		marker: output(
			'geometry',
			'Marker',
			'A point with its orientation, for whatever follows it or is near it.'
		),
		place: output('vector', 'Position', 'Where it is, in metres.'),
		rotation: output('vector', 'Rotation', 'In degrees.'),
		scale: output('vector', 'Scale', 'Along its own axes.'),
		x: output('vector', 'Its x axis', 'Of length 1.'),
		y: output('vector', 'Its y axis', 'Of length 1.'),
		z: output('vector', 'Its z axis', 'Of length 1.'),
		weight: weightOutput
	},
	example: {
		settings: { place: [0.4, 1.2, 0.3], rest: [0, 0, 0], reach: 2.4 },
		then: ['follow-marker', {}, { geometry: 'hill.geometry', marker: 'shown.marker' }]
	},
	handles: { move: 'place', rotate: 'rotation', scale: 'scale' },
	run({ place, rotation, scale, rest, reach, ramp }) {
		const q = [0, 0, 0, 1];
		quaternion.fromAngles(q, 0, rotation[0], rotation[1], rotation[2]);
		const axis = (x: number, y: number, z: number) => {
			const out = [0, 0, 0];
			quaternion.rotate(out, 0, q[0], q[1], q[2], q[3], x, y, z);
			return triple(out);
		};
		const points = makePoints(Float32Array.from(place));
		const plain = (v: readonly number[]) => column('vec3', 'plain', Float32Array.from(v));
		const table = withColumns(points.points, {
			orientation: column('vec4', 'orientation', Float32Array.from(q)),
			[MARKER_COLUMNS.rest]: plain(rest),
			[MARKER_COLUMNS.rotation]: plain(rotation),
			[MARKER_COLUMNS.size]: plain(scale),
			[MARKER_COLUMNS.reach]: column('float', 'plain', Float32Array.of(reach))
		});
		const far = operate('distance', [element('position'), triple(place)]);
		const near = reach > 0 ? clamped(oneMinus(operate('divide', [far, constant(reach)]))) : constant(0);
		return {
			marker: geometryOf({ points: { points: table } }),
			place: triple(place),
			rotation: triple(rotation),
			scale: triple(scale),
			x: axis(1, 0, 0),
			y: axis(0, 1, 0),
			z: axis(0, 0, 1),
			weight: throughRamp(near, ramp)
		};
	}
});
