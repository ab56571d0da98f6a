/** The samples that move by themselves: an organ that the tide plays, and a thatch that lays itself. */
import type { GeneratorDocument, GraphNode } from '../core/engine/index.ts';
import { Builder, around, formula, range } from './sample-builder.ts';

const key = (at: number, value: readonly number[], easing: 'smooth' | 'linear' = 'smooth') => ({
	at,
	value,
	easing
});
const WATER = { name: 'Slack water', colour: [0.12, 0.23, 0.25], roughness: 0.25 };
const PIPE = { name: 'Limewashed pipe', colour: [0.68, 0.65, 0.57], roughness: 0.7 };
const MOUTH = { name: 'Green copper', colour: [0.14, 0.33, 0.27], roughness: 0.55, metallic: 0.5 };
const TARRED = { name: 'Tarred rafters', colour: [0.13, 0.09, 0.06], roughness: 0.9 };
const REED = { name: 'Cut reed', colour: [0.55, 0.42, 0.2], roughness: 1 };

/** Pipes along two curved jetties that rise and sink with a swell; where a calm passes they come to rest, and swing after it. */
export function tideOrgan(): GeneratorDocument {
	const b = new Builder('organ');
	const jetty = (name: string, y: number, settings: object, turn: [number, number, number]) => {
		const arc = b.add('arc', name, [0, y], { points: 80, ...settings });
		return b.add('transform', `${name}Laid`, [240, y], { move: turn }, { geometry: [arc, 'curve'] });
	};
	const inner = jetty('inner', 0, { radius: 5.5, start: 15, sweep: 150 }, [0, 0, 2.5]);
	const outer = jetty('outer', 180, { radius: 7.6, start: 20, sweep: 140 }, [0, 0, 2.5]);
	const both = b.add(
		'merge',
		'jetties',
		[480, 90],
		{},
		{
			geometry: [
				[inner, 'geometry'],
				[outer, 'geometry']
			]
		}
	);
	const places = b.add(
		'points-along-curve',
		'places',
		[720, 90],
		{ by: 'spacing', spacing: 0.34 },
		{ curve: [both, 'geometry'] }
	);
	const pipe = b.add('cylinder', 'pipe', [480, 320], {
		radius: 0.11,
		topRadius: 0.11,
		height: 3.2,
		segments: 12,
		edge: 'rounded',
		bevel: 0.03
	});
	const white = b.add('material', 'limed', [720, 320], { ...PIPE }, { geometry: [pipe, 'mesh'] });
	const lip = b.add('torus', 'lip', [480, 500], {
		radius: 0.115,
		thickness: 0.07,
		segments: 16,
		sectionSegments: 8
	});
	const lipUp = b.add('transform', 'lipUp', [720, 500], { move: [0, 2.95, 0] }, { geometry: [lip, 'mesh'] });
	const green = b.add('material', 'copper', [960, 500], { ...MOUTH }, { geometry: [lipUp, 'geometry'] });
	const whole = b.add(
		'merge',
		'organPipe',
		[1200, 400],
		{},
		{
			geometry: [
				[white, 'geometry'],
				[green, 'geometry']
			]
		}
	);
	const pipes = b.add(
		'place-copies',
		'pipes',
		[1440, 240],
		{
			scale: [around(1, 0.12, 'organ-thick'), range(0.7, 1.05, 'organ-tall'), 1],
			offset: [0, -1.3, 0]
		},
		{ points: [places, 'points'], source: [whole, 'geometry'] }
	);
	const calm = b.add('weight-in-zone', 'calm', [1440, 480], {
		centre: {
			keys: [key(1, [-11, 0, -1]), key(20, [-11, 0, -1]), key(96, [11, 0, -1]), key(120, [11, 0, -1])]
		},
		size: [5, 9, 24],
		inner: -1.5,
		outer: 1.5,
		invert: true
	});
	const swell = b.add(
		'displace-by-noise',
		'swell',
		[1700, 300],
		{
			along: 'direction',
			direction: [0, 1, 0],
			amount: 1.3,
			size: [4, 4, 4],
			octaves: 2,
			gain: 0.35,
			speed: 0.5,
			loop: 120
		},
		{ geometry: [pipes, 'copies'], weight: [calm, 'weight'] }
	);
	const swinging = b.add(
		'damped-follow',
		'swinging',
		[1960, 300],
		{ follows: 'position', stiffness: 45, damping: 3.5 },
		{ geometry: [swell, 'geometry'] }
	);
	const sea = b.add('grid', 'sea', [1440, 680], { width: 22, depth: 15, columns: 80, rows: 60 });
	const waves = b.add(
		'displace-by-noise',
		'waves',
		[1700, 680],
		{
			along: 'direction',
			direction: [0, 1, 0],
			amount: 0.22,
			size: [2.2, 2.2, 2.2],
			octaves: 3,
			speed: 0.6,
			loop: 120
		},
		{ geometry: [sea, 'mesh'], weight: [calm, 'weight'] }
	);
	const water = b.add('material', 'water', [1960, 680], { ...WATER }, { geometry: [waves, 'geometry'] });
	const all = b.add(
		'merge',
		'together',
		[2220, 460],
		{},
		{
			geometry: [
				[water, 'geometry'],
				[swinging, 'geometry']
			]
		}
	);
	b.add('result', 'result', [2460, 460], {}, { geometry: [all, 'geometry'] });
	b.note([1440, 380], 'The calm is a zone with keys: drag it while it plays.', 220);
	b.note([1960, 160], 'After the calm has passed, the pipes swing back to the swell.', 220);
	return b.done('Tide organ', 7, { camera: { position: [5.5, 6.2, 12.5], target: [0, 0.4, -0.6] } });
}

