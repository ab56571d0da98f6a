/** What people of the trade type, and the node that must come first. A choice comes as a setting of its node. */
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { nodeKinds } from '../../../core/nodes/index.ts';
import { nearestNodes, searchNodes } from './search.ts';

const FIRST: Record<string, string> = {
	'place-copies': 'align, orient, aim, copy, instance, instancing, particles, railing',
	'points-along-curve': 'row along curve, distribute along curve',
	'sow-points': 'scatter, forest, point cloud, poisson, density, random points',
	'random-number': 'randomize, random, white noise',
	'bend-lattice': 'lattice, cage, free form deformation',
	bend: 'curl, lean',
	twist: 'wring',
	taper: 'flare, squash, narrow',
	displace: 'wave, ripple, displacement, heightmap, inflate, bump',
	'displace-by-noise': 'distort, jitter, crumple, rough',
	transform: 'pivot, symmetry, flip, mirror, move, rotate, scale, translate',
	formula: 'clamp, expression, math, sine, calculate',
	'cut-at-value': 'clip, bisect, slice, isoline',
	'delete-where': 'erase, remove, prune',
	'project-on-surface': 'wrap, attach, drape, snap, conform',
	box: 'bevel, chamfer, rounded, cube, block',
	'box edge chamfered': 'chamfered',
	cylinder: 'pyramid, prism, cone, pole, post',
	'chain-of-copies': 'duplicate, clone, staircase',
	'edges-to-curves': 'wireframe, feature lines',
	tube: 'hose, gutter, pipe, cable, rope',
	relax: 'blur, laplacian',
	statistics: 'average, median, maximum',
	'choose-input': 'switch, if, select, variant',
	mix: 'lerp, blend, crossfade',
	remap: 'remap, map range, rescale',
	compare: 'compare, greater than',
	'voronoi-cells': 'thiessen, mosaic, cracks',
	hull: 'convex, envelope',
	'delaunay-triangles': 'tin',
	'keep-in-rhythm': 'every other, dashes',
	'sort-into-two': 'partition',
	'weight-by-openness': 'snow, dirt, moss, overhang, occlusion, sky',
	'draw-curve': 'spline, path, pen, bezier, sketch',
	'weight-near-object': 'falloff, mask, proximity, distance',
	sphere: 'ball, globe, dome',
	torus: 'donut, tyre',
	grid: 'plane, terrain, floor',
	revolve: 'lathe, vase',
	loft: 'skin, bridge',
	'round-corners': 'fillet',
	'offset-curve': 'inset, outset, parallel, contour',
	'combine-outlines': 'union, subtract, intersect',
	'fill-outline': 'cap, triangulate',
	helix: 'coil, spring, screw',
	rectangle: 'square',
	polygon: 'hexagon, pentagon',
	star: 'gear',
	'text-outline': 'letters, font',
	'import-svg': 'svg, logo',
	'import-mesh': 'obj, gltf, stl, ply, scan',
	morph: 'blend shapes, target',
	subdivide: 'catmull clark, subdivision surface',
	extrude: 'thicken, solid',
	ribbon: 'road, strip',
	material: 'roughness, metallic, pbr, shader',
	'colour-from-ramp': 'palette',
	ramp: 'gradient, easing',
	'write-attribute': 'vertex colour, store, custom data',
	measure: 'area, volume, bounding box, dimensions',
	'count-up': 'series, sequence',
	'even-steps': 'linspace',
	'yes-or-no': 'boolean, checkbox',
	number: 'constant, slider',
	'noise-value': 'noise, fractal, perlin, cellular, ridged',
	'resample-curve': 'rebuild, resample',
	'part-of-curve': 'shorten',
	'trim-by-object': 'trim, mow',
	'grow-branches': 'tree, branch, shrub, vegetation, plant',
	'grow-strands': 'grass, hair, fur, thatch, bristles',
	leaf: 'leaf, petal, foliage, blade',
	'branching-copies': 'recursive, l-system',
	'bend-towards': 'tropism, phototropism, gravity',
	wobble: 'crooked, gnarled',
	comb: 'groom, brush',
	clump: 'tuft, wisp',
	'whorl-of-points': 'rosette, petals, phyllotaxis',
	'vary-each-copy': 'vary, each different',
	repeat: 'loop, iterate, iteration',
	subgraph: 'group, component',
	'reverse-curve': 'direction',
	'join-curves': 'weld, stitch',
	'weight-by-slope': 'steepness, slope',
	'weight-by-height': 'altitude, elevation',
	'weight-in-zone': 'region',
	'weight-in-zone shape half-space': 'half-space',
	'weight-by-pattern': 'checks, stripes, dots, picture',
	'weight-by-order': 'wipe, reveal',
	'weight-in-turn': 'stagger',
	'weight-at-random': 'dropout, probability',
	'shape-weight': 'contrast',
	'grid-of-points Hexagonal grid': 'honeycomb',
	'grid-of-points Brick pattern': 'brick, masonry',
	'ring-of-points': 'radial, circular, polar',
	'points-from-mesh from faces': 'face centres',
	'points-from-mesh': 'vertices, midpoints, centroids',
	'copies-to-mesh': 'flatten, bake',
	'hide-where': 'visibility, hide',
	'lay-along-curve': 'bend along, along path',
	result: 'export, output'
};

