/** The samples about curves, weights and deformation. */
import type { GeneratorDocument } from '../core/engine/index.ts';
import type { Asset } from '../core/geometry/index.ts';
import { Builder, formula } from './sample-builder.ts';

const at = (x: number, y: number, z: number) => ({ at: [x, y, z] });
const WOOD = [0.19, 0.115, 0.06],
	HEMP = [0.42, 0.3, 0.15];

/** Three strands wound about one another, sagging between posts along any curve. */
export function ropeRail(): GeneratorDocument {
	const b = new Builder('rail');
	const course = b.add('draw-curve', 'course', [0, 0], {
		path: { path: [at(-4, 0, 1.5), at(-1.2, 0, -0.8), at(1.8, 0, 0.9), at(4.2, 0, -1.4)] },
		type: 'through',
		segments: 24
	});
	const places = b.add(
		'points-along-curve',
		'postPlaces',
		[280, -140],
		{ by: 'fitted', spacing: 1.6 },
		{ curve: [course, 'curve'] }
	);
	const post = b.add('cylinder', 'post', [280, -330], {
		radius: 0.07,
		topRadius: 0.06,
		height: 1.05,
		segments: 12,
		edge: 'rounded',
		bevel: 0.02
	});
	const tarred = b.add(
		'material',
		'tarred',
		[520, -330],
		{ name: 'Tarred wood', colour: WOOD, roughness: 0.9 },
		{ geometry: [post, 'mesh'] }
	);
	const posts = b.add(
		'place-copies',
		'posts',
		[780, -200],
		{
			rotation: [0, { low: 0, high: 360, stream: 'rail-turn' }, 0],
			scale: [1, { base: 1, variation: 0.03, stream: 'rail-tall' }, 1]
		},
		{ points: [places, 'points'], source: [tarred, 'geometry'] }
	);
	const fine = b.add(
		'resample-curve',
		'fine',
		[280, 80],
		{ by: 'spacing', spacing: 0.04 },
		{ curve: [course, 'curve'] }
	);
	const sag = b.add(
		'displace',
		'sag',
		[520, 80],
		{
			along: 'direction',
			direction: [0, 1, 0],
			amount: formula('0.93 - 0.16 * (1 - (2 * fract(u * round(length / postPlaces.spacing)) - 1) ^ 2)')
		},
		{ geometry: [fine, 'curve'] }
	);
	const long = b.add('measure', 'long', [780, 260], {}, { geometry: [sag, 'geometry'] });
	b.add(
		'formula',
		'spin',
		[1040, 300],
		{ formula: 'round(metres * 9)' },
		{ metres: [long, 'length'] },
		{ inputs: [{ name: 'metres', value: 9 }] }
	);
	const straight = b.add('line', 'straight', [780, 640], { from: [0, 0, 0], to: [1, 0, 0], points: 1200 });
	const strand = b.add(
		'displace',
		'strand',
		[1040, 560],
		{
			along: 'vector',
			amount: 0.017,
			vector: formula('vec(0, cos(tau * round(spin.metres * 9) * u), sin(tau * round(spin.metres * 9) * u))')
		},
		{ geometry: [straight, 'curve'] }
	);
	const three = b.add(
		'chain-of-copies',
		'three',
		[1300, 560],
		{ count: 3, rotation: [120, 0, 0], move: [0, 0, 0] },
		{ source: [strand, 'geometry'] }
	);
	const strands = b.add('copies-to-mesh', 'strands', [1540, 480], {}, { copies: [three, 'copies'] });
	const laid = b.add(
		'lay-along-curve',
		'laid',
		[1800, 160],
		{ axis: 'x', length: 'stretch', up: 'curve' },
		{ geometry: [strands, 'mesh'], path: [sag, 'geometry'] }
	);
	const rope = b.add(
		'tube',
		'rope',
		[2040, 160],
		{ radius: 0.017, segments: 6 },
		{ curve: [laid, 'geometry'] }
	);
	const hemp = b.add(
		'material',
		'hemp',
		[2280, 160],
		{ name: 'Hemp', colour: HEMP, roughness: 1 },
		{ geometry: [rope, 'mesh'] }
	);
	const all = b.add(
		'merge',
		'all',
		[2520, 0],
		{},
		{
			geometry: [
				[posts, 'copies'],
				[hemp, 'geometry']
			]
		}
	);
	b.add('result', 'result', [2760, 0], {}, { geometry: [all, 'geometry'] });
	b.note([-40, -130], 'Select the course and drag its points in the View: posts, sag and rope follow.');
	b.note(
		[1040, 760],
		'One strand is a wave of sine and cosine; three of them, each a third of a turn on, are laid along the sagging line.',
		240
	);
	return b.done('Rope rail', 5, { camera: { position: [3.4, 4.2, 9.6], target: [0, 0.4, 0] } });
}

