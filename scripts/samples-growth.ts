/** What grows on the flat: glasswort, sedge, sea lavender and mangroves. */
import type { GeneratorDocument, GraphNode } from '../core/engine/index.ts';
import { rampOf } from '../core/varying/index.ts';
import { Builder, formula, range } from './sample-builder.ts';

type Output = [GraphNode, string];

/** A patch of wet mud, and points on it. */
function mud(b: Builder, size: number, count: number, apart: number): { ground: GraphNode; sown: GraphNode } {
	const relief = b.add('noise-value', 'ripples', [0, 200], {
		pattern: 'hills',
		size: [0.9, 1, 0.7],
		octaves: 3,
		low: -0.03,
		high: 0.05
	});
	const flat = b.add('grid', 'flat', [0, 0], { width: size, depth: size, columns: 60, rows: 60 });
	const raised = b.add(
		'displace',
		'mudbank',
		[280, 0],
		{ along: 'direction', direction: [0, 1, 0] },
		{ geometry: [flat, 'mesh'], amount: [relief, 'value'] }
	);
	const ground = b.add(
		'material',
		'mud',
		[560, 0],
		{ name: 'Mud', colour: [0.16, 0.12, 0.085], roughness: 0.55 },
		{ geometry: [raised, 'geometry'] }
	);
	const sown = b.add(
		'sow-points',
		'sowing',
		[560, 200],
		{
			by: 'count',
			count,
			upright: true,
			minimumDistance: apart,
			weight: formula('1 - smoothstep(0.55, 1, len(position) / ' + String(size / 2) + ')')
		},
		{ surface: [raised, 'geometry'] }
	);
	return { ground, sown };
}

/** Several things in one, and the result. */
function together(b: Builder, things: Output[]): void {
	const all = b.add('merge', 'together', [2600, 0], {}, { geometry: things });
	b.add('result', 'result', [2880, 0], {}, { geometry: [all, 'geometry'] });
}

export function glasswort(): GeneratorDocument {
	const b = new Builder('glasswort');
	const { ground, sown } = mud(b, 1.3, 10, 0.03);
	const bead = b.add('sphere', 'bead', [560, 500], { radius: 0.5, segments: 8, rows: 6 });
	const joint = b.add(
		'transform',
		'joint',
		[840, 500],
		{ scale: [0.022, 0.07, 0.022], move: [0, 0.03, 0] },
		{ geometry: [bead, 'mesh'] }
	);
	const flesh = b.add(
		'material',
		'flesh',
		[1120, 500],
		{ name: 'Glasswort', colour: [1, 1, 1], roughness: 0.45 },
		{ geometry: [joint, 'geometry'] }
	);
	const plants = b.add(
		'branching-copies',
		'plants',
		[1400, 300],
		{
			levels: 6,
			children: 2,
			move: [0, 0.058, 0],
			rotation: [
				0,
				formula('level * 90 + random(-20, 20)', 'gw-turn'),
				formula('(sibling - 0.5) * 62 + random(-9, 9)', 'gw-lean')
			],
			scale: formula('0.93 + random(-0.05, 0.03)', 'gw-size')
		},
		{ source: [flesh, 'geometry'], roots: [sown, 'points'] }
	);
	const reddened = b.add(
		'write-attribute',
		'reddened',
		[1680, 300],
		{
			name: 'colour',
			elements: 'copy',
			type: 'colour',
			value: formula(
				'mix(vec(0.1, 0.22, 0.05), vec(0.42, 0.05, 0.06), smoothstep(0.35, 1, progress) * random(0.6, 1))',
				'gw-red'
			)
		},
		{ geometry: [plants, 'copies'] }
	);
	together(b, [
		[ground, 'geometry'],
		[reddened, 'geometry']
	]);
	b.note([1400, 620], 'Each joint carries two, turned a quarter each time. One level more is one number.');
	return b.done('Glasswort', 3, { camera: { position: [0.85, 0.6, 1.1], target: [0, 0.16, 0] } });
}