const WORDS = Object.entries(FIRST).flatMap(([id, words]) => words.split(', ').map((word) => [word, id]));

test('at least 150 trade words each bring their node first', () => {
	assert.ok(WORDS.length >= 150, `${WORDS.length}`);
	const wrong = WORDS.filter(([word, id]) => searchNodes(word)[0]?.id !== id).map(
		([word, id]) => `“${word}” brings ${searchNodes(word)[0]?.id}, not ${id}`
	);
	assert.deepEqual(wrong, []);
});

test('every curve node is found as a spline and a path, every weight as a falloff and a mask, every deform as such', () => {
	const all = searchNodes('');
	for (const [family, words] of [
		['curves', ['spline', 'path']],
		['weights', ['falloff', 'mask']],
		['deform', ['deform']]
	] as const)
		for (const word of words) {
			const found = new Set(searchNodes(word).map(({ kind }) => kind));
			for (const { kind } of all.filter((one) => one.family === family))
				assert.ok(found.has(kind), `${kind} is not found as “${word}”`);
		}
});

test('every node comes first for its own name', () => {
	for (const { kind, name } of searchNodes(''))
		assert.equal(searchNodes(name)[0].kind, kind, `“${name}” brings ${searchNodes(name)[0].name}`);
	// One word of it is enough where no other node is called by it alone.
	for (const [typed, kind] of [
		['grid', 'grid'],
		['sow', 'sow-points'],
		['displace', 'displace']
	])
		assert.equal(searchNodes(typed)[0].kind, kind, typed);
});

test('outputs are searched too, and what misleads finds nothing', () => {
	assert.ok(searchNodes('centre').some(({ kind }) => kind === 'measure'));
	for (const [word, kind] of [
		['erode', 'displace-by-noise'],
		['hull', 'loft'],
		['voxels', 'grid-of-points'],
		['silhouette', 'edges-to-curves']
	])
		assert.ok(!searchNodes(word).some((entry) => entry.kind === kind), word);
});

test('words that found nothing or the wrong thing', () => {
	for (const [word, kinds] of Object.entries({
		fuse: ['merge', 'join-curves'],
		weld: ['join-curves'],
		uneven: ['displace-by-noise'],
		thinning: ['keep-in-rhythm', 'keep-where'],
		tint: ['colour-from-ramp'],
		reduce: ['keep-where'],
		remesh: ['subdivide'],
		raycast: ['project-on-surface'],
		keyframe: ['motion-path'],
		clone: ['place-copies', 'chain-of-copies'],
		stack: ['row-of-points'],
		bay: ['row-of-points'],
		room: ['grid-of-points'],
		module: ['place-copies', 'grid-of-points'],
		array: ['row-of-points', 'grid-of-points', 'place-copies'],
		flower: ['whorl-of-points'],
		stalk: ['grow-strands'],
		'golden angle': ['whorl-of-points'],
		depth: ['grow-branches'],
		fence: ['points-along-curve', 'row-of-points'],
		bark: ['displace-by-noise'],
		billboard: ['ribbon', 'place-copies']
	}))
		assert.ok(
			searchNodes(word)
				.slice(0, 3)
				.some(({ kind }) => kinds.includes(kind)),
			`${word}: ${searchNodes(word)
				.slice(0, 4)
				.map(({ kind }) => kind)
				.join(', ')}`
		);
});

test('whatever finds nothing offers the nearest; a weight is searched among weights first', () => {
	for (const word of ['displac', 'dizplays', 'gird', 'qqq', 'zyx', 'tubbe'])
		assert.ok(searchNodes(word).length || nearestNodes(word).length, word);
	assert.equal(nearestNodes('dizplace')[0]?.kind, 'displace');
	const weight = nodeKinds.get('displace')!.inputs.weight;
	const all = searchNodes('noise', { gives: weight as never });
	assert.equal(all[0].family, 'weights');
	assert.equal(searchNodes('', { gives: weight as never })[0].family, 'weights');
	assert.ok(
		nearestNodes('qqq', { takes: 'geometry' }).every(({ kind }) =>
			Object.values(nodeKinds.get(kind)!.inputs as Record<string, { kind: string }>).some(
				(input) => input.kind === 'geometry'
			)
		)
	);
});
