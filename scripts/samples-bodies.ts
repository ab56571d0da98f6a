/** Things made of bodies: floats that swell by their place, and a roof of courses of shingles. */
import type { GeneratorDocument } from '../core/index.ts';
import { rampOf } from '../core/varying/index.ts';
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
			says: 'How much it has swollen: 0 is slim, 1 is round.'
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
				at(-4, 0, 0.6, 1.2, 0.8),
				at(-1.2, 0, -0.5, 1.1, 0),
				at(1.4, 0, 0.6, 1.1, 0.1),
				at(4, 0, -0.7, 1, -0.7)
			]
		},
		segments: 40
	});
	const net = b.add('draw-curve', 'netEdge', [0, 300], {
		path: { path: [at(-2.6, 0, -2.2, 0.6, 1.2), at(-0.4, 0, 0.1, 1.2, 0.5), at(2.4, 0, -1.6, 0.6, -0.8)] },
		segments: 40
	});
	const places = b.add(
		'points-along-curve',
		'places',
		[280, 0],
		{ by: 'fitted', spacing: 0.3 },
		{ curve: [rope, 'curve'] }
	);
	const near = b.add(
		'weight-near-object',
		'nearNet',
		[280, 300],
		{ fullUpTo: 0.15, noneFrom: 1.6 },
		{ object: [net, 'curve'] }
	);
	const swell = b.add(
		'shape-weight',
		'swelling',
		[560, 300],
		{ ramp: rampOf('smooth', [0, 0.05], [0.55, 0.4], [1, 1]) },
		{ weight: [near, 'weight'] }
	);
	const floats = b.add(
		'vary-each-copy',
		'floats',
		[840, 60],
		{ body: float, rounding: 'steps', roundingSteps: 24, rotation: [0, 0, range(0, 360, 'float-roll')] },
		{ points: [places, 'points'], swell: [swell, 'weight'] }
	);
	const cord = b.add('tube', 'cord', [560, -200], { radius: 0.012, segments: 6 }, { curve: [rope, 'curve'] });
	const hemp = b.add(
		'material',
		'hemp',
		[840, -200],
		{ name: 'Rope', colour: [0.42, 0.34, 0.2], roughness: 0.9 },
		{ geometry: [cord, 'mesh'] }
	);
	const edge = b.add('tube', 'edge', [560, 520], { radius: 0.02, segments: 6 }, { curve: [net, 'curve'] });
	const dark = b.add(
		'material',
		'dark',
		[840, 520],
		{ name: 'Net', colour: [0.07, 0.11, 0.11], roughness: 0.9 },
		{ geometry: [edge, 'mesh'] }
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
				[dark, 'geometry']
			]
		}
	);
	b.add('result', 'result', [1400, 60], {}, { geometry: [all, 'geometry'] });
	b.note(
		[840, 300],
		'Each float is made by the body “Float” from its own distance to the net. Values are rounded to 24 steps, so equal ones share a shape.'
	);
	return b.done('Float line', 2, { camera: { position: [1.6, 2.3, 4.2], target: [-0.2, 0, -0.2] } });
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
