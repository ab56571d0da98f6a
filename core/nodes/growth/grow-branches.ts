import { GOLDEN_ANGLE, NodeError, PI, formatCount } from '../../math/index.ts';
import { geometryOf, pollAt } from '../../geometry/index.ts';
import type { Arrangement, Branches } from '../../kernels/grow-branches.ts';
import { curvesOf, growBranches as grow } from '../../kernels/grow-branches.ts';
import { leafPlaces, tipsOf } from '../../kernels/leaf-places.ts';
import { rampOf } from '../../varying/index.ts';
import { choice, defineNode, geometry, number, output, ramp, yesNo } from '../define.ts';
import {
	bendInputs,
	bendingOf,
	checkFits,
	clearInputs,
	inRadians,
	obstacleOf,
	readerOf,
	rootsOf,
	wobbleInputs
} from './growth-inputs.ts';

type Settings = Record<string, unknown>;
/** So many points on all branches fit, and so many places for leaves. */
const MOST = 2_000_000;

export const growBranches = defineNode({
	id: 'grow-branches',
	// 2: wobbles no further than set.
	version: 2,
	name: 'Grow branches',
	family: 'growth',
	words: [
		'tree',
		'branch',
		'stem',
		'plant',
		'shrub',
		'vegetation',
		'phyllotaxis',
		'internode',
		'roots',
		'depth'
	],
	help: 'Stems, and branches on them for a number of levels, as curves. Formulas know level (0 for the stems), progress, u (the place on the parent), parent.length, parent.radius and sibling; a random range differs from branch to branch.',
	inputs: {
		from: geometry({
			label: 'Roots',
			help: 'Points at which stems begin, each growing the way of its y; without any, one at the origin grows up.',
			optional: true
		}),
		levels: number({
			label: 'Levels',
			help: 'How many levels of branches follow the stems.',
			default: 2,
			min: 0,
			slider: [0, 4],
			whole: true
		}),
		stemLength: number({
			label: 'Stem length',
			help: 'How long stems are.',
			default: 3,
			min: 0,
			slider: [0.1, 10],
			unit: 'm',
			varies: 'curve',
			group: 'Stems'
		}),
		stemRadius: number({
			label: 'Stem radius',
			help: 'How thick they are where they begin.',
			default: 0.1,
			min: 0,
			slider: [0, 0.5],
			unit: 'm',
			varies: 'curve'
		}),
		upright: yesNo({
			label: 'Begin upright',
			help: 'Stems begin straight up, whatever way their points are turned.',
			default: false
		}),
		by: choice({
			label: 'By',
			help: 'Branches are counted, or stand a distance apart.',
			default: 'count',
			options: [
				{ id: 'count', label: 'Count' },
				{ id: 'spacing', label: 'Internode length' }
			],
			group: 'Branches'
		}),
		count: number({
			label: 'Count',
			help: 'Places for branches on each parent. Opposite and whorled arrangements put several at each.',
			default: 6,
			min: 0,
			max: 100_000,
			slider: [0, 20],
			whole: true,
			varies: 'curve',
			when: (s: Settings) => s.by === 'count'
		}),
		spacing: number({
			label: 'Internode length',
			help: 'From one place to the next.',
			default: 0.3,
			min: 0.0001,
			slider: [0.02, 2],
			unit: 'm',
			varies: 'curve',
			when: (s: Settings) => s.by === 'spacing'
		}),
		start: number({
			label: 'First branch at',
			help: 'Where on the parent the first stands, as a fraction of its length.',
			default: 0.3,
			min: 0,
			max: 1,
			varies: 'curve'
		}),
		end: number({
			label: 'To',
			help: 'Where the last stands.',
			default: 0.95,
			min: 0,
			max: 1,
			varies: 'curve'
		}),
		arrangement: choice({
			label: 'Arrangement',
			help: 'How branches follow one another round the parent.',
			default: 'spiral',
			options: [
				{ id: 'spiral', label: 'Spiral' },
				{ id: 'alternate', label: 'Alternate' },
				{ id: 'opposite', label: 'Opposite' },
				{ id: 'whorled', label: 'Whorled' }
			]
		}),
		divergence: number({
			label: 'Divergence angle',
			help: 'Round the parent from one to the next.',
			default: 137.508,
			slider: [0, 180],
			unit: '°',
			when: (s: Settings) => s.arrangement === 'spiral'
		}),
		whorl: number({
			label: 'In each whorl',
			help: 'How many stand at each place.',
			default: 3,
			min: 1,
			max: 200,
			slider: [2, 12],
			whole: true,
			when: (s: Settings) => s.arrangement === 'whorled'
		}),
		angle: number({
			label: 'Insertion angle',
			help: 'Between a branch and its parent’s direction.',
			default: 50,
			slider: [0, 120],
			unit: '°',
			varies: 'curve'
		}),
		rotation: number({
			label: 'Rotation',
			help: 'About the parent, beside the arrangement.',
			default: 0,
			slider: [-180, 180],
			unit: '°',
			varies: 'curve'
		}),
		length: number({
			label: 'Length',
			help: 'Relative to the parent’s.',
			default: 0.6,
			min: 0,
			slider: [0, 1.5],
			unit: '×',
			varies: 'curve'
		}),
		lengthRamp: ramp({
			label: 'Length ramp',
			help: 'The length by the place on the parent.',
			default: rampOf('linear', [0, 1], [1, 0.4])
		}),
		radius: number({
			label: 'Radius',
			help: 'Relative to the parent’s, where it stands.',
			default: 0.6,
			min: 0,
			slider: [0, 1],
			unit: '×',
			varies: 'curve'
		}),
		taper: ramp({
			label: 'Radius ramp',
			help: 'The radius along each of them: how they taper.',
			default: rampOf('linear', [0, 1], [1, 0.25]),
			when: (s: Settings) => s.keepsArea !== true
		}),
		keepsArea: yesNo({
			label: 'Keep the area at forks',
			help: 'The section before a fork is that of all that goes on from it.',
			default: false
		}),
		collar: number({
			label: 'Collar',
			help: 'Where a branch leaves its parent, it widens towards it in a rounding of this radius, relative to its own. 0 leaves it plain.',
			default: 0,
			min: 0,
			slider: [0, 2],
			unit: '×',
			varies: 'curve'
		}),
		leader: number({
			label: 'Apical control',
			help: 'How much of a branch goes on beyond its last fork: 1 all of it, 0 nothing.',
			default: 1,
			min: 0,
			max: 1,
			varies: 'curve'
		}),
		segments: number({
			label: 'Segments',
			help: 'Pieces of each of them.',
			default: 8,
			min: 1,
			max: 1000,
			slider: [1, 24],
			whole: true,
			varies: 'curve'
		}),
		...bendInputs,
		...wobbleInputs,
		...clearInputs,
		leafLevel: number({
			label: 'From level',
			help: 'Branches of this level and of all that follow bear leaves.',
			default: 1,
			min: 0,
			slider: [0, 4],
			whole: true,
			group: 'Places for leaves'
		}),
		leafSpacing: number({
			label: 'Spacing',
			help: 'From one leaf to the next, from the tip backwards. 0 makes no places.',
			default: 0.12,
			min: 0,
			slider: [0, 1],
			unit: 'm'
		}),
		leafStart: number({
			label: 'First leaf at',
			help: 'Where on a branch leaves begin, as a fraction of its length.',
			default: 0.3,
			min: 0,
			max: 1
		}),
		leafAngle: number({
			label: 'Leaf angle',
			help: 'Between a leaf and its branch.',
			default: 50,
			slider: [0, 120],
			unit: '°'
		}),
		leafSize: ramp({
			label: 'Size ramp',
			help: 'The size of leaves along a branch.',
			default: rampOf('linear', [0, 1], [1, 1])
		})
	},
	brings: ['radius'],
	outputs: {
		branches: output(
			'geometry',
			'Branches',
			'Curves with radius at their points; level, progress, parent and place on each.'
		),
		tips: output('geometry', 'Tips', 'The ends of all of them, turned the way that they grow.'),
		leaves: output('geometry', 'Places for leaves', 'Points along them, turned the way that leaves grow.')
	},
	grows: true,
	example: { settings: { wobble: 12 } },
	run(inputs, context) {
		const { from, levels, arrangement, divergence, whorl, taper, keepsArea } = inputs;
		const roots = rootsOf(from);
		const lengthRamp = readerOf(inputs.lengthRamp),
			taperRamp = readerOf(taper);
		/** Of the stems, which are asked for first. */
		let pulls: ArrayLike<number> | null = null;
		const made = grow({
			roots,
			upright: inputs.upright,
			levels,
			stemLength: (on) => context.numbersOn(inputs.stemLength, on),
			stemRadius: (on) => context.numbersOn(inputs.stemRadius, on),
			places: (on) => ({
				count: context.numbersOn(inputs.count, on),
				from: context.numbersOn(inputs.start, on),
				to: context.numbersOn(inputs.end, on)
			}),
			spacing: inputs.by === 'spacing' ? (on) => context.numbersOn(inputs.spacing, on) : null,
			arrangement: arrangementOf(arrangement, divergence, whorl),
			numbers(on) {
				const strength = context.numbersOn(inputs.pull, on);
				pulls ??= strength;
				return {
					angle: context.numbersOn(inputs.angle, on),
					rotation: context.numbersOn(inputs.rotation, on),
					length: context.numbersOn(inputs.length, on),
					radius: context.numbersOn(inputs.radius, on),
					segments: context.numbersOn(inputs.segments, on),
					wobble: context.numbersOn(inputs.wobble, on),
					collar: context.numbersOn(inputs.collar, on),
					strength
				};
			},
			lengthAlong: lengthRamp,
			taper: taperRamp,
			keepsArea,
			leader: (on) => context.numbersOn(inputs.leader, on),
			bending: bendingOf(inputs.towards, inputs.direction, inputs.target, inputs.pullRamp),
			wave: inputs.wave,
			ground: inputs.aboveGround ? inputs.ground : null,
			obstacle: obstacleOf(inputs.obstacle),
			check(level, branches, points) {
				if (points > MOST)
					throw new NodeError(
						`At level ${level} there would be ${formatCount(branches)} branches of ${formatCount(points)} points; ${formatCount(MOST)} points fit. ${level > 1 ? `${level - 1} levels fit: lower “Levels”, ` : 'Lower '}“Count” or “Segments”.`,
						{ input: level ? 'levels' : 'segments' }
					);
			}
		});
		if (inputs.towards === 'up') {
			const level = levelStems(made, pulls!);
			if (level)
				context.warn(
					`Stems that begin level with the ground run along it first, before a strong pull turns them up: ${formatCount(level)} ${level > 1 ? 'do' : 'does'} so here. Begin upright, lower the pull, or turn the points.`,
					'pull',
					[{ label: 'Begin upright', set: { setting: 'upright', value: true } }]
				);
		}
		const leaves = leafPlaces(made, {
			least: inputs.leafLevel,
			most: levels,
			from: inputs.leafStart,
			to: 1,
			spacing: inputs.leafSpacing,
			angle: inRadians(inputs.leafAngle),
			divergence: GOLDEN_ANGLE,
			size: readerOf(inputs.leafSize),
			check: (count) => checkFits(count, MOST, 'places for leaves', 'leafSpacing', 'Raise their spacing.')
		});
		return {
			branches: geometryOf({ curves: curvesOf(made, levels) }),
			tips: geometryOf({ points: { points: tipsOf(made) } }),
			leaves: geometryOf({ points: { points: leaves } })
		};
	}
});

/** How level is level: within 5°. And so strong is strong. */
const LEVEL = 0.0872;
const STRONG = 1;

/** How many stems begin level with the ground, and are strongly drawn up. */
function levelStems(made: Branches, pulls: ArrayLike<number>): number {
	let count = 0;
	for (let b = 0; b < pulls.length; b++) {
		pollAt(b);
		const up = made.d.at(3 * made.first.at(b) + 1);
		if (pulls[b] >= STRONG && Math.abs(up) < LEVEL) count++;
	}
	return count;
}

function arrangementOf(arrangement: string, divergence: number, whorl: number): Arrangement {
	switch (arrangement) {
		case 'alternate':
			return { each: 1, divergence: PI };
		case 'opposite':
			return { each: 2, divergence: PI / 2 };
		case 'whorled':
			return { each: whorl, divergence: PI / whorl };
		default:
			return { each: 1, divergence: inRadians(divergence) };
	}
}
