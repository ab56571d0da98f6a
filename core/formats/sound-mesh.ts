/** Nothing that is not a number gets out of a mesh file: what can be done without is left out and counted, the rest refused. */
import { NodeError, formatCount, plural } from '../math/index.ts';
import type { Column, Geometry, Material, Table } from '../geometry/index.ts';
import { WIDTH, pollAt, withColumns } from '../geometry/index.ts';
import type { MeshRead } from './mesh-read.ts';

/** Rows of a column of which some number is none. */
function countNone({ type, data }: Column): number {
	const width = WIDTH[type];
	let count = 0;
	for (let row = 0; row < data.length; row += width) {
		pollAt(row);
		for (let k = row; k < row + width; k++)
			if (!Number.isFinite(data[k])) {
				count++;
				break;
			}
	}
	return count;
}

/**
 * A mesh without what is not a number: normals, places in pictures and values that have some are left out as wholes, with a
 * sentence; colours and shares of materials are kept within 0 and 1. Throws NodeError where places are none.
 */
export function soundMesh({ geometry, warnings }: MeshRead, name: string): MeshRead {
	const said: string[] = [];
	const sound = (table: Table, what: string): Table => {
		const gone: Record<string, null> = {};
		for (const [key, column] of table.columns) {
			if (!(column.data instanceof Float32Array)) continue;
			const count = countNone(column);
			if (!count) continue;
			if (key === 'position')
				throw new NodeError(
					`${name}: ${plural(count, 'point lies', 'points lie')} beyond 10³⁸ metres, or nowhere: a scale, a rotation or a place in the file is not a sound number. Mend it and export it again.`
				);
			gone[key] = null;
			said.push(
				`${formatCount(count)} of ${formatCount(table.count)} ${what} of the file have a ${NAMES[key] ?? `value “${key}”`} that is not a number, so ${key === 'normal' ? 'normals are worked out anew' : 'it was left out'}.`
			);
		}
		return Object.keys(gone).length ? withColumns(table, gone) : table;
	};
	const { mesh } = geometry;
	const own: Geometry = mesh
		? {
				...geometry,
				mesh: {
					...mesh,
					points: sound(mesh.points, 'points'),
					corners: sound(mesh.corners, 'corners'),
					faces: sound(mesh.faces, 'faces')
				}
			}
		: geometry;
	const materials = own.materials.map(withinShares);
	const changed = materials.filter((one, i) => one !== own.materials[i]).length;
	if (changed)
		said.push(
			`${plural(changed, 'material of the file has', 'materials of the file have')} colours, metallic or roughness outside of 0 to 1; the nearer end was taken.`
		);
	return {
		geometry: said.length ? { ...own, materials: changed ? materials : own.materials } : geometry,
		warnings: [...warnings, ...said]
	};
}

const NAMES: Readonly<Record<string, string>> = {
	normal: 'normal',
	uv: 'place in pictures',
	colour: 'colour'
};

/** A material whose shares are such; the same one where they are. */
function withinShares(material: Material): Material {
	const share = (x: number): number => (x > 0 ? Math.min(1, x) : 0);
	const colour = material.colour.map(share) as unknown as Material['colour'];
	const [metallic, roughness] = [share(material.metallic), share(material.roughness)];
	const isSame =
		metallic === material.metallic &&
		roughness === material.roughness &&
		colour.every((x, k) => x === material.colour[k]);
	return isSame ? material : { ...material, colour, metallic, roughness };
}
