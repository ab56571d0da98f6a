import { NodeError, mix, plural, quaternion, toUnit } from '../math/index.ts';
import type { Column, Table } from '../geometry/index.ts';
import {
	allocate,
	column,
	geometryOf,
	idsOf,
	isEmpty,
	makeTable,
	scratch,
	pollAt
} from '../geometry/index.ts';
import { asPoints } from '../kernels/as-points.ts';
import { choice, defineNode, geometry, number, output, text, vector, yesNo } from './define.ts';

const AXES = [
	{ id: 'x', label: '+x' },
	{ id: 'y', label: '+y' },
	{ id: 'z', label: '+z' },
	{ id: '-x', label: '−x' },
	{ id: '-y', label: '−y' },
	{ id: '-z', label: '−z' }
];

/** The unit vector of an axis by its id. */
export function axisVector(id: string): [number, number, number] {
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
				() => context.numbers(number, where),
				sharesOf(shares, sources.length),
				context.stream(`${seed}`)
			);
		const p = table.columns.get('position')!.data;
		const own = follow ? (table.columns.get('orientation')?.data ?? null) : null;
		const position = allocate('float', 3 * table.count),
			orientation = allocate('float', 4 * table.count),
			scales = allocate('float', 3 * table.count);
		const basis = basisOf(up, forward);
		const q = [0, 0, 0, 1],
			angles = [0, 0, 0, 1],
			step = [0, 0, 0];
		for (let i = 0; i < table.count; i++) {
			pollAt(i);
			const o = 4 * i,
				k = 3 * i;
			quaternion.fromAngles(angles, 0, turn[k], turn[k + 1], turn[k + 2]);
			if (own)
				quaternion.multiply(
					q,
					0,
					own[o],
					own[o + 1],
					own[o + 2],
					own[o + 3],
					angles[0],
					angles[1],
					angles[2],
					angles[3]
				);
			else for (let m = 0; m < 4; m++) q[m] = angles[m];
			quaternion.rotate(step, 0, q[0], q[1], q[2], q[3], move[k], move[k + 1], move[k + 2]);
			for (let m = 0; m < 3; m++) position[k + m] = p[k + m] + step[m];
			quaternion.multiply(orientation, o, q[0], q[1], q[2], q[3], basis[0], basis[1], basis[2], basis[3]);
			scales[k] = size[k];
			scales[k + 1] = size[k + 1];
			scales[k + 2] = size[k + 2];
		}
		const columns: Record<string, Column> = Object.fromEntries(
			[...table.columns].filter(
				([name]) => !['position', 'orientation', 'scale', 'source', 'shown'].includes(name)
			)
		);
		columns.position = column('vec3', 'position', position);
		columns.orientation = column('vec4', 'orientation', orientation);
		columns.scale = column('vec3', 'plain', scales);
		columns.source = column('int', 'id', which);
		const empty = source.length - sources.length;
		if (empty) context.warn(`${plural(empty, 'source')} ${empty === 1 ? 'is' : 'are'} empty and left out.`);
		warnOfDoubles(position, table.count, context.warn);
		return {
			copies: geometryOf({
				copies: { copies: makeTable(table.count, columns, idsOf(table)), sources: sources, linear: null }
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

function chooseSources(
	which: Int32Array,
	pick: string,
	table: Table,
	numbers: () => Float32Array,
	shares: number[],
	[first, second]: readonly [number, number]
): void {
	const count = shares.length;
	if (pick === 'turn')
		for (let i = 0; i < which.length; i++) {
			pollAt(i);
			which[i] = i % count;
		}
	else if (pick === 'number') {
		const wanted = numbers();
		for (let i = 0; i < which.length; i++) {
			pollAt(i);
			const whole = Math.floor(wanted[i] + 0.5);
			which[i] = whole - count * Math.floor(whole / count);
		}
	} else if (count > 1) {
		const total = shares.reduce((sum, x) => sum + x, 0);
		const ids = idsOf(table);
		for (let i = 0; i < which.length; i++) {
			pollAt(i);
			let at = toUnit(mix(mix(mix(first, ids[2 * i]), ids[2 * i + 1]), second)) * total;
			let k = 0;
			while (k < count - 1 && (at -= shares[k]) >= 0) k++;
			while (shares[k] === 0 && k > 0) k--;
			which[i] = k;
		}
	}
}

/** Copies that lie exactly on one another are pointed out. */
function warnOfDoubles(position: Float32Array, count: number, warn: (message: string) => void): void {
	if (count < 2 || count > 500_000) return;
	const size = 1 << (33 - Math.clz32(count));
	const heads = scratch('int', size).fill(-1);
	const next = scratch('int', count);
	const words = new Uint32Array(position.buffer, position.byteOffset, 3 * count);
	let doubles = 0;
	for (let i = 0; i < count; i++) {
		pollAt(i);
		const cell = mix(mix(words[3 * i], words[3 * i + 1]), words[3 * i + 2]) & (size - 1);
		let j = heads[cell];
		while (
			j >= 0 &&
			!(
				position[3 * j] === position[3 * i] &&
				position[3 * j + 1] === position[3 * i + 1] &&
				position[3 * j + 2] === position[3 * i + 2]
			)
		)
			j = next[j];
		if (j >= 0) doubles++;
		else {
			next[i] = heads[cell];
			heads[cell] = i;
		}
	}
	if (doubles) warn(`${plural(doubles, 'copy lies', 'copies lie')} exactly on another.`);
}
