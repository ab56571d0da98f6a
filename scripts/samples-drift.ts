/** Shells that the tide has left: which kind lies where goes by shares that change with the distance from the waterline. */
import type { GeneratorDocument } from '../core/engine/index.ts';
import { rampOf } from '../core/varying/index.ts';
import { Builder, around, formula, range } from './sample-builder.ts';

export function shellDrift(): GeneratorDocument {
	const b = new Builder('drift');
	const { sand, water } = beach(b);
	const near = b.add(
		'weight-near-object',
		'fromWater',
		[520, -260],
		{ fullUpTo: 0, noneFrom: 3 },
		{ object: [water, 'curve'] }
	);
	const line = b.add(
		'formula',
		'driftLine',
		[800, -320],
		{ formula: 'exp(-((far - 0.9) / 0.55) ^ 2) + 0.06 * step(far, 2.6)' },
		{ far: [near, 'distance'] },
		{ inputs: [{ name: 'far', value: 1 }] }
	);
	const sown = b.add(
		'sow-points',
		'sowing',
		[1080, -120],
		{ by: 'density', density: 85, minimumDistance: 0.02 },
		{ surface: [sand, 'geometry'], weight: [line, 'value'] }
	);
	const wet = b.add('random-number', 'wetShares', [800, 120], { distribution: 'shares', shares: '1, 1, 8' });
	const dry = b.add('random-number', 'dryShares', [800, 320], { distribution: 'shares', shares: '6, 2, 1' });
	const kind = b.add(
		'formula',
		'kindOfShell',
		[1080, 160],
		{ formula: 'choose(random(0, 1) < smoothstep(0.4, 1.5, far), dry, wet)' },
		{ far: [near, 'distance'], dry: [dry, 'value'], wet: [wet, 'value'] },
		{
			inputs: [
				{ name: 'far', value: 1 },
				{ name: 'dry', value: 0 },
				{ name: 'wet', value: 0 }
			]
		}
	);
	const told = b.add(
		'write-attribute',
		'onEachShell',
		[1360, -60],
		{
			rows: 3,
			name: 'far',
			type: 'float',
			name2: 'kind',
			type2: 'int',
			value2: 0,
			name3: 'colour',
			type3: 'colour',
			value3: formula(
				'hsl(0.07 + random(-0.03, 0.03), random(0.05, 0.4), random(0.6, 0.95))',
				'hue',
				'strong',
				'light'
			)
		},
		{ geometry: [sown, 'points'], value: [near, 'distance'], value2: [kind, 'value'] }
	);
	const shells = b.add(
		'place-copies',
		'shells',
		[1920, 160],
		{
			pick: 'number',
			number: formula('kind'),
			rotation: [around(0, 25, 'drift-tilt'), range(0, 360, 'drift-turn'), around(0, 25, 'drift-roll')],
			scale: around(1, 0.35, 'drift-size'),
			offset: [0, 0.004, 0]
		},
		{ points: [told, 'geometry'], source: sourcesOf(b) }
	);
	const all = b.add(
		'merge',
		'together',
		[2200, 60],
		{},
		{
			geometry: [
				[sand, 'geometry'],
				[shells, 'copies']
			]
		}
	);
	b.add('result', 'result', [2480, 60], {}, { geometry: [all, 'geometry'] });
	b.note([520, -420], 'The tide left most of them in a line, a step above the water.');
	b.note(
		[800, 500],
		'Near the water mostly mussels, further up mostly cockles: two sets of shares, and the distance chooses between them.'
	);
	return b.done('Shell drift', 5, { camera: { position: [2.6, 2.1, 4.4], target: [0.1, 0, 0.3] } });
}

