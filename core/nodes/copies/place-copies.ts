import { NodeError, plural } from '../../math/index.ts';
import { allocate, geometryOf, isEmpty } from '../../geometry/index.ts';
import { inWholes } from '../../varying/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { chooseSources } from '../../kernels/place-copies.ts';
import { choice, defineNode, geometry, number, output, text } from '../define.ts';
import { placingEstimate, placedCopies, placingInputs } from './placing.ts';

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
		'array',
		'clone',
		'module',
		'billboard'
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
		...placingInputs
	},
	outputs: { copies: output('geometry', 'Copies', 'The copies, with the attributes of their points.') },
	seeded: true,
	estimate: ({ points }) => placingEstimate(points),
	run({ points, source, pick, shares, number, rotation, scale, offset, follow, up, forward, seed }, context) {
		const sources = source.filter((one) => !isEmpty(one));
		const on = asPoints(points);
		const table = on.points!.points;
		const where = { geometry: on, part: 'points' as const, kind: 'point' as const };
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
		const copies = placedCopies(on, which, { rotation, scale, offset, follow, up, forward }, context);
		const empty = source.length - sources.length;
		if (empty) context.warn(`${plural(empty, 'source')} ${empty === 1 ? 'is' : 'are'} empty and left out.`);
		return { copies: geometryOf({ copies: { copies, sources } }) };
	}
});

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
