/** The samples that people stand under and on: a lantern post and a stilt platform. */
import type { GeneratorDocument, GraphNode } from '../core/engine/index.ts';
import { Builder, around, formula, range } from './sample-builder.ts';

const TARRED = { name: 'Tarred wood', colour: [0.13, 0.09, 0.06], roughness: 0.88 };
const IRON = { name: 'Black iron', colour: [0.06, 0.06, 0.065], roughness: 0.5, metallic: 0.8 };
const HORN = { name: 'Horn pane', colour: [0.86, 0.62, 0.28], roughness: 0.35, twoSided: true };
const BOARDS = { name: 'Limed boards', colour: [0.62, 0.57, 0.47], roughness: 0.85 };
const SHUTTER = { name: 'Green shutters', colour: [0.1, 0.24, 0.2], roughness: 0.7 };
const THATCH = { name: 'Thatch', colour: [0.32, 0.24, 0.12], roughness: 1 };

/** A post with an arm as long as it is tall allows, and one lantern or a cluster of them. */
export function lanternPost(): GeneratorDocument {
	const b = new Builder('lantern');
	const painted = (
		name: string,
		at: [number, number],
		material: object,
		from: [GraphNode, string]
	): [GraphNode, string] => [b.add('material', name, at, { ...material }, { geometry: from }), 'geometry'];

	const post = b.add('cylinder', 'post', [0, 0], {
		radius: 0.075,
		topRadius: 0.055,
		height: 2.8,
		segments: 10,
		edge: 'rounded',
		bevel: 0.02
	});
	const wood = painted('tarred', [260, 0], TARRED, [post, 'mesh']);
	b.add('number', 'reach', [0, 220], { value: 0.84, low: 0.3, high: 1.6, step: 0.01 });
	const beam = b.add('line', 'beam', [260, 220], {
		from: [formula('-0.14 * reach.value'), formula('post.height - 0.2'), 0],
		to: [formula('reach.value'), formula('post.height - 0.2'), 0],
		points: 24
	});
	const bowed = b.add(
		'displace',
		'bow',
		[520, 220],
		{ along: 'direction', direction: [0, 1, 0], amount: formula('0.16 * u * u') },
		{ geometry: [beam, 'curve'] }
	);
	const arm = b.add(
		'tube',
		'arm',
		[780, 220],
		{ radius: formula('0.034 - 0.014 * u'), segments: 8 },
		{ curve: [bowed, 'geometry'] }
	);
	const brace = b.add('line', 'brace', [260, 420], {
		from: [0, formula('post.height - 0.2 - 0.6 * reach.value'), 0],
		to: [formula('0.52 * reach.value'), formula('post.height - 0.16'), 0],
		points: 2
	});
	const strut = b.add(
		'tube',
		'strut',
		[520, 420],
		{ radius: 0.02, segments: 8 },
		{ curve: [brace, 'curve'] }
	);
	const armWood = painted('tarredArm', [1040, 220], TARRED, [arm, 'mesh']);
	const strutWood = painted('tarredBrace', [780, 420], TARRED, [strut, 'mesh']);

	// One lantern, its hook at the origin.
	const pane = b.add('cylinder', 'pane', [0, 660], {
		radius: 0.075,
		topRadius: 0.088,
		height: 0.17,
		segments: 6
	});
	const paneDown = b.add(
		'transform',
		'paneDown',
		[260, 660],
		{ move: [0, -0.29, 0] },
		{ geometry: [pane, 'mesh'] }
	);
	const glass = painted('horn', [520, 660], HORN, [paneDown, 'geometry']);
	const hood = b.add('cylinder', 'hood', [0, 860], {
		radius: 0.115,
		topRadius: 0.012,
		height: 0.1,
		segments: 6
	});
	const hoodUp = b.add(
		'transform',
		'hoodUp',
		[260, 860],
		{ move: [0, -0.12, 0] },
		{ geometry: [hood, 'mesh'] }
	);
	const foot = b.add('cylinder', 'foot', [0, 1040], {
		radius: 0.085,
		topRadius: 0.085,
		height: 0.02,
		segments: 6
	});
	const footDown = b.add(
		'transform',
		'footDown',
		[260, 1040],
		{ move: [0, -0.31, 0] },
		{ geometry: [foot, 'mesh'] }
	);
	const loop = b.add('circle', 'loop', [0, 1220], { radius: 0.022, points: 20, facing: 'front' });
	const ring = b.add('tube', 'ring', [260, 1220], { radius: 0.005, segments: 6 }, { curve: [loop, 'curve'] });
	const metal = b.add(
		'merge',
		'metal',
		[520, 960],
		{},
		{
			geometry: [
				[hoodUp, 'geometry'],
				[footDown, 'geometry'],
				[ring, 'mesh']
			]
		}
	);
	const iron = painted('iron', [780, 960], IRON, [metal, 'geometry']);
	const lamp = b.add('merge', 'lamp', [1040, 760], {}, { geometry: [glass, iron] });

	// How many hang there: one, or a cluster.
	const cluster = b.add('yes-or-no', 'cluster', [780, 560], { value: false });
	const one = b.add('number', 'one', [780, 1160], { value: 1, low: 1, high: 1, whole: true });
	const some = b.add('number', 'some', [780, 1340], {
		value: range(3, 6, 'lantern-some'),
		low: 1,
		high: 12,
		whole: true
	});
	const many = b.add(
		'choose-input',
		'many',
		[1040, 1160],
		{ of: 'value', by: 'number' },
		{
			values: [
				[one, 'value'],
				[some, 'value']
			],
			number: [cluster, 'value']
		}
	);
	const hangers = b.add(
		'ring-of-points',
		'hangers',
		[1300, 900],
		{ radius: formula('cluster.value * 0.19'), facing: 'outward' },
		{ count: [many, 'value'] }
	);
	const places = b.add(
		'transform',
		'atTheTip',
		[1560, 900],
		{ move: [formula('reach.value - 0.04'), formula('post.height - 0.2 + 0.15'), 0] },
		{ geometry: [hangers, 'points'] }
	);
	// The cluster hangs from a hoop, one lantern from a ring.
	const hoopLine = b.add('circle', 'hoopLine', [1300, 1400], {
		radius: formula('0.02 + cluster.value * 0.17'),
		points: 40
	});
	const hoop = b.add(
		'tube',
		'hoop',
		[1560, 1400],
		{ radius: 0.009, segments: 6 },
		{ curve: [hoopLine, 'curve'] }
	);
	const spoke = b.add('line', 'spoke', [1300, 1540], {
		from: [0, 0, formula('-0.02 - cluster.value * 0.17')],
		to: [0, 0, formula('0.02 + cluster.value * 0.17')],
		points: 2
	});
	const bar = b.add('tube', 'bar', [1560, 1540], { radius: 0.009, segments: 6 }, { curve: [spoke, 'curve'] });
	const hung = b.add(
		'merge',
		'hung',
		[1820, 1440],
		{},
		{
			geometry: [
				[hoop, 'mesh'],
				[bar, 'mesh']
			]
		}
	);
	const hoopUp = b.add(
		'transform',
		'hoopUp',
		[2080, 1440],
		{ move: [formula('reach.value - 0.04'), formula('post.height - 0.06'), 0] },
		{ geometry: [hung, 'geometry'] }
	);
	const hoopIron = painted('hoopIron', [2210, 1440], IRON, [hoopUp, 'geometry']);
	// Cord and lantern draw the same number, so that each cord is as long as its lantern hangs low.
	const drop = 'random(0.12, 0.12 + 0.5 * cluster.value, drop)';
	const lamps = b.add(
		'place-copies',
		'lamps',
		[1820, 760],
		{
			rotation: [0, range(0, 360, 'lantern-turn'), around(0, 3, 'lantern-tilt')],
			scale: around(1, 0.12, 'lantern-size'),
			offset: [0, formula(`-${drop}`), 0],
			follow: false
		},
		{ points: [places, 'geometry'], source: [lamp, 'geometry'] }
	);
	const thread = b.add('line', 'thread', [1300, 1200], { from: [0, 0, 0], to: [0, -1, 0], points: 2 });
	const cord = b.add(
		'tube',
		'cord',
		[1560, 1200],
		{ radius: 0.006, segments: 5 },
		{ curve: [thread, 'curve'] }
	);
	const hemp = painted('hemp', [1820, 1200], { name: 'Hemp', colour: [0.42, 0.3, 0.15], roughness: 1 }, [
		cord,
		'mesh'
	]);
	const cords = b.add(
		'place-copies',
		'cords',
		[2080, 1100],
		{ scale: [1, formula(drop), 1], follow: false },
		{ points: [places, 'geometry'], source: hemp }
	);
	const all = b.add(
		'merge',
		'together',
		[2340, 400],
		{},
		{ geometry: [wood, armWood, strutWood, hoopIron, [lamps, 'copies'], [cords, 'copies']] }
	);
	b.add('result', 'result', [2600, 400], {}, { geometry: [all, 'geometry'] });
	b.note([0, -130], 'Post and arm are tied: an arm is three tenths as long as its post is tall.');
	b.note([780, 1480], 'A yes hangs a cluster: how many is random, once for each seed.', 240);
	return b.done('Lantern post', 6, { camera: { position: [2.6, 2.6, 3.9], target: [0.3, 1.5, 0] } });
}