export function sedgeTussock(): GeneratorDocument {
	const b = new Builder('sedge');
	const { ground, sown } = mud(b, 2.1, 4, 0.01);
	const whorls = b.add(
		'whorl-of-points',
		'tufts',
		[840, 300],
		{
			count: 240,
			radius: formula('0.16 * sqrt(random(0, 1))', 'sedge-where'),
			angle: formula('random(4, 24)', 'sedge-out'),
			turn: range(0, 360, 'sedge-round')
		},
		{ about: [sown, 'points'] }
	);
	const strands = b.add(
		'grow-strands',
		'blades',
		[1120, 300],
		{
			length: range(0.35, 0.85, 'sedge-long'),
			lean: range(0, 18, 'sedge-lean'),
			direction: range(-60, 60, 'sedge-side'),
			bend: range(15, 95, 'sedge-bend'),
			bendAt: range(0.4, 0.85, 'sedge-place'),
			droop: range(0, 0.22, 'sedge-droop'),
			width: range(0.005, 0.012, 'sedge-wide')
		},
		{ from: [whorls, 'points'] }
	);
	const clumped = b.add(
		'clump',
		'wisps',
		[1400, 300],
		{ size: 14, amount: 0.35, shape: 2 },
		{ strands: [strands, 'strands'] }
	);
	const ribbons = b.add(
		'ribbon',
		'ribbons',
		[1680, 300],
		{ width: formula('attribute.width * (1 - 0.94 * u ^ 2)'), up: 'curve' },
		{ curve: [clumped, 'strands'] }
	);
	const green = b.add(
		'write-attribute',
		'greens',
		[1960, 300],
		{
			name: 'colour',
			elements: 'point',
			type: 'colour',
			value: formula('mix(vec(0.11, 0.16, 0.05), vec(0.42, 0.36, 0.14), clamp(position.y * 1.5, 0, 1))')
		},
		{ geometry: [ribbons, 'mesh'] }
	);
	const blade = b.add(
		'material',
		'blade',
		[2240, 300],
		{ name: 'Sedge', colour: [1, 1, 1], roughness: 0.6, twoSided: true },
		{ geometry: [green, 'geometry'] }
	);
	together(b, [
		[ground, 'geometry'],
		[blade, 'geometry']
	]);
	b.note(
		[1120, 640],
		'Each blade bends by its own amount and at its own place: two ranges that know nothing of one another.'
	);
	return b.done('Sedge tussock', 8, { camera: { position: [1.5, 0.95, 1.9], target: [0, 0.25, 0] } });
}

export function seaLavender(): GeneratorDocument {
	const b = new Builder('lavender');
	const { ground, sown } = mud(b, 1.3, 6, 0.05);
	const sprays = b.add(
		'grow-branches',
		'sprays',
		[840, 260],
		{
			levels: 2,
			stemLength: range(0.35, 0.6, 'sl-tall'),
			stemRadius: 0.006,
			count: formula('choose(level == 1, random(4, 8), random(3, 7))', 'sl-many', 'sl-few'),
			start: 0.4,
			end: 0.97,
			angle: range(28, 52, 'sl-angle'),
			length: range(0.42, 0.62, 'sl-long'),
			radius: 0.6,
			segments: 6,
			towards: 'direction',
			direction: [0.4, 1, 0.2],
			pull: 0.6,
			wobble: 8,
			wave: 0.15,
			leafLevel: 2,
			leafSpacing: 0.01,
			leafStart: 0.45,
			leafAngle: 55,
			leafSize: rampOf('linear', [0, 1], [1, 0.6])
		},
		{ from: [sown, 'points'] }
	);
	const stems = b.add(
		'tube',
		'stems',
		[1120, 140],
		{ radius: formula('radius'), segments: 5 },
		{ curve: [sprays, 'branches'] }
	);
	const stalk = b.add(
		'material',
		'stalk',
		[1400, 140],
		{ name: 'Stalk', colour: [0.16, 0.24, 0.1], roughness: 0.7 },
		{ geometry: [stems, 'mesh'] }
	);
	const petal = b.add('leaf', 'petal', [840, 640], {
		length: 0.014,
		width: 0.011,
		bend: 40,
		fold: 15,
		along: 3,
		across: 1,
		colour: [0.36, 0.22, 0.55]
	});
	const flowers = b.add(
		'place-copies',
		'flowers',
		[1400, 400],
		{ rotation: [range(-25, 25, 'sl-tilt'), range(0, 360, 'sl-spin'), 0], scale: range(0.7, 1.3, 'sl-size') },
		{ points: [sprays, 'leaves'], source: [petal, 'mesh'] }
	);
	const rosette = b.add(
		'whorl-of-points',
		'rosettes',
		[840, 860],
		{
			count: range(6, 10, 'sl-leaves'),
			radius: 0.015,
			angle: formula('random(48, 74)', 'sl-open'),
			turn: range(0, 360, 'sl-turn')
		},
		{ about: [sown, 'points'] }
	);
	const blade = b.add('leaf', 'blade', [840, 1060], {
		length: 0.17,
		width: 0.055,
		bend: 35,
		fold: 14,
		wave: 0.004,
		waves: 3,
		along: 8,
		across: 2,
		colour: [0.12, 0.2, 0.09]
	});
	const leaves = b.add(
		'place-copies',
		'leaves',
		[1400, 900],
		{ scale: range(0.65, 1.15, 'sl-leaf'), up: 'y', forward: 'z' },
		{ points: [rosette, 'points'], source: [blade, 'mesh'] }
	);
	together(b, [
		[ground, 'geometry'],
		[stalk, 'geometry'],
		[flowers, 'copies'],
		[leaves, 'copies']
	]);
	b.note(
		[1120, 1160],
		'Whorls of leaves at the ground; sprays that turn to the light, each of its own fullness.'
	);
	return b.done('Sea lavender', 4, { camera: { position: [0.85, 0.62, 1.1], target: [0, 0.22, 0] } });
}

