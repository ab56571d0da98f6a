/** Copies with other materials: each copy takes one of some, and the shapes that it shows are painted with it. */
import type { Geometry, Instances, Material } from '../geometry/index.ts';
import { allocate, column, pollAt, withColumns } from '../geometry/index.ts';

/**
 * Paints a shape, and the copies within it, with one material.
 * @param known what was painted with it already: shapes share shapes, and each is painted once.
 */
function painted(shape: Geometry, material: Material, known: Map<Geometry, Geometry>): Geometry {
	const before = known.get(shape);
	if (before) return before;
	const { mesh, copies } = shape;
	const made: Geometry = {
		...shape,
		materials: [material],
		...(mesh && {
			mesh: { ...mesh, faces: withColumns(mesh.faces, { material: ofFaces(mesh.faces.count) }) }
		}),
		...(copies && {
			copies: { ...copies, sources: copies.sources.map((source) => painted(source, material, known)) }
		})
	};
	known.set(shape, made);
	return made;
}
const ofFaces = (count: number) => ({ ...column('int', 'id', allocate('int', count)), default: [-1] });

/**
 * @param choice for each copy the place of its material; −1 leaves it as it is.
 * Each source is painted once for each material that a copy of it takes.
 */
export function paintCopies(
	{ copies, sources }: Instances,
	materials: readonly Material[],
	choice: ArrayLike<number>
): Instances {
	const before = copies.columns.get('source')!.data;
	const source = allocate('int', copies.count);
	const made: Geometry[] = [];
	const places = new Map<number, number>();
	const known = materials.map(() => new Map<Geometry, Geometry>());
	const many = materials.length + 1;
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		const key = before[i] * many + choice[i] + 1;
		let place = places.get(key);
		if (place === undefined) {
			const shape = sources[before[i]];
			place = made.push(choice[i] < 0 ? shape : painted(shape, materials[choice[i]], known[choice[i]])) - 1;
			places.set(key, place);
		}
		source[i] = place;
	}
	return { copies: withColumns(copies, { source: column('int', 'id', source) }), sources: made };
}
