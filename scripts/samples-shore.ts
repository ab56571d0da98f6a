/** Samples of the shore: what is made of numbers, lists and conditions. */
import type { GeneratorDocument } from '../core/index.ts';
import { Builder, around, formula, range } from './sample-builder.ts';

/** Rows of stakes along a bending tide line, thinned in a rhythm and by height, with rounded plots in which shells lie. */
export function oysterPlots(): GeneratorDocument {
	const b = new Builder('oyster');
	const relief = b.add('noise-value', 'relief', [-40, 420], {
		pattern: 'hills',
		size: [9, 1, 6],
		octaves: 3,
		low: -0.3,
		high: 0.32
	});
	const flat = b.add('grid', 'flat', [-40, 200], { width: 38, depth: 16, columns: 114, rows: 48 });
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
	const numbers = b.add('count-up', 'numbers', [-320, -160], { start: 0, step: 1, count: 240 });
	const one = { inputs: [{ name: 'n', value: 0 }] };
	const along = b.add(
		'formula',
		'along',
		[-40, -240],
		{ formula: 'floor(n / 4) * 0.56 - 16.5' },
		{ n: [numbers, 'list'] },
		one
	);
	const across = b.add(
		'formula',
		'across',
		[-40, -80],
		{ formula: 'n % 4 * 0.95 - 1.4 + 3 * sin(floor(n / 4) / 13)' },
		{ n: [numbers, 'list'] },
		one
	);
	const places = b.add(
		'points-from-values',
		'places',
		[240, -160],
		{ count: formula('numbers.count'), y: 2 },
		{ x: [along, 'value'], z: [across, 'value'] }
	);
	const kept = b.add(
		'keep-in-rhythm',
		'threeOfFive',
		[520, -160],
		{ keep: 3, skip: 2 },
		{ geometry: [places, 'points'] }
	);
	const onMud = b.add(
		'project-on-surface',
		'onMud',
		[800, -80],
		{ by: 'direction', direction: [0, -1, 0] },
		{ geometry: [kept, 'geometry'], surface: [tide, 'geometry'] }
	);
	const low = b.add(
		'keep-where',
		'whereLow',
		[1080, -160],
		{ condition: formula('position.y < random(-0.05, 0.3)', 'oyster-low'), oldIndex: '' },
		{ geometry: [onMud, 'geometry'] }
	);
	const stake = b.add('cylinder', 'stake', [1080, -420], {
		radius: 0.028,
		topRadius: 0.022,
		height: 1.1,
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
	const plots = b.add(
		'voronoi-cells',
		'plots',
		[1360, 40],
		{
			limited: true,
			reach: 0.62,
			inset: 0.05,
			radius: around(0.16, 0.05, 'oyster-round'),
			segments: 24,
			as: 'faces',
			margin: 1
		},
		{ points: [low, 'geometry'] }
	);
	const raised = b.add(
		'transform',
		'raised',
		[1640, 40],
		{ move: [0, 0.06, 0] },
		{ geometry: [plots, 'cells'] }
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
	b.note(
		[-320, -330],
		'Numbers from 0 to 239, and two formulas of them: four rows of stakes along a tide line that bends.'
	);
	b.note([520, -330], 'Three stay, two go, again and again; then those go that stand too high and dry.');
	b.note(
		[1360, 200],
		'What is nearest to each stake, as far as 62 cm: a plot with round corners, and shells in it.'
	);
	return b.done('Oyster plots', 11, { camera: { position: [7.5, 6.2, 12.5], target: [0.5, -0.2, 0.6] } });
}