export function mangrove(): GeneratorDocument {
	const b = new Builder('mangrove');
	/** Limbs that go some way: used for the roots, and for the crown. */
	const limbs = b.body('limbs', 'Limbs', (inner) => {
		const from = inner.add('input', 'from', [0, 0], { name: 'from', carries: 'geometry' });
		const way = inner.add('input', 'way', [0, 140], {
			name: 'way',
			carries: 'vector',
			defaultParts: [0, 1, 0],
			says: 'Where they are drawn.'
		});
		const pull = inner.add('input', 'pull', [0, 280], {
			name: 'pull',
			carries: 'number',
			default: 0.5,
			says: 'How strongly.'
		});
		const levels = inner.add('input', 'levels', [0, 420], {
			name: 'levels',
			carries: 'whole',
			default: 2,
			limited: true,
			minimum: 0,
			maximum: 4
		});
		const length = inner.add('input', 'length', [0, 560], {
			name: 'length',
			carries: 'number',
			default: 2,
			unit: 'm'
		});
		const thick = inner.add('input', 'thick', [0, 700], {
			name: 'thick',
			carries: 'number',
			default: 0.1,
			unit: 'm'
		});
		const grown = inner.add(
			'grow-branches',
			'grown',
			[300, 200],
			{
				count: formula('random(3, 5)', 'mg-many'),
				start: 0.35,
				end: 0.95,
				angle: range(32, 58, 'mg-angle'),
				length: range(0.5, 0.72, 'mg-long'),
				lengthRamp: rampOf('linear', [0, 1], [1, 0.7]),
				radius: 0.62,
				collar: 0.7,
				segments: 9,
				towards: 'direction',
				wobble: 16,
				wave: 0.7,
				leafLevel: formula('levels.value'),
				leafSpacing: 0.055,
				leafStart: 0.25,
				leafAngle: 48
			},
			{
				from: [from, 'value'],
				direction: [way, 'value'],
				pull: [pull, 'value'],
				levels: [levels, 'value'],
				stemLength: [length, 'value'],
				stemRadius: [thick, 'value']
			},
			{ drafts: { segments: 4 } }
		);
		inner.add('level-of-detail', 'detail', [300, 700], {});
		const bark = inner.add(
			'tube',
			'bark',
			[600, 200],
			{
				radius: formula('radius'),
				segments: formula('max(3, 8 / 2 ^ detail.level)'),
				repeat: formula('1 + level')
			},
			{ curve: [grown, 'branches'] }
		);
		inner.add('output', 'mesh', [900, 200], { name: 'mesh', carries: 'geometry' }, { value: [bark, 'mesh'] });
		inner.add(
			'output',
			'leaves',
			[900, 380],
			{ name: 'leaves', carries: 'geometry' },
			{ value: [grown, 'leaves'] }
		);
	});
	const flat = b.add('grid', 'flat', [0, 0], { width: 5.4, depth: 5.4, columns: 80, rows: 80 });
	const relief = b.add('noise-value', 'ripples', [0, 200], {
		pattern: 'hills',
		size: [1.6, 1, 1.2],
		octaves: 3,
		low: -0.08,
		high: 0.08
	});
	const raised = b.add(
		'displace',
		'mudbank',
		[280, 0],
		{ along: 'direction', direction: [0, 1, 0] },
		{ geometry: [flat, 'mesh'], amount: [relief, 'value'] }
	);
	const ground = b.add(
		'material',
		'mud',
		[560, 0],
		{ name: 'Mud', colour: [0.15, 0.115, 0.08], roughness: 0.5 },
		{ geometry: [raised, 'geometry'] }
	);
	const fork = b.add('whorl-of-points', 'fork', [280, 420], {
		count: 3,
		radius: 0.02,
		angle: formula('random(14, 34)', 'mg-fork'),
		rise: 1.55,
		turn: 20
	});
	const crown = b.add(
		'subgraph',
		'crown',
		[840, 400],
		{
			body: limbs,
			way: [0.15, 1, 0.1],
			pull: 0.7,
			levels: 2,
			length: range(1.5, 2.1, 'mg-crown'),
			thick: 0.085
		},
		{ from: [fork, 'points'] }
	);
	const props = b.add('whorl-of-points', 'props', [280, 700], {
		count: 11,
		radius: 0.05,
		angle: formula('random(62, 84)', 'mg-prop'),
		rise: formula('random(0.8, 1.6)', 'mg-rise')
	});
	const roots = b.add(
		'subgraph',
		'roots',
		[840, 760],
		{ body: limbs, way: [0, -1, 0], pull: 1.6, levels: 1, length: range(1.5, 1.9, 'mg-roots'), thick: 0.05 },
		{ from: [props, 'points'] }
	);
	const stem = b.add('line', 'stem', [280, 960], { from: [0, 0.55, 0], to: [0, 1.6, 0], points: 6 });
	const trunk = b.add(
		'tube',
		'trunk',
		[560, 960],
		{ radius: formula('0.085 + 0.02 * sin(9 * u)'), segments: 10 },
		{ curve: [stem, 'curve'] }
	);
	const wood = b.add(
		'merge',
		'wood',
		[1120, 700],
		{},
		{
			geometry: [
				[crown, 'mesh'],
				[roots, 'mesh'],
				[trunk, 'mesh']
			]
		}
	);
	const bark = b.add(
		'material',
		'bark',
		[1400, 700],
		{ name: 'Bark', colour: [0.21, 0.16, 0.12], roughness: 0.85 },
		{ geometry: [wood, 'geometry'] }
	);
	const detail = b.add('level-of-detail', 'detail', [560, 1180], {});
	const blade = b.add(
		'leaf',
		'blade',
		[840, 1140],
		{
			length: 0.15,
			width: 0.065,
			bend: 18,
			fold: 12,
			along: 4,
			across: 1,
			colour: [0.09, 0.19, 0.06]
		},
		{ detail: [detail, 'level'] }
	);
	const leaves = b.add(
		'place-copies',
		'foliage',
		[1400, 1000],
		{
			rotation: [range(-20, 20, 'mg-tilt'), range(0, 360, 'mg-spin'), 0],
			scale: range(0.7, 1.25, 'mg-leaf')
		},
		{ points: [crown, 'leaves'], source: [blade, 'mesh'] }
	);
	together(b, [
		[ground, 'geometry'],
		[bark, 'geometry'],
		[leaves, 'copies']
	]);
	b.note(
		[840, 1300],
		'Crown and roots are two uses of one subgraph, “Limbs”: one is drawn up, the other down.'
	);
	return b.done('Mangrove', 6, { camera: { position: [4.2, 2.6, 5.4], target: [0, 1.5, 0] } });
}