/** Storeys over any footprint, each on the top of the one below, on piles that stand in the mud. */
export function stiltPlatform(): GeneratorDocument {
	const b = new Builder('platform');
	const plan = b.add('rectangle', 'footprint', [0, 0], { width: 5, height: 3.6, round: 0.5, segments: 6 });
	const number = (short: string, y: number, value: number) =>
		b.add('number', short, [0, y], { value, low: 0, high: 9, step: 0.01 });
	number('deck', 220, 1.5);
	number('lowerBase', 380, 1.5);
	number('lowerTop', 540, 3.7);
	number('upperBase', 700, 3.7);
	number('upperTop', 860, 5.5);
	number('overhang', 1020, 0.28);
	/** The footprint, wider or narrower, at a height. */
	const level = (short: string, y: number, distance: unknown, height: string) => {
		const wide = b.add(
			'offset-curve',
			`${short}Line`,
			[280, y],
			{ distance, join: 'mitre' },
			{ curve: [plan, 'curve'] }
		);
		return b.add(
			'transform',
			`${short}Level`,
			[540, y],
			{ move: [0, formula(height), 0] },
			{ geometry: [wide, 'curve'] }
		);
	};
	const solid = (short: string, y: number, line: GraphNode, depth: unknown, material: object) => {
		const body = b.add('extrude', short, [800, y], { depth }, { outline: [line, 'geometry'] });
		return [
			b.add('material', `${short}Wood`, [1060, y], { ...material }, { geometry: [body, 'mesh'] }),
			'geometry'
		] as [GraphNode, string];
	};
	const deckLine = level('deckEdge', 0, 0.75, 'deck.value - 0.14');
	const deck = solid('planks', 0, deckLine, 0.14, TARRED);
	const lower = solid(
		'lower',
		220,
		level('lower', 220, -0.2, 'lowerBase.value'),
		formula('lowerTop.value - lowerBase.value'),
		BOARDS
	);
	const upper = solid(
		'upper',
		440,
		level('upper', 440, formula('overhang.value - 0.2'), 'upperBase.value'),
		formula('upperTop.value - upperBase.value'),
		SHUTTER
	);
	const eaves = level('eaves', 660, formula('overhang.value + 0.25'), 'upperTop.value');
	const ridge = level('ridge', 860, -1.35, 'upperTop.value + 1.35');
	const roof = b.add(
		'loft',
		'roof',
		[1060, 660],
		{ points: 120 },
		{
			curves: [
				[eaves, 'geometry'],
				[ridge, 'geometry']
			]
		}
	);
	const top = b.add('fill-outline', 'top', [1060, 860], {}, { outline: [ridge, 'geometry'] });
	const roofed = b.add(
		'merge',
		'roofed',
		[1200, 700],
		{},
		{
			geometry: [
				[roof, 'mesh'],
				[top, 'mesh']
			]
		}
	);
	const thatch = b.add(
		'material',
		'thatch',
		[1320, 660],
		{ ...THATCH, twoSided: true },
		{ geometry: [roofed, 'geometry'] }
	);
	const pileLine = b.add(
		'offset-curve',
		'pileLine',
		[280, 900],
		{ distance: 0.55, join: 'mitre' },
		{ curve: [plan, 'curve'] }
	);
	const pilePlaces = b.add(
		'points-along-curve',
		'pilePlaces',
		[540, 900],
		{ by: 'fitted', spacing: 1.3 },
		{ curve: [pileLine, 'curve'] }
	);
	const pile = b.add('cylinder', 'pile', [540, 1120], {
		radius: 0.11,
		topRadius: 0.09,
		height: 1,
		segments: 9
	});
	const pileWood = b.add('material', 'pileWood', [800, 1120], { ...TARRED }, { geometry: [pile, 'mesh'] });
	const piles = b.add(
		'place-copies',
		'piles',
		[1060, 900],
		{
			rotation: [
				around(0, 2, 'platform-lean'),
				range(0, 360, 'platform-turn'),
				around(0, 2, 'platform-sway')
			],
			scale: [around(1, 0.15, 'platform-thick'), formula('deck.value + 0.5'), 1],
			offset: [0, -0.5, 0],
			follow: false
		},
		{ points: [pilePlaces, 'points'], source: [pileWood, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'together',
		[1580, 300],
		{},
		{ geometry: [deck, lower, upper, [thatch, 'geometry'], [piles, 'copies']] }
	);
	b.add('result', 'result', [1840, 300], {}, { geometry: [all, 'geometry'] });
	b.note([0, -130], 'Any closed curve may be the footprint: deck, storeys, roof and piles follow it.');
	b.note(
		[-300, 540],
		'Each storey stands on the one below by a tie: drag either, and the other comes along.',
		220
	);
	return b.done('Stilt platform', 4, { camera: { position: [8.4, 6.2, 10.5], target: [0, 3, 0] } });
}

/** Lanterns on a rope between two posts: a gust comes and goes by keys, and each lantern swings a little later. */
export function lanternString(): GeneratorDocument {
	const b = new Builder('string');
	const key = (at: number, value: number) => ({ at, value, easing: 'smooth' as const });
	b.add('number', 'gust', [0, 0], {
		value: { keys: [key(1, 3), key(30, 26), key(70, 14), key(120, 3)] },
		low: 0,
		high: 60
	});
	b.add('number', 'late', [0, 180], { value: 0.45, low: 0, high: 2, step: 0.05 });
	const rope = b.add('line', 'rope', [0, 360], { from: [-3, 2.6, 0], to: [3, 2.6, 0], points: 80 });
	const sagging = b.add(
		'displace',
		'sag',
		[280, 360],
		{ along: 'direction', direction: [0, 1, 0], amount: formula('-0.55 * 4 * u * (1 - u)') },
		{ geometry: [rope, 'curve'] }
	);
	const swaying = b.add(
		'displace',
		'sway',
		[540, 360],
		{
			along: 'direction',
			direction: [0, 0, 1],
			amount: formula('0.012 * gust.value * sin(2.2 * time) * 4 * u * (1 - u)')
		},
		{ geometry: [sagging, 'geometry'] }
	);
	const line = b.add(
		'tube',
		'line',
		[800, 360],
		{ radius: 0.014, segments: 6 },
		{ curve: [swaying, 'geometry'] }
	);
	const hemp = b.add(
		'material',
		'hemp',
		[1060, 360],
		{ name: 'Hemp', colour: [0.42, 0.3, 0.15], roughness: 1 },
		{ geometry: [line, 'mesh'] }
	);
	const places = b.add(
		'points-along-curve',
		'places',
		[800, 560],
		{ by: 'fitted', spacing: 0.5, putAt: 'middles' },
		{ curve: [swaying, 'geometry'] }
	);
	const pane = b.add('cylinder', 'pane', [540, 760], {
		radius: 0.06,
		topRadius: 0.075,
		height: 0.15,
		segments: 6
	});
	const paneDown = b.add(
		'transform',
		'paneDown',
		[800, 760],
		{ move: [0, -0.3, 0] },
		{ geometry: [pane, 'mesh'] }
	);
	const glass = b.add('material', 'horn', [1060, 760], { ...HORN }, { geometry: [paneDown, 'geometry'] });
	const hood = b.add('cylinder', 'hood', [540, 940], {
		radius: 0.095,
		topRadius: 0.01,
		height: 0.09,
		segments: 6
	});
	const hoodDown = b.add(
		'transform',
		'hoodDown',
		[800, 940],
		{ move: [0, -0.15, 0] },
		{ geometry: [hood, 'mesh'] }
	);
	const stem = b.add('cylinder', 'stem', [540, 1120], {
		radius: 0.006,
		topRadius: 0.006,
		height: 0.08,
		segments: 5
	});
	const stemDown = b.add(
		'transform',
		'stemDown',
		[800, 1120],
		{ move: [0, -0.07, 0] },
		{ geometry: [stem, 'mesh'] }
	);
	const metal = b.add(
		'merge',
		'metal',
		[1060, 980],
		{},
		{
			geometry: [
				[hoodDown, 'geometry'],
				[stemDown, 'geometry']
			]
		}
	);
	const iron = b.add('material', 'iron', [1320, 980], { ...IRON }, { geometry: [metal, 'geometry'] });
	const lamp = b.add(
		'merge',
		'lamp',
		[1580, 860],
		{},
		{
			geometry: [
				[glass, 'geometry'],
				[iron, 'geometry']
			]
		}
	);
	const hung = b.add(
		'place-copies',
		'hung',
		[1840, 640],
		{
			rotation: [
				formula('gust.value * sin(2.8 * time - late.value * index)'),
				range(0, 360, 'string-turn'),
				formula('0.35 * gust.value * sin(3.7 * time - late.value * index)')
			],
			scale: around(1, 0.14, 'string-size'),
			follow: false
		},
		{ points: [places, 'points'], source: [lamp, 'geometry'] }
	);
	const swinging = b.add(
		'damped-follow',
		'swinging',
		[2100, 640],
		{ follows: 'rotation', stiffness: 40, damping: 3 },
		{ geometry: [hung, 'copies'] }
	);
	const post = b.add('cylinder', 'post', [1060, 140], {
		radius: 0.07,
		topRadius: 0.055,
		height: 2.75,
		segments: 10
	});
	const tarred = b.add('material', 'tarred', [1320, 140], { ...TARRED }, { geometry: [post, 'mesh'] });
	const ends = b.add('row-of-points', 'ends', [1320, 0], { count: 2, spacing: 6, centred: true });
	const posts = b.add(
		'place-copies',
		'posts',
		[1580, 80],
		{ follow: false, rotation: [around(0, 1, 'string-lean'), 0, around(0, 1, 'string-tip')] },
		{ points: [ends, 'points'], source: [tarred, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'together',
		[2360, 360],
		{},
		{
			geometry: [
				[posts, 'copies'],
				[hemp, 'geometry'],
				[swinging, 'geometry']
			]
		}
	);
	b.add('result', 'result', [2620, 360], {}, { geometry: [all, 'geometry'] });
	b.note([0, -120], 'The gust has keys: open the Timeline, play, and move them.');
	b.note(
		[1840, 860],
		'Each lantern swings later than the one before, and follows with a damped swing of its own.',
		240
	);
	return b.done('Lantern string', 5, { camera: { position: [2.2, 2.4, 6.2], target: [0, 1.6, 0] } });
}
