import { NodeError } from '../../math/index.ts';
import type { Geometry, Part, Table } from '../../geometry/index.ts';
import { floats, withColumns, withTable, placedIn } from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import type { Taken } from '../../kernels/take-nearest.ts';
import { takeNearestPoint, takeOnSurface, takeWithin, taken } from '../../kernels/take-nearest.ts';
import { choice, defineNode, geometry, number, output, text } from '../define.ts';
import { valuesOf } from '../plane-tools.ts';
import { attributeIn } from './attribute-tools.ts';

export const takeFromNearest = defineNode({
	id: 'take-from-nearest',
	version: 1,
	name: 'Take from nearest',
	family: 'attributes',
	words: ['transfer', 'sample', 'proximity', 'copy values', 'project values', 'closest', 'paint from'],
	help: 'Each point or copy takes attributes from what lies nearest to it on another geometry.',
	inputs: {
		geometry: geometry({ label: 'Geometry', help: 'What gets the attributes.', needs: 'anything' }),
		source: geometry({ label: 'Source', help: 'What has them.', needs: 'anything' }),
		names: text({
			label: 'Names',
			help: 'The attributes, with commas between them. Empty: all that the source’s points have.',
			default: '',
			attribute: true
		}),
		method: choice({
			label: 'Method',
			help: 'From what is taken.',
			default: 'point',
			options: [
				{ id: 'point', label: 'The nearest point' },
				{ id: 'surface', label: 'The nearest place on the surface' },
				{ id: 'within', label: 'The mean within a radius' }
			]
		}),
		radius: number({
			label: 'Radius',
			help: 'How far the points may lie. Where there is none the value is 0.',
			default: 1,
			min: 0,
			slider: [0, 5],
			unit: 'm',
			when: (s) => s.method === 'within'
		})
	},
	outputs: { geometry: output('geometry', 'Geometry', 'The same with the attributes.') },
	run({ geometry, source, names, method, radius }, context) {
		const points = method === 'surface' ? surfaceOf(source) : asPoints(source).points!.points;
		const wanted = names ? names.split(/[\s,]+/).filter(Boolean) : [...valuesOf(points).columns.keys()];
		for (const name of wanted) if (!points.columns.has(name)) attributeIn(source, 'point', name, 'names');
		if (!points.count) context.warn('The source has no points, so everything takes 0.');
		let alone = 0;
		let out = geometry;
		for (const { part, table } of placedIn(geometry)) {
			if (!table.count) continue;
			const places = floats(table, 'position');
			const found =
				method === 'surface'
					? takeOnSurface(source.mesh!, places)
					: method === 'within'
						? takeWithin(points, places, radius)
						: takeNearestPoint(points, places);
			alone += emptyIn(found);
			out = withTaken(out, part, table, wanted, points, found);
		}
		if (alone && points.count) context.warn(`${alone} have nothing within the radius and take 0.`);
		return { geometry: out };
	}
});

function surfaceOf(source: Geometry): Table {
	if (source.mesh?.faces.count) return source.mesh.points;
	throw new NodeError('“Source” has no faces. Connect a mesh, or take from the nearest point.', {
		input: 'source'
	});
}

const emptyIn = ({ starts }: Taken): number => {
	let empty = 0;
	for (let i = 0; i + 1 < starts.length; i++) if (starts[i] === starts[i + 1]) empty++;
	return empty;
};

function withTaken(
	geometry: Geometry,
	part: Part,
	table: Table,
	names: readonly string[],
	points: Table,
	found: Taken
): Geometry {
	const kind = part === 'copies' ? 'copy' : 'point';
	const columns = names.map((name) => [name, taken(points.columns.get(name)!, found)] as const);
	return withTable(geometry, part, kind, withColumns(table, Object.fromEntries(columns)));
}
