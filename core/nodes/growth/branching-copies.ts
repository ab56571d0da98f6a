import { NodeError, formatCount } from '../../math/index.ts';
import type { Geometry, Table } from '../../geometry/index.ts';
import {
	PlacesMade,
	allocate,
	column,
	geometryOf,
	makeTable,
	matrix,
	withColumns,
	countsOf
} from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import { branchingCopies as grow } from '../../kernels/branching-copies.ts';
import { operate, vector as vectorOf } from '../../varying/index.ts';
import type { Varying } from '../../varying/index.ts';
import { defineNode, geometry, number, output, vector, yesNo } from '../define.ts';

/** So many copies fit in one table. */
const MOST = 2_000_000;

export const branchingCopies = defineNode({
	id: 'branching-copies',
	version: 1,
	name: 'Branching copies',
	family: 'growth',
	words: ['recursive', 'recursion', 'fractal', 'tree', 'branching', 'l-system', 'instances', 'self similar'],
	help: 'A source that carries copies of itself, which carry copies again, for a number of levels. Every setting may differ by level, progress, sibling (its number among its siblings) and by chance. The source itself is level 0; progress is (level + 1) ÷ (levels + 1), so that it is 1 in the last.',
	inputs: {
		source: geometry({
			label: 'Source',
			help: 'What is copied. Several wires give one source for each level, the last for all that follow.',
			many: true
		}),
		places: geometry({
			label: 'Places',
			help: 'Where children stand on their parent: points in its space, with their rotation and size. Without any, “Children” of them stand at its origin and go where Move and Rotation say.',
			optional: true
		}),
		roots: geometry({
			label: 'Roots',
			help: 'Points at which the first copies stand; without any, one stands at the origin.',
			optional: true
		}),
		levels: number({
			label: 'Levels',
			help: 'How many generations follow the first.',
			default: 4,
			min: 0,
			slider: [0, 8],
			whole: true
		}),
		children: number({
			label: 'Children',
			help: 'How many each carries, where no places are wired.',
			default: 2,
			min: 0,
			slider: [0, 4],
			whole: true
		}),
		move: vector({
			label: 'Move',
			help: 'From the parent to a child, along the parent’s axes.',
			default: [0, 1, 0],
			unit: 'm',
			varies: 'copy',
			group: 'Each child'
		}),
		rotation: vector({
			label: 'Rotation',
			help: 'Of a child against its parent. A formula such as (sibling − 0.5) * 60 spreads them.',
			default: [0, 0, 0],
			unit: '°',
			step: 1,
			varies: 'copy'
		}),
		scale: vector({
			label: 'Scale',
			help: 'Of a child against its parent.',
			default: [0.7, 0.7, 0.7],
			unit: '×',
			step: 0.01,
			varies: 'copy',
			uniform: true
		}),
		continues: yesNo({
			label: 'Goes on',
			help: 'Where this is no, a copy carries no others: a condition ends a branch early.',
			default: true,
			varies: 'copy'
		})
	},
	outputs: {
		copies: output('geometry', 'Copies', 'All copies, with level, progress, parent and sibling.')
	},
	grows: true,
	handles: { move: 'move', rotate: 'rotation', scale: 'scale' },
	withNothing: 'It waits for a source.',
	example: {
		settings: {
			rotation: [
				0,
				{ formula: 'sibling * 90', streams: [] },
				{ formula: '(sibling - 0.5) * 70', streams: [] }
			]
		}
	},
	estimate: ({ levels, children, places, roots, continues }) => {
		// Where a condition ends branches, only growing tells.
		if (!goesOn(continues)) return null;
		const each = places ? countOf(places) : children;
		const first = roots ? countOf(roots) : 1;
		const fit = levelsThatFit(first, each);
		return {
			elements: first > 0 ? first * totalOf(each, levels) : 0,
			of: 'copies',
			most: MOST,
			lower: fit < levels ? `${formatCount(fit)} levels fit: lower “Levels”.` : 'Lower “Levels”.'
		};
	},
	run({ source, places, roots, levels, children, move, rotation, scale, continues }, context) {
		const parts = (value: Varying): Varying =>
			value.type === 'vector' ? value : operate('add', [value, ZERO]);
		const copies = grow({
			roots: roots ? placesOf(roots) : originOf(1),
			places: places ? placesOf(places) : originOf(children),
			levels,
			steps: (on) => ({
				moves: context.numbersOn(parts(move), on, 3),
				turns: context.numbersOn(parts(rotation), on, 3),
				scales: context.numbersOn(parts(scale), on, 3)
			}),
			continues: (on) => (goesOn(continues) ? null : context.numbersOn(continues, on)),
			most: MOST,
			tooMany: (level, count) => {
				throw new NodeError(
					`At level ${level} there would be ${formatCount(count)} copies; ${formatCount(MOST)} fit. Lower “Levels”, or end branches earlier.`,
					{ input: 'levels' }
				);
			}
		});
		const level = copies.columns.get('level')!.data;
		const which = allocate('int', copies.count);
		if (source.length > 1)
			for (let i = 0; i < which.length; i++) which[i] = Math.min(level[i], source.length - 1);
		const table = withColumns(copies, { source: column('int', 'id', which) });
		return { copies: geometryOf({ copies: { copies: table, sources: source } }) };
	}
});

const ZERO = vectorOf(0, 0, 0);

/** Every copy carries others, whatever its values. */
const goesOn = ({ op, value }: Varying): boolean => op === 'constant' && value === 1;

/** So many points; where there are none, copies. */
const countOf = (geometry: Geometry): number =>
	countsOf(geometry).points || (geometry.copies?.copies.count ?? 0);

/** 1 + c + c² + … for so many levels; Infinity where it is more than any number says. */
function totalOf(children: number, levels: number): number {
	if (children === 1) return levels + 1;
	let sum = 1,
		now = 1;
	for (let level = 0; level < levels && sum < 1e15 && now > 0; level++) sum += now *= children;
	return sum < 1e15 ? sum : Infinity;
}

function levelsThatFit(first: number, children: number): number {
	let levels = 0;
	if (!(first > 0)) return Infinity;
	if (children < 2) return Math.max(0, Math.floor(MOST / Math.max(1, first)) - 1);
	while (first * totalOf(children, levels + 1) <= MOST) levels++;
	return levels;
}

/** So many places at the origin. */
function originOf(count: number): Table {
	const made = new PlacesMade(count);
	const one = matrix.identity();
	for (let i = 0; i < count; i++) made.set(i, one);
	return withColumns(makeTable(count, {}), made.columns());
}

/** The points of a geometry as places: turned and sized as they are. */
function placesOf(geometry: Geometry): Table {
	const { points } = asPoints(geometry).points!;
	const { orientation, scale } = Object.fromEntries(points.columns);
	const upright = allocate('float', 4 * points.count);
	for (let i = 0; i < points.count; i++) upright[4 * i + 3] = 1;
	const size = scale ? scale.data : null;
	const sizes = allocate('float', 3 * points.count);
	sizes.fill(1);
	if (size)
		for (let i = 0; i < points.count; i++)
			for (let k = 0; k < 3; k++) sizes[3 * i + k] = size.length === points.count ? size[i] : size[3 * i + k];
	return withColumns(points, {
		orientation: orientation ?? column('vec4', 'orientation', upright),
		scale: column('vec3', 'plain', sizes)
	});
}