/** A swept ring into which ropes have worn their way. */
export function wornBollard(): GeneratorDocument {
	const b = new Builder('bollard');
	const profile = b.add('draw-curve', 'profile', [0, -200], {
		path: {
			path: [
				at(0, 0, 0),
				at(0.3, 0, 0),
				at(0.27, 0.1, 0),
				at(0.2, 0.32, 0),
				at(0.19, 0.62, 0),
				at(0.24, 0.74, 0),
				at(0.2, 0.82, 0),
				at(0, 0.84, 0)
			]
		},
		type: 'straight'
	});
	const smooth = b.add(
		'resample-curve',
		'smooth',
		[260, -200],
		{ by: 'spacing', spacing: 0.02 },
		{ curve: [profile, 'curve'] }
	);
	const soft = b.add('relax', 'soft', [500, -200], { iterations: 6 }, { geometry: [smooth, 'curve'] });
	const body = b.add('revolve', 'body', [740, -200], { segments: 64 }, { profile: [soft, 'geometry'] });
	const circle = b.add('circle', 'course', [0, 60], { radius: 0.3, points: 640 });
	const raised = b.add(
		'transform',
		'raised',
		[260, 60],
		{ move: [0, 0.5, 0] },
		{ geometry: [circle, 'curve'] }
	);
	const section = b.add('circle', 'section', [260, 240], { radius: 0.09, points: 112, facing: 'front' });
	const ring = b.add(
		'sweep',
		'ring',
		[740, 60],
		{},
		{ path: [raised, 'geometry'], section: [section, 'curve'] }
	);
	const straight = b.add('line', 'straight', [260, 400], { from: [0, 0, 0], to: [1, 0, 0], points: 900 });
	b.add('number', 'wraps', [0, 400], { value: 14, low: 3, high: 30, step: 1, whole: true });
	const coil = b.add(
		'displace',
		'coil',
		[500, 400],
		{
			along: 'vector',
			amount: 0.1,
			vector: formula('vec(0, cos(tau * wraps.value * u), sin(tau * wraps.value * u))')
		},
		{ geometry: [straight, 'curve'] }
	);
	const wound = b.add(
		'lay-along-curve',
		'wound',
		[740, 400],
		{ axis: 'x', up: 'curve' },
		{ geometry: [coil, 'geometry'], path: [raised, 'geometry'] }
	);
	const patches = b.add('weight-by-noise', 'patches', [740, 600], { size: 0.25, from: 0.2, to: 0.6 });
	const grooves = b.add(
		'displace',
		'grooves',
		[1000, 200],
		{ along: 'distance', distance: 0.026, inward: true, weight: 1 },
		{ geometry: [ring, 'mesh'], object: [wound, 'geometry'], weight: [patches, 'weight'] }
	);
	const rough = b.add(
		'displace-by-noise',
		'rough',
		[1240, 200],
		{ amount: 0.004, size: 0.08 },
		{ geometry: [grooves, 'geometry'] }
	);
	const iron = b.add(
		'material',
		'iron',
		[1480, 60],
		{ name: 'Old iron', colour: [0.09, 0.085, 0.08], roughness: 0.65, metallic: 0.6 },
		{ geometry: [rough, 'geometry'] }
	);
	const wood = b.add(
		'material',
		'wood',
		[1000, -200],
		{ name: 'Weathered wood', colour: [0.24, 0.19, 0.14], roughness: 0.95 },
		{ geometry: [body, 'mesh'] }
	);
	// What is left of the rope that wore the ring.
	const left = b.add('part-of-curve', 'leftOver', [870, 400], { to: 0.36 }, { curve: [wound, 'geometry'] });
	const rope = b.add('tube', 'rope', [1000, 400], { radius: 0.02, segments: 8 }, { curve: [left, 'curve'] });
	const hemp = b.add(
		'material',
		'hemp',
		[1240, 400],
		{ name: 'Hemp', colour: HEMP, roughness: 1 },
		{ geometry: [rope, 'mesh'] }
	);
	const all = b.add(
		'merge',
		'all',
		[1720, 60],
		{},
		{
			geometry: [
				[wood, 'geometry'],
				[iron, 'geometry'],
				[hemp, 'geometry']
			]
		}
	);
	b.add('result', 'result', [1960, 60], {}, { geometry: [all, 'geometry'] });
	b.note(
		[1000, 60],
		'Points nearer to the rope than its radius go inward to it: grooves, deeper where the noise says.'
	);
	return b.done('Worn bollard', 8, { camera: { position: [1.5, 1.35, 1.9], target: [0, 0.42, 0] } });
}

