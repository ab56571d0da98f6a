import type { Geometry } from '../../geometry/index.ts';
import { areaOf, boundsOf, countsOf, lengthOf, volumeOf } from '../../geometry/index.ts';
import { constant, vector as vectorOf } from '../../varying/index.ts';
import { defineNode, geometry, output } from '../define.ts';

export const measure = defineNode({
	id: 'measure',
	version: 1,
	name: 'Measure',
	family: 'meshes',
	words: ['bounding box', 'bounds', 'dimensions', 'area', 'length', 'volume', 'count', 'statistics', 'info'],
	help: 'Facts about a geometry as values for wires: size, lowest and highest corner, centre, counts, area, length. Of a grid also its cells.',
	inputs: {
		geometry: geometry({
			label: 'Geometry',
			help: 'What is measured. Bounds include copies.',
			needs: 'anything'
		})
	},
	givesOne: true,
	outputs: {
		geometry: output('geometry', 'Geometry', 'The same, handed through.'),
		size: output('vector', 'Size', 'Width, height and depth in metres.'),
		lowest: output('vector', 'Lowest', 'The corner with the lowest x, y and z.'),
		highest: output('vector', 'Highest', 'The corner with the highest x, y and z.'),
		centre: output('vector', 'Centre', 'The middle of the bounds.'),
		points: output('whole', 'Points', 'How many points.'),
		faces: output('whole', 'Faces', 'How many faces.'),
		curves: output('whole', 'Curves', 'How many curves.'),
		copies: output('whole', 'Copies', 'How many copies.'),
		area: output(
			'number',
			'Area',
			'Of all faces, in square metres: that of the triangles that they are drawn and exported with.'
		),
		length: output('number', 'Length', 'Of all curves, in metres.'),
		volume: output('number', 'Volume', 'What a closed mesh encloses, in cubic metres.'),
		cell: output('vector', 'Cell size', 'Of a grid: the size of one cell along x and z, in metres.'),
		cells: output('vector', 'Cells', 'Of a grid: how many cells along x and z.')
	},
	run({ geometry }) {
		const bounds = boundsOf(geometry) ?? { low: [0, 0, 0], high: [0, 0, 0] };
		const counts = countsOf(geometry);
		const [low, high] = [bounds.low, bounds.high];
		const each = (f: (k: number) => number) => vectorOf(f(0), f(1), f(2));
		return {
			geometry,
			size: each((k) => high[k] - low[k]),
			lowest: each((k) => low[k]),
			highest: each((k) => high[k]),
			centre: each((k) => (low[k] + high[k]) / 2),
			points: constant(counts.points),
			faces: constant(counts.faces),
			curves: constant(counts.curves),
			copies: constant(counts.copies),
			area: constant(areaOf(geometry)),
			length: constant(lengthOf(geometry)),
			volume: constant(geometry.mesh ? volumeOf(geometry.mesh) : 0),
			cell: whole(geometry, 'cell'),
			cells: whole(geometry, 'cells')
		};
	}
});

/** A vector that a grid left on the whole; zero elsewhere. */
function whole(geometry: Geometry, name: string) {
	const data = geometry.whole.columns.get(name)?.data;
	return vectorOf(data?.[0] ?? 0, data?.[1] ?? 0, data?.[2] ?? 0);
}
