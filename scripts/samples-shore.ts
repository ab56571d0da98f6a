/** Samples of the shore: what grows from a drawn line and from what is near. */
import type { GeneratorDocument } from '../core/engine/index.ts';
import { Builder, around, formula, range } from './sample-builder.ts';

/** A place of a drawn line. */
const at = (x: number, y: number, z: number) => ({ at: [x, y, z] });

/** Rows of stakes along a drawn tide line; between neighbours plots as large as they are apart, in which shells lie. */
export function oysterPlots(): GeneratorDocument {
	const b = new Builder('oyster');
	const relief = b.add('noise-value', 'relief', [-40, 420], {
		pattern: 'hills',
		size: [6, 1, 4],
		octaves: 3,
		low: -0.3,
		high: 0.32
	});
	const flat = b.add('grid', 'flat', [-40, 200], { width: 21, depth: 9.4, columns: 84, rows: 38 });
	const tide = b.add(
		'displace',
		'tideFlat',
		[240, 300],
		{ along: 'direction', direction: [0, 1, 0] },
		{ geometry: [flat, 'mesh'], amount: [relief, 'value'] }
	);
	const mud = b.add(
		'material',
		'mud',
		[1360, 520],
		{ name: 'Mud', colour: [0.2, 0.15, 0.1], roughness: 0.75 },
		{ geometry: [tide, 'geometry'] }
	);
	// A tide line, drawn; rows of stakes along it, each a step further up.
	const line = b.add('draw-curve', 'tideLine', [-320, -240], {
		path: {
			path: [at(-9.2, 0, -1), at(-5, 0, 1.2), at(-0.4, 0, -0.6), at(4.4, 0, 1.1), at(9, 0, -0.8)]
		},
		type: 'through',
		segments: 24
	});
	const up = b.add('row-of-points', 'up', [-320, -40], {
		count: 6,
		spacing: 1.05,
		direction: [0, 0, -1],
		centred: true
	});
	const rows = b.add(
		'place-copies',
		'rows',
		[-40, -160],
		{ follow: false, offset: [0, 2, 0] },
		{ points: [up, 'points'], source: [line, 'curve'] }
	);
	const lines = b.add('copies-to-mesh', 'lines', [240, -160], {}, { copies: [rows, 'copies'] });
	const places = b.add(
		'points-along-curve',
		'places',
		[520, -160],
		{ by: 'fitted', spacing: 0.8 },
		{ curve: [lines, 'mesh'] }
	);
	const strayed = b.add(
		'displace',
		'strayed',
		[660, -300],
		{
			along: 'vector',
			amount: 1,
			vector: formula('vec(random(-0.3, 0.3), 0, random(-0.14, 0.14))', 'oyster-along', 'oyster-aside')
		},
		{ geometry: [places, 'points'] }
	);
	const onMud = b.add(
		'project-on-surface',
		'onMud',
		[800, -80],
		{ by: 'direction', direction: [0, -1, 0] },
		{ geometry: [strayed, 'geometry'], surface: [tide, 'geometry'] }
	);
	const low = b.add(
		'keep-where',
		'whereLow',
		[1080, -160],
		{ condition: formula('position.y < random(0.05, 0.4)', 'oyster-low'), oldIndex: '' },
		{ geometry: [onMud, 'geometry'] }
	);
	const stake = b.add('cylinder', 'stake', [1080, -420], {
		radius: 0.045,
		topRadius: 0.034,
		height: 1.2,
		segments: 8,
		edge: 'chamfered',
		bevel: 0.006
	});
	const wood = b.add(
		'material',
		'greyWood',
		[1360, -420],
		{ name: 'Weathered wood', colour: [0.36, 0.29, 0.22], roughness: 0.9 },
		{ geometry: [stake, 'mesh'] }
	);
	const stakes = b.add(
		'place-copies',
		'stakes',
		[1640, -240],
		{
			rotation: [around(0, 5, 'oyster-lean'), range(0, 360, 'oyster-turn'), around(0, 5, 'oyster-sway')],
			scale: [1, around(0.9, 0.2, 'oyster-tall'), 1],
			offset: [0, -0.3, 0]
		},
		{ points: [low, 'geometry'], source: [wood, 'geometry'] }
	);
	// Between each stake and its nearest neighbour lies a plot, as large as the two are apart.
	const pairs = b.add(
		'nearest-neighbours',
		'pairs',
		[1360, 40],
		{ method: 'distance', distance: 1.1, most: 1 },
		{ points: [low, 'geometry'] }
	);
	const middles = b.add(
		'points-along-curve',
		'middles',
		[1640, -40],
		{ by: 'count', count: 1, putAt: 'middles' },
		{ curve: [pairs, 'lines'] }
	);
	const disc = b.add('disc', 'oval', [1360, 200], { radius: 0.5, segments: 28 });
	const grown = b.add(
		'place-copies',
		'grown',
		[1920, -40],
		{
			up: 'y',
			forward: 'x',
			scale: [formula('0.9 * length'), 1, formula('0.9 * length * random(0.65, 0.9)', 'oyster-oval')]
		},
		{ points: [middles, 'points'], source: [disc, 'mesh'] }
	);
	const plots = b.add('copies-to-mesh', 'plots', [1640, 140], {}, { copies: [grown, 'copies'] });
	const raised = b.add(
		'transform',
		'raised',
		[1640, 40],
		{ move: [0, 0.06, 0] },
		{ geometry: [plots, 'mesh'] }
	);
	const silt = b.add(
		'material',
		'silt',
		[1920, 40],
		{ name: 'Silt', colour: [0.33, 0.27, 0.2], roughness: 0.85 },
		{ geometry: [raised, 'geometry'] }
	);
	const sown = b.add(
		'sow-points',
		'sowing',
		[1920, 240],
		{ by: 'density', density: 55, minimumDistance: 0.05 },
		{ surface: [raised, 'geometry'] }
	);
	const shell = b.add('sphere', 'shell', [1640, 420], { radius: 0.5, segments: 9, rows: 6 });
	const lime = b.add(
		'material',
		'lime',
		[1920, 420],
		{ name: 'Shell', colour: [0.62, 0.6, 0.54], roughness: 0.6 },
		{ geometry: [shell, 'mesh'] }
	);
	const shells = b.add(
		'place-copies',
		'shells',
		[2200, 320],
		{
			rotation: [around(0, 14, 'shell-tilt'), range(0, 360, 'shell-turn'), around(0, 14, 'shell-roll')],
			scale: [
				around(0.075, 0.02, 'shell-wide'),
				around(0.028, 0.01, 'shell-high'),
				around(0.11, 0.03, 'shell-long')
			]
		},
		{ points: [sown, 'points'], source: [lime, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'together',
		[2480, 100],
		{},
		{
			geometry: [
				[mud, 'geometry'],
				[stakes, 'copies'],
				[silt, 'geometry'],
				[shells, 'copies']
			]
		}
	);
	b.add('result', 'result', [2760, 100], {}, { geometry: [all, 'geometry'] });
	b.note([-320, -360], 'A tide line, drawn, and six rows of stakes along it, none quite where it should be.');
	b.note([1080, 60], 'Those that stand too high and dry are gone.', 220);
	b.note(
		[1920, 160],
		'A plot between each stake and its nearest neighbour, as long as they are apart; shells in it.'
	);
	return b.done('Oyster plots', 11, { camera: { position: [4.6, 4.2, 8.6], target: [0.2, -0.2, 0.2] } });
}