/** A net of flattened coils that hangs from a rope between two poles. */
export function dryingNet(): GeneratorDocument {
	const b = new Builder('net');
	const path = b.add('draw-curve', 'course', [0, 0], {
		path: { path: [at(-3.1, 0, 0.4), at(3.1, 0, -0.4)] },
		type: 'straight'
	});
	b.add('number', 'mesh', [0, 200], { value: 0.24, low: 0.1, high: 0.8, step: 0.01 });
	b.add('number', 'tall', [0, 360], { value: 1.45, low: 0.3, high: 4, step: 0.05 });
	b.add('number', 'thick', [0, 520], { value: 0.012, low: 0.004, high: 0.05, step: 0.001 });
	b.add('number', 'slack', [0, 680], { value: 0.42, low: 0, high: 1.5, step: 0.01 });
	const long = b.add('measure', 'long', [240, -120], {}, { geometry: [path, 'curve'] });
	const across = b.add(
		'formula',
		'across',
		[480, -120],
		{ formula: 'max(1, round(metres / mesh.value)) + 1' },
		{ metres: [long, 'length'] },
		{ inputs: [{ name: 'metres', value: 8 }] }
	);
	// Knots on a staggered grid that stands up; every knot is tied to those nearest in the rows above and below it.
	const knots = b.add(
		'grid-of-points',
		'knots',
		[740, 60],
		{
			countZ: formula('2 * max(1, round(tall.value / mesh.value)) + 1'),
			spacing: [formula('mesh.value'), 1, formula('mesh.value / 2')],
			stagger: 0.5,
			centred: false
		},
		{ countX: [across, 'value'] }
	);
	const upright = b.add(
		'transform',
		'upright',
		[1000, 60],
		{
			rotation: [90, 0, 0],
			move: [0, formula('0.6 + max(1, round(tall.value / mesh.value)) * mesh.value'), 0]
		},
		{ geometry: [knots, 'points'] }
	);
	const cords = b.add(
		'nearest-neighbours',
		'cords',
		[1240, 240],
		{ method: 'distance', distance: formula('0.8 * mesh.value'), most: 4 },
		{ points: [upright, 'geometry'] }
	);
	const ball = b.add('sphere', 'ball', [740, -260], {
		radius: formula('1.4 * thick.value'),
		segments: 8,
		rows: 6
	});
	const wound = b.add(
		'material',
		'wound',
		[1000, -120],
		{ name: 'Twine', colour: [0.34, 0.3, 0.2], roughness: 1 },
		{ geometry: [ball, 'mesh'] }
	);
	const tied = b.add(
		'place-copies',
		'tied',
		[1240, 0],
		{ follow: false, rotation: [0, { low: 0, high: 360, stream: 'net-knot' }, 0] },
		{ points: [upright, 'geometry'], source: [wound, 'geometry'] }
	);
	const net = b.add(
		'merge',
		'net',
		[1480, 160],
		{},
		{
			geometry: [
				[tied, 'copies'],
				[cords, 'lines']
			]
		}
	);
	const laid = b.add(
		'lay-along-curve',
		'laid',
		[1720, 240],
		{ axis: 'x', length: 'stretch', up: 'world' },
		{ geometry: [net, 'geometry'], path: [path, 'curve'] }
	);
	const gathered = b.add(
		'taper',
		'gathered',
		[1960, 240],
		{
			axis: 'y',
			start: 0.66,
			end: 1,
			ramp: {
				stops: [
					{ at: 0, value: 0, easing: 'smooth' },
					{ at: 0.75, value: 1, easing: 'linear' },
					{ at: 1, value: 1, easing: 'linear' }
				]
			}
		},
		{ geometry: [laid, 'geometry'] }
	);
	// Rope and net hang by the same formula; low down the net is drawn up a little, where it is gathered.
	const hanging = formula('-slack.value * (1 - (position.x / 3.1)^2)');
	const hung = b.add(
		'displace',
		'hung',
		[2200, 240],
		{ along: 'direction', amount: hanging },
		{ geometry: [gathered, 'geometry'] }
	);
	const low = b.add('weight-by-height', 'low', [2200, 460], { from: 1.7, to: 0.3 });
	const sway = b.add(
		'displace-by-noise',
		'sway',
		[2440, 240],
		{ along: 'direction', direction: [0.1, 0, 1], amount: 0.5, size: 1.7, octaves: 2 },
		{ geometry: [hung, 'geometry'], weight: [low, 'weight'] }
	);
	const twine = b.add(
		'tube',
		'twine',
		[2680, 240],
		{ radius: formula('thick.value / 2'), segments: 5 },
		{ curve: [sway, 'geometry'] }
	);
	const hemp = b.add(
		'material',
		'hemp',
		[2920, 240],
		{ name: 'Twine', colour: [0.34, 0.3, 0.2], roughness: 1 },
		{ geometry: [twine, 'mesh'] }
	);
	// The cords have become twine; of the net that hangs there only the knots are wanted beside it.
	const balls = b.add(
		'delete-where',
		'balls',
		[2680, 440],
		{ elements: 'curve', weight: 1 },
		{ geometry: [sway, 'geometry'] }
	);
	// The head rope: as high as the net, between the poles.
	const head = formula('0.6 + max(1, round(tall.value / mesh.value)) * mesh.value');
	const line = b.add(
		'resample-curve',
		'line',
		[1240, 620],
		{ by: 'count', count: 80 },
		{ curve: [path, 'curve'] }
	);
	const raised = b.add(
		'displace',
		'raised',
		[1480, 620],
		{ along: 'direction', amount: head },
		{ geometry: [line, 'curve'] }
	);
	const rope = b.add(
		'displace',
		'rope',
		[1720, 620],
		{ along: 'direction', amount: hanging },
		{ geometry: [raised, 'geometry'] }
	);
	const thickRope = b.add(
		'tube',
		'headRope',
		[1960, 620],
		{ radius: 0.017, segments: 8 },
		{ curve: [rope, 'geometry'] }
	);
	const roped = b.add(
		'material',
		'roped',
		[2200, 620],
		{ name: 'Hemp', colour: HEMP, roughness: 1 },
		{ geometry: [thickRope, 'mesh'] }
	);
	// Floats of cork, thickest in their middle, larger towards the middle of the rope.
	const belly = b.add('draw-curve', 'belly', [1240, 860], {
		path: {
			path: [at(0, -0.1, 0), at(0.042, -0.075, 0), at(0.07, 0, 0), at(0.042, 0.075, 0), at(0, 0.1, 0)]
		},
		type: 'through',
		segments: 6
	});
	const body = b.add('revolve', 'float', [1480, 860], { segments: 20 }, { profile: [belly, 'curve'] });
	const cork = b.add(
		'material',
		'cork',
		[1720, 860],
		{ name: 'Cork', colour: [0.5, 0.3, 0.15], roughness: 0.95 },
		{ geometry: [body, 'mesh'] }
	);
	const spots = b.add(
		'points-along-curve',
		'spots',
		[1960, 800],
		{ by: 'fitted', spacing: 0.52, putAt: 'middles' },
		{ curve: [rope, 'geometry'] }
	);
	const floats = b.add(
		'place-copies',
		'floats',
		[2200, 800],
		{
			up: '-z',
			forward: 'y',
			scale: formula('0.75 + 0.6 * sin(pi * u) + random(-0.06, 0.06)')
		},
		{ points: [spots, 'points'], source: [cork, 'geometry'] }
	);
	const corners = b.add(
		'points-along-curve',
		'poles',
		[1000, -140],
		{ by: 'corners', corner: 20 },
		{ curve: [path, 'curve'] }
	);
	const pole = b.add('cylinder', 'pole', [1000, -330], {
		radius: 0.065,
		topRadius: 0.05,
		height: formula('tall.value + 1'),
		segments: 12,
		edge: 'rounded',
		bevel: 0.015
	});
	const tarred = b.add(
		'material',
		'tarred',
		[1240, -330],
		{ name: 'Tarred wood', colour: WOOD, roughness: 0.9 },
		{ geometry: [pole, 'mesh'] }
	);
	const posts = b.add(
		'place-copies',
		'posts',
		[1480, -200],
		{
			offset: [0, -0.15, 0],
			rotation: [
				{ base: 0, variation: 3, stream: 'net-lean' },
				0,
				{ base: 0, variation: 3, stream: 'net-lean-2' }
			]
		},
		{ points: [corners, 'points'], source: [tarred, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'all',
		[3160, 240],
		{},
		{
			geometry: [
				[posts, 'copies'],
				[hemp, 'geometry'],
				[balls, 'geometry'],
				[roped, 'geometry'],
				[floats, 'copies']
			]
		}
	);
	b.add('result', 'result', [3400, 240], {}, { geometry: [all, 'geometry'] });
	b.note(
		[0, 840],
		'Knots on a staggered grid, each tied to its neighbours: the net keeps whole meshes, whatever their width.',
		220
	);
	b.note(
		[1720, 400],
		'Drawn together at the foot, hung from the rope, and swaying the more the lower it is.',
		240
	);
	return b.done('Drying net', 5, { camera: { position: [2.2, 2.1, 6.4], target: [0, 1, 0] } });
}

/** Trestles along a path, crossbars that lean on their legs and sag between them, and so many fish skins to a bar. */
export function dryingRack(): GeneratorDocument {
	const b = new Builder('rack');
	const path = b.add('draw-curve', 'course', [0, 0], {
		path: { path: [at(-3.4, 0, 0.9), at(-0.6, 0, -0.5), at(2.4, 0, 0.1), at(3.6, 0, 1.6)] },
		type: 'through',
		segments: 20
	});
	b.add('number', 'tall', [0, 200], { value: 2.3, low: 1.2, high: 4, step: 0.05 });
	b.add('number', 'lowest', [0, 360], { value: 0.75, low: 0.2, high: 2, step: 0.05 });
	b.add('number', 'skinsToBar', [0, 520], { value: 26, low: 0, high: 60, step: 1, whole: true });
	const long = b.add('measure', 'long', [240, 200], {}, { geometry: [path, 'curve'] });
	b.add(
		'formula',
		'spans',
		[480, 200],
		{ formula: 'max(1, round(metres / 1.9))' },
		{ metres: [long, 'length'] },
		{ inputs: [{ name: 'metres', value: 8 }] }
	);
	// Trestles: two legs that lean towards one another, a rail between them along which the bars lie.
	const leg = b.add('cylinder', 'leg', [240, -520], {
		radius: 0.05,
		topRadius: 0.04,
		height: formula('tall.value'),
		segments: 10
	});
	const front = b.add(
		'transform',
		'front',
		[480, -600],
		{ rotation: [9, 0, 0], move: [0, 0, -0.45] },
		{ geometry: [leg, 'mesh'] }
	);
	const back = b.add(
		'transform',
		'back',
		[480, -440],
		{ rotation: [-16, 0, 0], move: [0, 0, 0.75] },
		{ geometry: [leg, 'mesh'] }
	);
	const trestle = b.add(
		'merge',
		'trestle',
		[740, -520],
		{},
		{
			geometry: [
				[front, 'geometry'],
				[back, 'geometry']
			]
		}
	);
	const turned = b.add(
		'transform',
		'turned',
		[980, -520],
		{ rotation: [0, 90, 0] },
		{ geometry: [trestle, 'geometry'] }
	);
	const tarred = b.add(
		'material',
		'tarred',
		[1220, -520],
		{ name: 'Tarred wood', colour: WOOD, roughness: 0.9 },
		{ geometry: [turned, 'geometry'] }
	);
	const places = b.add(
		'points-along-curve',
		'trestlePlaces',
		[480, -180],
		{ by: 'fitted', spacing: 1.9 },
		{ curve: [path, 'curve'] }
	);
	const trestles = b.add(
		'place-copies',
		'trestles',
		[1460, -300],
		{ offset: [0, -0.1, 0], scale: [1, { base: 1, variation: 0.03, stream: 'rack-tall' }, 1] },
		{ points: [places, 'points'], source: [tarred, 'geometry'] }
	);
	// Bars, straight at first: each sags between the trestles.
	const bare = b.add('line', 'bare', [480, 420], { from: [0, 0, 0], to: [8, 0, 0], points: 240 });
	const sag = b.add(
		'displace',
		'sag',
		[740, 420],
		{
			along: 'direction',
			amount: formula('-0.11 * abs(sin(pi * max(1, round(spans.metres / 1.9)) * u))')
		},
		{ geometry: [bare, 'curve'] }
	);
	// Four of them lean on the front legs, from the lowest up to where the legs cross.
	const above = b.add('row-of-points', 'above', [740, 620], {
		by: 'length',
		count: 4,
		length: formula('max(0.1, 0.78 * tall.value - lowest.value)'),
		direction: [0, 1, 0.158],
		centred: false
	});
	const stack = b.add(
		'place-copies',
		'stack',
		[980, 520],
		{ offset: [0, formula('lowest.value'), formula('0.158 * lowest.value - 0.5')] },
		{ points: [above, 'points'], source: [sag, 'geometry'] }
	);
	const curves = b.add('copies-to-mesh', 'curves', [1220, 520], {}, { copies: [stack, 'copies'] });
	const laid = b.add(
		'lay-along-curve',
		'laid',
		[1460, 420],
		{ axis: 'x', length: 'stretch', up: 'world' },
		{ geometry: [curves, 'mesh'], path: [path, 'curve'] }
	);
	const bars = b.add(
		'tube',
		'crossbars',
		[1700, 300],
		{ radius: 0.022, segments: 8 },
		{ curve: [laid, 'geometry'] }
	);
	const peeled = b.add(
		'material',
		'peeled',
		[1940, 300],
		{ name: 'Peeled wood', colour: [0.33, 0.25, 0.16], roughness: 0.85 },
		{ geometry: [bars, 'mesh'] }
	);
	// Pegs, and skins on some of them.
	const spots = b.add(
		'points-along-curve',
		'spots',
		[1700, 560],
		{ by: 'count', count: formula('skinsToBar.value'), putAt: 'middles' },
		{ curve: [laid, 'geometry'] }
	);
	const peg = b.add('cylinder', 'peg', [1700, 760], {
		radius: 0.011,
		topRadius: 0.008,
		height: 0.13,
		segments: 7
	});
	const pale = b.add(
		'material',
		'pale',
		[1940, 760],
		{ name: 'Pale wood', colour: [0.5, 0.4, 0.27], roughness: 0.9 },
		{ geometry: [peg, 'mesh'] }
	);
	const pegs = b.add(
		'place-copies',
		'pegs',
		[2180, 560],
		{
			offset: [0, -0.03, 0],
			rotation: [
				{ base: 0, variation: 10, stream: 'rack-peg' },
				0,
				{ base: 0, variation: 10, stream: 'rack-peg-2' }
			]
		},
		{ points: [spots, 'points'], source: [pale, 'geometry'] }
	);
	const strip = b.add('line', 'strip', [1700, 960], { from: [0, 0, 0], to: [0, -0.42, 0], points: 14 });
	const curl = b.add(
		'displace',
		'curl',
		[1940, 960],
		{ along: 'direction', direction: [0, 0, 1], amount: formula('0.05 * u + 0.03 * sin(5 * u)') },
		{ geometry: [strip, 'curve'] }
	);
	const skin = b.add(
		'ribbon',
		'skin',
		[2180, 960],
		{ width: formula('0.11 * (1 - 0.75 * u^3)'), roll: formula('20 * sin(4 * u)'), up: 'curve' },
		{ curve: [curl, 'geometry'] }
	);
	const silver = b.add(
		'material',
		'silver',
		[2420, 960],
		{ name: 'Fish skin', colour: [0.47, 0.46, 0.42], roughness: 0.42, metallic: 0.15 },
		{ geometry: [skin, 'mesh'] }
	);
	const skins = b.add(
		'place-copies',
		'skins',
		[2660, 800],
		{
			rotation: [
				0,
				{ base: 90, variation: 25, stream: 'rack-turn' },
				{ base: 0, variation: 6, stream: 'rack-swing' }
			],
			scale: [1, { low: 0.7, high: 1.25, stream: 'rack-long' }, 1]
		},
		{ points: [spots, 'points'], source: [silver, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'all',
		[3140, 300],
		{},
		{
			geometry: [
				[trestles, 'copies'],
				[peeled, 'geometry'],
				[pegs, 'copies'],
				[skins, 'copies']
			]
		}
	);
	b.add('result', 'result', [3380, 300], {}, { geometry: [all, 'geometry'] });
	b.note([0, 680], 'Trestles and bars follow from two heights, along any path.', 220);
	b.note([2660, 640], 'A skin to each peg.', 220);
	return b.done('Drying rack', 4, { camera: { position: [3.4, 3, 6.6], target: [0, 1, 0.3] } });
}

/** Lettering and a drawn wave, cut out, lifted along a curve. */
export function paintedSign(drawing: Asset): GeneratorDocument {
	const b = new Builder('sign');
	const outline = b.add('rectangle', 'outline', [0, -240], {
		width: 2.6,
		height: 1.1,
		round: 0.12,
		segments: 6,
		facing: 'front'
	});
	const board = b.add(
		'extrude',
		'board',
		[260, -240],
		{ depth: -0.06, bevel: 0.012 },
		{ outline: [outline, 'curve'] }
	);
	const wood = b.add(
		'material',
		'wood',
		[520, -240],
		{ name: 'Blue board', colour: [0.05, 0.14, 0.17], roughness: 0.8 },
		{ geometry: [board, 'mesh'] }
	);
	const letters = b.add('text-outline', 'letters', [0, 0], { text: 'Saltreed', size: 0.52, segments: 8 });
	const fine = b.add(
		'resample-curve',
		'fine',
		[260, 0],
		{ by: 'spacing', spacing: 0.012 },
		{ curve: [letters, 'curve'] }
	);
	const hand = b.add(
		'displace-by-noise',
		'hand',
		[390, 0],
		{ along: 'direction', direction: [0, 1, 0], amount: 0.012, size: 0.3, octaves: 2 },
		{ geometry: [fine, 'curve'] }
	);
	const cut = b.add(
		'extrude',
		'cut',
		[520, 0],
		{ depth: 0.04, bevel: 0.006, bevelSegments: 2 },
		{ outline: [hand, 'geometry'] }
	);
	const up = b.add('transform', 'up', [780, 0], { move: [0, -0.06, 0.012] }, { geometry: [cut, 'mesh'] });
	const sweep = b.add('draw-curve', 'gust', [520, 200], {
		path: { path: [at(-1.2, 0, 0.1), at(-0.3, 0.25, 0.1), at(0.5, -0.1, 0.1), at(1.2, 0.2, 0.1)] },
		type: 'through'
	});
	const along = b.add(
		'weight-along-curve',
		'along',
		[780, 200],
		{
			rampAlong: {
				stops: [
					{ at: 0, value: 0, easing: 'smooth' },
					{ at: 0.55, value: 1, easing: 'smooth' },
					{ at: 1, value: 0.15, easing: 'linear' }
				]
			},
			limitDistance: true,
			reach: 0.6
		},
		{ curve: [sweep, 'curve'] }
	);
	const lifted = b.add(
		'displace',
		'lifted',
		[1040, 0],
		{ along: 'direction', direction: [0, 0, 1], amount: 0.11 },
		{ geometry: [up, 'geometry'], weight: [along, 'weight'] }
	);
	const gilt = b.add(
		'material',
		'gilt',
		[1280, 0],
		{ name: 'Old gilt', colour: [0.62, 0.44, 0.14], roughness: 0.45, metallic: 0.5 },
		{ geometry: [lifted, 'geometry'] }
	);
	const wave = b.add('import-svg', 'wave', [0, 420], {
		file: drawing.hash,
		size: 'width',
		width: 1.9,
		segments: 16
	});
	const solid = b.add(
		'extrude',
		'solid',
		[260, 420],
		{ depth: 0.025, bevel: 0.004 },
		{ outline: [wave, 'curve'] }
	);
	const below = b.add(
		'transform',
		'below',
		[520, 420],
		{ move: [0, -0.36, 0.012] },
		{ geometry: [solid, 'mesh'] }
	);
	const pale = b.add(
		'material',
		'pale',
		[780, 420],
		{ name: 'Pale paint', colour: [0.55, 0.62, 0.58], roughness: 0.7 },
		{ geometry: [below, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'all',
		[1520, 0],
		{},
		{
			geometry: [
				[wood, 'geometry'],
				[gilt, 'geometry'],
				[pale, 'geometry']
			]
		}
	);
	b.add('result', 'result', [2000, 0], {}, { geometry: [all, 'geometry'] });
	b.note(
		[1040, 230],
		'The gust lifts letters as far as the weight along it says. Drag its points, flip it, or change its ramp.',
		240
	);
	return {
		...b.done('Painted sign', 4, { camera: { position: [1.5, 0.6, 4.3], target: [0, 0, 0] } }),
		assets: { [drawing.hash]: { name: drawing.name, bytes: drawing.bytes.length } }
	};
}