/** Sand that rises from the waterline, darker where it is wet. */
function beach(b: Builder) {
	const relief = b.add('noise-value', 'ripples', [-320, 60], {
		pattern: 'hills',
		size: [1.6, 1, 0.5],
		octaves: 3,
		low: -0.035,
		high: 0.035
	});
	const flat = b.add('grid', 'flat', [-320, -120], { width: 8, depth: 5, columns: 160, rows: 100 });
	const slope = b.add(
		'displace',
		'slope',
		[-40, -60],
		{ along: 'direction', direction: [0, 1, 0], amount: formula('-0.09 * position.z') },
		{ geometry: [flat, 'mesh'] }
	);
	const rippled = b.add(
		'displace',
		'rippled',
		[240, -60],
		{ along: 'direction', direction: [0, 1, 0] },
		{ geometry: [slope, 'geometry'], amount: [relief, 'value'] }
	);
	const sand = b.add(
		'material',
		'sand',
		[520, -40],
		{
			rows: 3,
			choose: 'ramp',
			value: formula('smoothstep(-0.2, 0.06, position.y + 0.02 * noise(position * 3))'),
			ramp: rampOf('linear', [0, 0], [1, 1]),
			name: 'Wet sand',
			colour: [0.17, 0.12, 0.075],
			roughness: 0.35,
			name2: 'Damp sand',
			colour2: [0.3, 0.22, 0.14],
			roughness2: 0.7,
			name3: 'Dry sand',
			colour3: [0.47, 0.37, 0.25],
			roughness3: 0.95
		},
		{ geometry: [rippled, 'geometry'] }
	);
	const place = (x: number, z: number, lean: number) => ({
		at: [x, -0.09 * z, z],
		in: [-0.9, 0, -lean],
		out: [0.9, 0, lean]
	});
	const water = b.add('draw-curve', 'waterline', [240, -300], {
		path: { path: [place(-4, 2.3, 0.1), place(-1.4, 1.9, -0.2), place(1.2, 2.4, 0.2), place(4, 2, -0.1)] }
	});
	return { sand, water };
}

/** A ribbed cockle, a wound whelk and a mussel, each with its own material. */
function sourcesOf(b: Builder): [ReturnType<Builder['add']>, string][] {
	const ball = b.add('sphere', 'bowl', [800, 700], { radius: 0.06, segments: 36, rows: 10 });
	const ribbed = b.add(
		'displace',
		'ribs',
		[1080, 700],
		{ amount: formula('0.004 * cos(18 * atan(position.x, position.z))') },
		{ geometry: [ball, 'mesh'] }
	);
	const cockle = b.add(
		'transform',
		'cockle',
		[1360, 700],
		{ scale: [1, 0.45, 0.85] },
		{ geometry: [ribbed, 'geometry'] }
	);
	const winding = b.add('helix', 'winding', [800, 880], {
		radius: 0.032,
		endRadius: 0.004,
		height: 0.13,
		turns: 4,
		points: 20
	});
	const whelk = b.add(
		'tube',
		'whelk',
		[1080, 880],
		{ radius: formula('0.03 * (1 - 0.88 * u)'), segments: 10 },
		{ curve: [winding, 'curve'] }
	);
	const egg = b.add('sphere', 'egg', [800, 1060], { radius: 0.05, segments: 16, rows: 10 });
	const pinched = b.add(
		'taper',
		'pinched',
		[1080, 1060],
		{ axis: 'z', start: 1, end: 0.35 },
		{ geometry: [egg, 'mesh'] }
	);
	const mussel = b.add(
		'transform',
		'mussel',
		[1360, 1060],
		{ scale: [0.7, 0.5, 1.4] },
		{ geometry: [pinched, 'geometry'] }
	);
	const finish = (name: string, short: string, y: number, colour: number[], roughness: number) =>
		[name, short, y, colour, roughness] as const;
	return [
		[cockle, 'geometry', finish('Cockle', 'lime', 700, [0.75, 0.68, 0.56], 0.7)] as const,
		[whelk, 'mesh', finish('Whelk', 'horn', 880, [0.62, 0.47, 0.33], 0.55)] as const,
		[mussel, 'geometry', finish('Mussel', 'blueBlack', 1060, [0.045, 0.055, 0.1], 0.35)] as const
	].map(([from, port, [name, short, y, colour, roughness]]) => [
		b.add('material', short, [1640, y], { name, colour, roughness }, { geometry: [from, port] }),
		'geometry'
	]);
}
