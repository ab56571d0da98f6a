/** Things made of bodies: floats that swell by their place, and a roof of courses of shingles. */
import type { GeneratorDocument } from '../core/engine/index.ts';
import { Builder, formula, range } from './sample-builder.ts';

const at = (x: number, y: number, z: number, dx: number, dz: number) => ({
	at: [x, y, z],
	in: [-dx, 0, -dz],
	out: [dx, 0, dz]
});

export function floatLine(): GeneratorDocument {
	const b = new Builder('floats');
	const float = b.body('float', 'Float', (inner) => {
		const swell = inner.add('input', 'swell', [0, 0], {
			name: 'swell',
			carries: 'number',
			default: 0.5,
			limited: true,
			minimum: 0,
			maximum: 1,
			says: 'How much it bears up: 0 is slim, 1 is round.'
		});
		void swell;
		const ball = inner.add('sphere', 'ball', [280, 0], {
			radius: formula('0.055 + 0.075 * swell.value'),
			segments: 20,
			rows: 12
		});
		const long = inner.add(
			'transform',
			'long',
			[560, 0],
			{ scale: [1, 1, formula('1.5 - 0.5 * swell.value')] },
			{ geometry: [ball, 'mesh'] }
		);
		const cork = inner.add(
			'material',
			'cork',
			[840, 0],
			{ name: 'Float', colour: [0.55, 0.19, 0.1], roughness: 0.6 },
			{ geometry: [long, 'geometry'] }
		);
		const collar = inner.add('torus', 'collar', [280, 260], {
			radius: 0.035,
			thickness: 0.014,
			segments: 16,
			sectionSegments: 8
		});
		const turned = inner.add(
			'transform',
			'atEnd',
			[560, 260],
			{
				rotation: [90, 0, 0],
				move: [0, 0, formula('(0.055 + 0.075 * swell.value) * (1.5 - 0.5 * swell.value)')]
			},
			{ geometry: [collar, 'mesh'] }
		);
		const brass = inner.add(
			'material',
			'ring',
			[840, 260],
			{ name: 'Ring', colour: [0.75, 0.68, 0.5], roughness: 0.5 },
			{ geometry: [turned, 'geometry'] }
		);
		const both = inner.add(
			'merge',
			'both',
			[1120, 100],
			{},
			{
				geometry: [
					[cork, 'geometry'],
					[brass, 'geometry']
				]
			}
		);
		inner.add(
			'output',
			'shape',
			[1400, 100],
			{ name: 'shape', carries: 'geometry' },
			{ value: [both, 'geometry'] }
		);
	});
	const rope = b.add('draw-curve', 'rope', [0, 0], {
		path: {
			path: [
				at(-4, 1.25, 0.6, 1.2, 0.8),
				at(-1.2, 1.25, -0.5, 1.1, 0),
				at(1.4, 1.25, 0.6, 1.1, 0.1),
				at(4, 1.25, -0.7, 1, -0.7)
			]
		},
		segments: 40
	});
	const places = b.add(
		'points-along-curve',
		'places',
		[280, 0],
		{ by: 'fitted', spacing: 0.3 },
		{ curve: [rope, 'curve'] }
	);
	// What hangs from each float: a line with a stone at its end, the longer the heavier.
	const load = b.add(
		'write-attribute',
		'load',
		[560, 120],
		{ name: 'load', value: range(0.04, 1, 'float-load') },
		{ geometry: [places, 'points'] }
	);
	const floats = b.add(
		'vary-each-copy',
		'floats',
		[840, 60],
		{
			body: float,
			swell: formula('attribute.load ^ (1 / 3)'),
			rounding: 'steps',
			roundingSteps: 24,
			rotation: [0, 0, range(0, 360, 'float-roll')]
		},
		{ points: [load, 'geometry'] }
	);
	const cord = b.add('tube', 'cord', [560, -200], { radius: 0.012, segments: 6 }, { curve: [rope, 'curve'] });
	const hemp = b.add(
		'material',
		'hemp',
		[840, -200],
		{ name: 'Rope', colour: [0.42, 0.34, 0.2], roughness: 0.9 },
		{ geometry: [cord, 'mesh'] }
	);
	const drop = b.add('cylinder', 'drop', [280, 420], {
		radius: 0.006,
		topRadius: 0.006,
		height: 1,
		segments: 6
	});
	const twine = b.add(
		'material',
		'twine',
		[560, 420],
		{ name: 'Twine', colour: [0.3, 0.27, 0.2], roughness: 0.9 },
		{ geometry: [drop, 'mesh'] }
	);
	const drops = b.add(
		'place-copies',
		'drops',
		[840, 420],
		{
			follow: false,
			offset: [0, formula('-0.2 - 0.8 * attribute.load'), 0],
			scale: [1, formula('0.2 + 0.8 * attribute.load'), 1]
		},
		{ points: [load, 'geometry'], source: [twine, 'geometry'] }
	);
	const stone = b.add('sphere', 'stone', [280, 600], { radius: 0.1, segments: 12, rows: 8 });
	const worn = b.add(
		'displace-by-noise',
		'worn',
		[420, 720],
		{ along: 'every', amount: 0.05, size: [0.14, 0.14, 0.14] },
		{ geometry: [stone, 'mesh'] }
	);
	const grey = b.add(
		'material',
		'grey',
		[560, 600],
		{ name: 'Sinker stone', colour: [0.2, 0.21, 0.21], roughness: 0.8 },
		{ geometry: [worn, 'geometry'] }
	);
	const stones = b.add(
		'place-copies',
		'stones',
		[840, 600],
		{
			follow: false,
			offset: [0, formula('-0.2 - 0.8 * attribute.load'), 0],
			rotation: [0, range(0, 360, 'float-stone'), 0],
			scale: formula('attribute.load ^ (1 / 3)')
		},
		{ points: [load, 'geometry'], source: [grey, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'together',
		[1120, 60],
		{},
		{
			geometry: [
				[floats, 'copies'],
				[hemp, 'geometry'],
				[drops, 'copies'],
				[stones, 'copies']
			]
		}
	);
	b.add('result', 'result', [1400, 60], {}, { geometry: [all, 'geometry'] });
	b.note(
		[840, 240],
		'Each float is made by the body “Float” for the load that hangs from it: as large as the cube root of the load. Values are rounded to 24 steps, so equal ones share a shape.'
	);
	return b.done('Float line', 2, { camera: { position: [1.6, 2.2, 4.4], target: [-0.2, 0.85, -0.1] } });
}

export function shingledRoof(): GeneratorDocument {
	const b = new Builder('roof');
	const course = b.body('course', 'Course', (inner) => {
		const shingle = inner.body('shingle', 'Shingle', (innermost) => {
			const board = innermost.add('box', 'board', [0, 0], {
				size: [range(0.15, 0.175, 'roof-wide'), 0.012, 0.34]
			});
			const laid = innermost.add(
				'transform',
				'laid',
				[280, 0],
				{
					rotation: [
						formula('4 + random(-1.2, 1.2)', 'roof-lift'),
						formula('random(-1.6, 1.6)', 'roof-skew'),
						0
					],
					move: [
						formula('pass * 0.18 + 0.09 * (outer.pass % 2)'),
						formula('random(0, 0.006)', 'roof-up'),
						formula('random(-0.012, 0.012)', 'roof-slip')
					]
				},
				{ geometry: [board, 'mesh'] }
			);
			const grey = innermost.add(
				'write-attribute',
				'weathered',
				[560, 0],
				{
					name: 'colour',
					elements: 'face',
					type: 'colour',
					value: formula('mix(vec(0.2, 0.17, 0.13), vec(0.44, 0.36, 0.27), outer.progress) * tone.value')
				},
				{ geometry: [laid, 'geometry'] }
			);
			innermost.add('number', 'tone', [560, 240], { value: range(0.75, 1.2, 'roof-tone') });
			innermost.add(
				'output',
				'one',
				[840, 0],
				{ name: 'one', carries: 'geometry', role: 'gathered' },
				{ value: [grey, 'geometry'] }
			);
		});
		const row = inner.add('repeat', 'shingles', [0, 0], { body: shingle, passes: 20 });
		const up = inner.add(
			'transform',
			'upwards',
			[280, 0],
			{ move: [0, formula('pass * 0.02'), formula('-pass * 0.21')] },
			{ geometry: [row, 'one'] }
		);
		inner.add(
			'output',
			'all',
			[560, 0],
			{ name: 'all', carries: 'geometry', role: 'gathered' },
			{ value: [up, 'geometry'] }
		);
	});
	const courses = b.add('repeat', 'courses', [0, 0], { body: course, passes: 10 });
	const pitched = b.add(
		'transform',
		'pitch',
		[280, 0],
		{ rotation: [32, 0, 0], move: [-1.75, 1.55, 1.75] },
		{ geometry: [courses, 'all'] }
	);
	const other = b.add(
		'transform',
		'otherSide',
		[560, 160],
		{ rotation: [0, 180, 0] },
		{ geometry: [pitched, 'geometry'] }
	);
	const wood = b.add(
		'material',
		'wood',
		[840, 0],
		{ name: 'Shingle', colour: [1, 1, 1], roughness: 0.9 },
		{ geometry: [pitched, 'geometry'] }
	);
	const wood2 = b.add(
		'material',
		'wood2',
		[840, 160],
		{ name: 'Shingle', colour: [1, 1, 1], roughness: 0.9 },
		{ geometry: [other, 'geometry'] }
	);
	const house = b.add('box', 'house', [560, 360], { size: [3.2, 1.5, 2.9] });
	const stands = b.add(
		'transform',
		'stands',
		[840, 360],
		{ move: [0, 0.75, 0] },
		{ geometry: [house, 'mesh'] }
	);
	const planks = b.add(
		'material',
		'planks',
		[1120, 360],
		{ name: 'Planks', colour: [0.3, 0.25, 0.2], roughness: 0.9 },
		{ geometry: [stands, 'geometry'] }
	);
	const all = b.add(
		'merge',
		'together',
		[1400, 100],
		{},
		{
			geometry: [
				[wood, 'geometry'],
				[wood2, 'geometry'],
				[planks, 'geometry']
			]
		}
	);
	b.add('result', 'result', [1680, 100], {}, { geometry: [all, 'geometry'] });
	b.note(
		[280, 260],
		'A repeat in a repeat: courses of shingles. Inside, outer.progress says how high the course lies, and so its colour.'
	);
	return b.done('Shingled roof', 7, { camera: { position: [3.6, 3.0, 4.6], target: [0, 1.5, 0] } });
}
