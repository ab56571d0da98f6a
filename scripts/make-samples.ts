/** Builds the sample generators of Saltreed and writes their files. Run after a change: npx tsx scripts/make-samples.ts */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import type { GeneratorDocument, Graph } from '../core/engine/index.ts';
import type { Asset } from '../core/geometry/index.ts';
import { writeDocument } from '../core/engine/index.ts';
import { hashBytes, packGenerator } from '../core/formats/index.ts';
import ELK from 'elkjs/lib/elk.bundled.js';
import { layoutOf, placesIn } from '../src/lib/editor/tidy.ts';
import { sizesOf } from './label-sizes.ts';
import { Builder, around, formula, range } from './sample-builder.ts';
import { dryingNet, dryingRack, paintedSign, ropeRail, wornBollard } from './samples-curves.ts';
import { shellDrift } from './samples-drift.ts';
import { glasswort, mangrove, seaLavender, sedgeTussock } from './samples-growth.ts';
import { floatLine, shingledRoof } from './samples-bodies.ts';
import { handedOut } from './samples-handed.ts';
import { oysterPlots } from './samples-shore.ts';
import { thatch, tideOrgan } from './samples-moving.ts';
import { lanternPost, lanternString, stiltPlatform } from './samples-village.ts';

function reedBed(): GeneratorDocument {
	const b = new Builder('reed');
	const relief = b.add('noise-value', 'relief', [-40, 250], {
		pattern: 'hills',
		size: [5, 1, 5],
		octaves: 4,
		low: -0.35,
		high: 0.4
	});
	const flat = b.add('grid', 'mudflat', [-40, 0], { width: 18, depth: 10.5, columns: 120, rows: 70 });
	const mud = b.add(
		'displace',
		'tide',
		[240, 60],
		{ along: 'direction', direction: [0, 1, 0] },
		{ geometry: [flat, 'mesh'], amount: [relief, 'value'] }
	);
	// Along one side the mud falls away to the creek, and all of it lies along the creek’s course.
	const bank = b.add(
		'displace',
		'bank',
		[380, 200],
		{
			along: 'direction',
			direction: [0, -1, 0],
			amount: formula('0.85 * smoothstep(2.1, 4.6, position.z) + 0.12 * smoothstep(3.2, 5.25, -position.z)')
		},
		{ geometry: [mud, 'geometry'] }
	);
	const course = b.add('draw-curve', 'creek', [240, 320], {
		path: {
			path: [{ at: [-8.6, 0, 2.4] }, { at: [-3.4, 0, -0.7] }, { at: [2.6, 0, 0.9] }, { at: [8.8, 0, -2.2] }]
		},
		type: 'through',
		segments: 24
	});
	const along = b.add(
		'lay-along-curve',
		'alongCreek',
		[480, 320],
		{ axis: 'x', length: 'stretch', up: 'world' },
		{ geometry: [bank, 'geometry'], path: [course, 'curve'] }
	);
	const ground = b.add(
		'material',
		'mud',
		[800, -120],
		{ name: 'Mud', colour: [0.2, 0.15, 0.1], roughness: 0.75 },
		{ geometry: [along, 'geometry'] }
	);
	const sown = b.add(
		'sow-points',
		'sowing',
		[800, 120],
		{
			by: 'density',
			density: 110,
			upright: true,
			minimumDistance: 0.03,
			weight: formula('smoothstep(-0.02, 0.16, position.y) * (1 - smoothstep(0.28, 0.4, position.y))')
		},
		{ surface: [along, 'geometry'] }
	);
	const spine = b.add('line', 'stalk', [240, 500], { from: [0, 0, 0], to: [0, 1, 0], points: 6 });
	const bent = b.add(
		'displace',
		'bow',
		[520, 530],
		{ along: 'vector', amount: 1, vector: formula('vec(0, 0, 0.16 * u^2)') },
		{ geometry: [spine, 'curve'] }
	);
	const blade = b.add(
		'tube',
		'blade',
		[800, 530],
		{ radius: formula('0.011 * (1 - 0.85 * u)'), segments: 3, caps: false },
		{ curve: [bent, 'geometry'] }
	);
	const green = b.add(
		'material',
		'reedGreen',
		[1080, 530],
		{ name: 'Reed', colour: [0.33, 0.38, 0.13], roughness: 0.7, twoSided: true },
		{ geometry: [blade, 'mesh'] }
	);
	const reeds = b.add(
		'place-copies',
		'reeds',
		[1080, 150],
		{
			rotation: [range(-9, 9, 'reed-lean'), range(0, 360, 'reed-turn'), range(-7, 7, 'reed-sway')],
			scale: [range(0.7, 1.5, 'reed-thick'), around(1.35, 0.45, 'reed-height'), range(0.7, 1.6, 'reed-bow')]
		},
		{ points: [sown, 'points'], source: [green, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'together',
		[1360, 20],
		{},
		{
			geometry: [
				[ground, 'geometry'],
				[reeds, 'copies']
			]
		}
	);
	b.add('result', 'result', [1620, 20], {}, { geometry: [all, 'geometry'] });
	b.note(
		[-40, -110],
		'The mudflat: lifted and lowered by noise, falling away on one side, and laid along the creek’s course.'
	);
	b.note([800, 300], 'Reeds grow between the low-tide line and the dry crest: the weight reads the height.');
	b.note(
		[240, 700],
		'One reed, one metre tall. Every copy has its own height, lean, thickness and turn.',
		240
	);
	return b.done('Reed bed', 7, { camera: { position: [9.6, 6.4, 11.5], target: [0, 0.5, 0] } });
}

function boardwalk(): GeneratorDocument {
	const b = new Builder('walk');
	b.add('number', 'walkLength', [-320, 40], { value: 12, low: 2, high: 40, step: 0.5 });
	const line = b.add('line', 'course', [-40, 0], {
		from: [0, 0.9, formula('-walkLength.value / 2')],
		to: [0, 0.9, formula('walkLength.value / 2')],
		points: 60
	});
	const curve = b.add(
		'displace',
		'bends',
		[240, 0],
		{ along: 'vector', amount: 1, vector: formula('vec(1.1 * sin(tau * 0.85 * u), 0, 0)') },
		{ geometry: [line, 'curve'] }
	);
	const plankPoints = b.add(
		'points-along-curve',
		'plankPlaces',
		[520, -120],
		{ by: 'fitted', spacing: 0.21, putAt: 'middles' },
		{ curve: [curve, 'geometry'] }
	);
	const plank = b.add('box', 'plank', [520, 140], {
		size: [1.5, 0.045, 0.18],
		edge: 'chamfered',
		bevel: 0.008
	});
	const wood = b.add(
		'material',
		'greyWood',
		[800, 140],
		{ name: 'Weathered wood', colour: [0.36, 0.29, 0.22], roughness: 0.9 },
		{ geometry: [plank, 'mesh'] }
	);
	const planks = b.add(
		'place-copies',
		'planks',
		[1080, -120],
		{
			rotation: [around(0, 0.7, 'plank-tilt'), around(0, 1.6, 'plank-turn'), around(0, 0.8, 'plank-roll')],
			scale: [around(1, 0.04, 'plank-width'), 1, around(0.97, 0.03, 'plank-depth')],
			offset: [around(0, 0.03, 'plank-slip'), around(0, 0.006, 'plank-lift'), 0]
		},
		{ points: [plankPoints, 'points'], source: [wood, 'geometry'] }
	);
	const posts = b.add(
		'points-along-curve',
		'postPlaces',
		[520, 400],
		{ by: 'fitted', spacing: 1.5, putAt: 'ends' },
		{ curve: [curve, 'geometry'] }
	);
	const post = b.add('cylinder', 'post', [520, 700], {
		radius: 0.08,
		topRadius: 0.07,
		height: 1,
		segments: 10,
		edge: 'rounded',
		bevel: 0.02,
		bevelSegments: 3
	});
	const dark = b.add(
		'material',
		'tarredWood',
		[800, 700],
		{ name: 'Tarred wood', colour: [0.09, 0.07, 0.06], roughness: 0.85 },
		{ geometry: [post, 'mesh'] }
	);
	const side = (name: string, sign: number, y: number) =>
		b.add(
			'place-copies',
			name,
			[1080, y],
			{
				rotation: [
					around(0, 1.2, `${name}-lean`),
					range(0, 360, `${name}-turn`),
					around(0, 1.2, `${name}-sway`)
				],
				// A post of one metre is stretched from its foot 0.4 m below the ground to 0.16 to 0.4 m above the walk.
				scale: [1, formula('position.y + 0.4 + random(0.16, 0.4)', `${name}-height`), 1],
				offset: [0.69 * sign, formula('-(position.y + 0.4)'), 0]
			},
			{ points: [posts, 'points'], source: [dark, 'geometry'] }
		);
	const left = side('leftPosts', -1, 400),
		right = side('rightPosts', 1, 620);
	const beam = b.add(
		'tube',
		'beam',
		[520, 920],
		{ radius: 0.05, segments: 6 },
		{ curve: [curve, 'geometry'] }
	);
	const lowered = b.add(
		'transform',
		'underPlanks',
		[800, 920],
		{ move: [0, -0.075, 0] },
		{ geometry: [beam, 'mesh'] }
	);
	const tarred = b.add(
		'material',
		'tarredBeam',
		[1080, 920],
		{ name: 'Tarred wood', colour: [0.09, 0.07, 0.06], roughness: 0.85 },
		{ geometry: [lowered, 'geometry'] }
	);
	const ground = b.add('grid', 'mudflat', [1080, 1120], { width: 6, depth: 14, columns: 36, rows: 72 });
	const noise = b.add('noise-value', 'ripples', [800, 1180], {
		size: [3, 1, 3],
		octaves: 4,
		low: -0.12,
		high: 0.1
	});
	const rough = b.add(
		'displace',
		'mudRelief',
		[1360, 1120],
		{ along: 'direction' },
		{ geometry: [ground, 'mesh'], amount: [noise, 'value'] }
	);
	const mud = b.add(
		'material',
		'mud',
		[1640, 1120],
		{ name: 'Mud', colour: [0.2, 0.15, 0.1], roughness: 0.75 },
		{ geometry: [rough, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'together',
		[1920, 200],
		{},
		{
			geometry: [
				[planks, 'copies'],
				[left, 'copies'],
				[right, 'copies'],
				[tarred, 'geometry'],
				[mud, 'geometry']
			]
		}
	);
	b.add('result', 'result', [2180, 200], {}, { geometry: [all, 'geometry'] });
	b.note(
		[-320, -90],
		'How long the walk is. Planks and posts are fitted, so that they always come out even.'
	);
	b.note(
		[1080, 290],
		'Posts are stretched until their feet stand 0.4 m in the mud, whatever the height of the walk.',
		240
	);
	return b.done('Boardwalk', 3, { camera: { position: [9.4, 6.6, 12.4], target: [0, 0.4, 0] } });
}

/** The graph laid out as “Tidy up” would. */
async function tidied(document: GeneratorDocument): Promise<GeneratorDocument> {
	const graphs: Record<string, Graph> = {};
	for (const [id, graph] of Object.entries(document.graphs)) graphs[id] = await laidOut(graph);
	return { ...document, graphs: graphs as GeneratorDocument['graphs'] };
}

async function laidOut(graph: Graph): Promise<Graph> {
	const sizeOf = sizesOf(graph);
	const places = placesIn(await new ELK().layout(layoutOf(graph, sizeOf)), graph, sizeOf);
	const placed = <One extends { id: string; at: [number, number] }>(one: One): One => ({
		...one,
		at: [...(places.get(one.id) ?? one.at)]
	});
	return { ...graph, nodes: graph.nodes.map(placed), notes: graph.notes.map(placed) };
}

mkdirSync('samples', { recursive: true });
for (const [file, document] of [
	['reed-bed', reedBed()],
	['boardwalk', boardwalk()],
	['rope-rail', ropeRail()],
	['worn-bollard', wornBollard()],
	['drying-net', dryingNet()],
	['drying-rack', dryingRack()],
	['oyster-plots', oysterPlots()],
	['shell-drift', shellDrift()],
	['glasswort', glasswort()],
	['float-line', floatLine()],
	['shingled-roof', shingledRoof()],
	['sedge-tussock', sedgeTussock()],
	['sea-lavender', seaLavender()],
	['mangrove', mangrove()],
	['lantern-post', lanternPost()],
	['lantern-string', lanternString()],
	['stilt-platform', stiltPlatform()],
	['tide-organ', tideOrgan()],
	['thatch', thatch()]
] as const) {
	// Streams of node ids are fixed, so that the samples are the same each time they are made.
	writeFileSync(`samples/${file}.embrell.json`, writeDocument(handedOut(await tidied(document))));
}

// With a drawing of its own: a zip.
const bytes = new Uint8Array(readFileSync('samples/assets/tide-wave.svg'));
const drawing: Asset = { hash: hashBytes(bytes), name: 'tide-wave.svg', bytes };
writeFileSync(
	'samples/painted-sign.embrell.zip',
	packGenerator(writeDocument(handedOut(await tidied(paintedSign(drawing)))), [drawing])
);
