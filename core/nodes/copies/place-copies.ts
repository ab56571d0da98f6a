import { NodeError, plural, quaternion } from '../../math/index.ts';
import type { Column } from '../../geometry/index.ts';
import { allocate, column, geometryOf, idsOf, isEmpty, makeTable } from '../../geometry/index.ts';
import { inWholes } from '../../varying/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { chooseSources, countDoubles, placesOf } from '../../kernels/place-copies.ts';
import { choice, defineNode, geometry, number, output, text, vector, yesNo } from '../define.ts';

const AXES = [
	{ id: 'x', label: '+x' },
	{ id: 'y', label: '+y' },
	{ id: 'z', label: '+z' },
	{ id: '-x', label: '−x' },
	{ id: '-y', label: '−y' },
	{ id: '-z', label: '−z' }
];

/** The unit vector of an axis by its id. */
function axisVector(id: string): [number, number, number] {
	const sign = id.startsWith('-') ? -1 : 1;
	return [id.endsWith('x') ? sign : 0, id.endsWith('y') ? sign : 0, id.endsWith('z') ? sign : 0];
}

export const placeCopies = defineNode({
	id: 'place-copies',
	version: 1,
	name: 'Place copies',
	family: 'copies',
	words: [
		'copy',
		'align',
		'orient',
		'aim',
		'instance',
		'instancing',
		'particles',
		'railing',
		'instances',
		'array'
	],
	help: 'Puts a copy of a source at every point. Copies cost next to nothing: a million of them are a million places and one source. Rotation, scale and offset may vary per copy.',
	inputs: {
		points: geometry({
			label: 'Points',
			help: 'Where copies go: loose points, or the points of a mesh or curve.',
			needs: 'anything'
		}),
		source: geometry({
			label: 'Source',
			help: 'What is copied. Several wires give several sources.',
			many: true
		}),
		pick: choice({
			label: 'Pick',
			help: 'Which source a copy shows, where several are wired.',
			default: 'share',
			options: [
				{ id: 'share', label: 'At random, by share' },
				{ id: 'turn', label: 'In turn' },
				{ id: 'number', label: 'By number' }
			]
		}),
		shares: text({
			label: 'Shares',
			help: 'How often each source is chosen, such as 3, 1, 1. Empty: all alike.',
			default: '',
			placeholder: '1, 1, 1',
			when: (s) => s.pick === 'share'
		}),
		seed: number({
			label: 'Seed',
			help: 'Another seed, another choice of sources.',
			default: 0,
			whole: true,
			min: 0,
			when: (s) => s.pick === 'share'
		}),
		number: number({
			label: 'Source number',
			help: 'Counts from 0; an attribute’s name may stand here. Beyond the last it starts again.',
			default: 0,
			varies: 'copy',
			when: (s) => s.pick === 'number'
		}),
		rotation: vector({
			label: 'Rotation',
			help: 'Turns each copy about its own axes x, y, z.',
			default: [0, 0, 0],
			unit: '°',
			step: 1,
			varies: 'copy',
			group: 'Each copy'
		}),
		scale: vector({
			label: 'Scale',
			help: 'Makes each copy larger or smaller.',
			default: [1, 1, 1],
			unit: '×',
			step: 0.01,
			varies: 'copy',
			uniform: true
		}),
		offset: vector({
			label: 'Offset',
			help: 'Moves each copy along its own axes.',
			default: [0, 0, 0],
			unit: 'm',
			varies: 'copy'
		}),
		follow: yesNo({
			label: 'Follow points',
			help: 'Copies take the points’ orientation; otherwise all stand straight.',
			default: true
		}),
		up: choice({
			label: 'Source’s up',
			help: 'Which axis of the source becomes up.',
			default: 'y',
			options: AXES,
			group: 'Source'
		}),
		forward: choice({
			label: 'Source’s forward',
			help: 'Which axis of the source becomes forward.',
			default: 'z',
			options: AXES
		})
	},
	outputs: { copies: output('geometry', 'Copies', 'The copies, with the attributes of their points.') },
	seeded: true,
	estimate: ({ points: { mesh, curves, points, copies } }) => ({
		elements:
			(mesh?.points.count ?? 0) +
			(curves?.points.count ?? 0) +
			(points?.points.count ?? 0) +
			(copies?.copies.count ?? 0),
		of: 'copies',
		lower: 'Use fewer points.'
	}),
	run({ points, source, pick, shares, number, rotation, scale, offset, follow, up, forward, seed }, context) {
		const sources = source.filter((one) => !isEmpty(one));
		const on = asPoints(points);
		const table = on.points!.points;
		const where = { geometry: on, part: 'points' as const, kind: 'point' as const };
		const turn = context.vectors(rotation, where),
			size = context.vectors(scale, where),
			move = context.vectors(offset, where);
		const which = allocate('int', table.count);
		if (sources.length)
			chooseSources(
				which,
				pick,
				table,
				() => context.numbers(inWholes(number), where),
				sharesOf(shares, sources.length),
				context.stream(`${seed}`)
			);
		const turns = follow ? (table.columns.get('orientation')?.data ?? null) : null;
		const { position, orientation } = placesOf(table.columns.get('position')!.data, {
			turns,
			angles: turn,
			offsets: move,
			basis: basisOf(up, forward)
		});
		const columns: Record<string, Column> = Object.fromEntries(
			[...table.columns].filter(
				([name]) => !['position', 'orientation', 'scale', 'source', 'shown'].includes(name)
			)
		);
		columns.position = column('vec3', 'position', position);
		columns.orientation = column('vec4', 'orientation', orientation);
		columns.scale = column('vec3', 'plain', size);
		columns.source = column('int', 'id', which);
		const empty = source.length - sources.length;
		if (empty) context.warn(`${plural(empty, 'source')} ${empty === 1 ? 'is' : 'are'} empty and left out.`);
		const doubles = countDoubles(position);
		if (doubles) context.warn(`${plural(doubles, 'copy lies', 'copies lie')} exactly on another.`);
		return {
			copies: geometryOf({
				copies: { copies: makeTable(table.count, columns, idsOf(table)), sources }
			})
		};
	}
});

/** The rotation that brings the source's own up and forward to y and z. */
function basisOf(up: string, forward: string): number[] {
	if (up.replace('-', '') === forward.replace('-', ''))
		throw new NodeError('The source’s up and forward lie on one axis. Choose another axis for one of them.', {
			input: 'forward'
		});
	const q = [0, 0, 0, 1];
	quaternion.lookAlong(q, 0, ...axisVector(up), ...axisVector(forward));
	return [-q[0], -q[1], -q[2], q[3]];
}

function sharesOf(written: string, count: number): number[] {
	const numbers = written
		.split(/[,;\s]+/)
		.filter(Boolean)
		.map(Number);
	if (numbers.some((x) => !(x >= 0) || !Number.isFinite(x)))
		throw new NodeError(
			`“Shares” are positive numbers with commas between them, such as 3, 1, 1; “${written.slice(0, 60)}” came.`,
			{ input: 'shares' }
		);
	const shares = Array.from({ length: count }, (_, i) => numbers[i] ?? 1);
	if (!shares.some((x) => x > 0))
		throw new NodeError('All shares are 0, so no source can be chosen. Give one of them a positive number.', {
			input: 'shares'
		});
	return shares;
}