/** Bundles of reed that fly onto a roof, course by course, as a zone passes over it. */
export function thatch(): GeneratorDocument {
	const b = new Builder('thatch');
	const bundle = b.add('cylinder', 'bundle', [0, 0], {
		radius: 0.13,
		topRadius: 0.05,
		height: 0.95,
		segments: 9
	});
	const ragged = b.add(
		'displace-by-noise',
		'ragged',
		[240, 0],
		{ along: 'every', amount: 0.03, size: [0.12, 0.12, 0.12] },
		{ geometry: [bundle, 'mesh'] }
	);
	const lying = b.add(
		'transform',
		'lying',
		[480, 0],
		{ move: [0, 0.05, 0.35], rotation: [-84, 0, 0], scale: [1, 1, 0.6] },
		{ geometry: [ragged, 'geometry'] }
	);
	const reed = b.add('material', 'reed', [720, 0], { ...REED }, { geometry: [lying, 'geometry'] });
	const courses = b.add('grid-of-points', 'courses', [480, 220], {
		countX: 26,
		countZ: 11,
		spacing: [0.2, 1, 0.36],
		stagger: 0.5
	});
	const bundles = b.add(
		'place-copies',
		'bundles',
		[960, 120],
		{
			follow: false,
			rotation: [around(0, 2, 'thatch-lift'), around(0, 7, 'thatch-turn'), around(0, 5, 'thatch-tip')],
			scale: around(1, 0.12, 'thatch-size')
		},
		{ points: [courses, 'points'], source: [reed, 'geometry'] }
	);
	// A ladder goes along the roof; behind it bundles are laid in their order, each course a little after the one below.
	const peeled = (name: string, y: number, source: GraphNode) =>
		b.add(
			'material',
			`${name}Peeled`,
			[600, y],
			{ name: 'Peeled wood', colour: [0.42, 0.33, 0.2], roughness: 0.8 },
			{ geometry: [source, 'mesh'] }
		);
	const rail = b.add('box', 'rail', [480, 420], { size: [0.06, 0.09, 4.6] });
	const rails = b.add(
		'place-copies',
		'rails',
		[720, 420],
		{ follow: false },
		{
			points: [
				b.add('row-of-points', 'railPlaces', [480, 540], { count: 2, spacing: 0.44, centred: true }),
				'points'
			],
			source: [peeled('rail', 420, rail), 'geometry']
		}
	);
	const rung = b.add('box', 'rung', [480, 660], { size: [0.42, 0.05, 0.05] });
	const rungs = b.add(
		'place-copies',
		'rungs',
		[720, 660],
		{ follow: false },
		{
			points: [
				b.add('row-of-points', 'rungPlaces', [480, 780], {
					count: 13,
					spacing: 0.34,
					direction: [0, 0, 1],
					centred: true
				}),
				'points'
			],
			source: [peeled('rung', 660, rung), 'geometry']
		}
	);
	const both = b.add(
		'merge',
		'ladderMade',
		[960, 540],
		{},
		{
			geometry: [
				[rails, 'copies'],
				[rungs, 'copies']
			]
		}
	);
	const ladder = b.add(
		'transform',
		'ladder',
		[1220, 540],
		{
			move: {
				keys: [
					key(1, [-3, 0.32, 0.2]),
					key(8, [-3, 0.32, 0.2], 'linear'),
					key(104, [3.9, 0.32, 0.2]),
					key(120, [3.9, 0.32, 0.2])
				]
			}
		},
		{ geometry: [both, 'geometry'] }
	);
	const laid = b.add(
		'latch',
		'laid',
		[1220, 200],
		{
			elements: 'copy',
			name: 'laid',
			when: formula('abs(ladder.move.x - 0.4 - 0.09 * (10 - attribute.row) - position.x) < 0.2')
		},
		{ geometry: [bundles, 'copies'] }
	);
	const waiting = b.add(
		'transform',
		'waiting',
		[1480, 200],
		{
			about: 'own',
			move: [0, 2.6, 1.6],
			rotation: [70, 0, 0],
			weight: formula('1 - attribute.laid')
		},
		{ geometry: [laid, 'geometry'] }
	);
	const flying = b.add(
		'damped-follow',
		'flying',
		[1740, 200],
		{ follows: 'position', stiffness: 70, damping: 11 },
		{ geometry: [waiting, 'geometry'] }
	);
	const turning = b.add(
		'damped-follow',
		'turning',
		[2000, 200],
		{ follows: 'rotation', stiffness: 60, damping: 10 },
		{ geometry: [flying, 'geometry'] }
	);
	// Those that have not set out are not seen; their ids stay.
	const seen = b.add(
		'hide-where',
		'seen',
		[2260, 200],
		{ weight: formula('1 - attribute.laid') },
		{ copies: [turning, 'geometry'] }
	);
	const pitched = b.add(
		'transform',
		'pitched',
		[2520, 200],
		{ move: [0, 1.5, 0], rotation: [42, 0, 0] },
		{ geometry: [seen, 'copies'] }
	);
	const rafter = b.add('box', 'rafter', [1480, 480], { size: [0.09, 0.14, 4.9] });
	const lath = b.add('box', 'lath', [1480, 660], { size: [5.6, 0.04, 0.06] });
	const rafters = b.add('row-of-points', 'rafterPlaces', [1480, 400], {
		count: 5,
		spacing: 1.3,
		centred: true
	});
	const laths = b.add('grid-of-points', 'lathPlaces', [1480, 800], {
		countX: 1,
		countZ: 11,
		spacing: [1, 1, 0.4]
	});
	const placed = (name: string, y: number, points: GraphNode, source: GraphNode, offset: number) => {
		const tarred = b.add(
			'material',
			`${name}Tarred`,
			[1740, y],
			{ ...TARRED },
			{ geometry: [source, 'mesh'] }
		);
		return b.add(
			'place-copies',
			name,
			[2000, y],
			{ follow: false, offset: [0, offset, 0] },
			{ points: [points, 'points'], source: [tarred, 'geometry'] }
		);
	};
	const frame = b.add(
		'merge',
		'frame',
		[2260, 560],
		{},
		{
			geometry: [
				[placed('rafters', 480, rafters, rafter, -0.16), 'copies'],
				[placed('laths', 660, laths, lath, -0.06), 'copies'],
				[ladder, 'geometry']
			]
		}
	);
	const raised = b.add(
		'transform',
		'raised',
		[2520, 560],
		{ move: [0, 1.5, 0], rotation: [formula('pitched.rotation.x'), 0, 0] },
		{ geometry: [frame, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'together',
		[2780, 360],
		{},
		{
			geometry: [
				[raised, 'geometry'],
				[pitched, 'geometry']
			]
		}
	);
	b.add('result', 'result', [3020, 360], {}, { geometry: [all, 'geometry'] });
	b.note(
		[960, 560],
		'Bundles are laid behind the ladder, in their order along each course; the courses above follow.',
		220
	);
	b.note([1740, 60], 'Each bundle flies in and settles by two damped follows: its place, and its turn.', 240);
	return b.done('Thatch that lays itself', 3, {
		camera: { position: [3.6, 3.4, 7.4], target: [0, 1.4, 0] }
	});
}
