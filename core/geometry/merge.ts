/** Several geometries as one: tables one after another, materials without doubles, ids salted by their input. */
import type { Geometry, Kind, Material } from './geometry.ts';
import { EMPTY } from './geometry.ts';
import { tableOf } from './convert.ts';
import type { PartName } from './parts/index.ts';
import { PART_NAMES, partKind } from './parts/index.ts';
import type { Column } from './table.ts';

/**
 * @param salts one number for each input that keeps their ids apart; the input's place where not given.
 * Attributes that only some inputs have take their default elsewhere. A whole's attributes come from the first that has them.
 */
export function mergeGeometries(inputs: readonly Geometry[], salts?: readonly number[]): Geometry {
	if (inputs.length === 1 && !salts) return inputs[0];
	const materials: Material[] = [];
	const places = new Map<string, number>();
	const placed = inputs.map((g, i) => ({
		g,
		salt: salts?.[i] ?? i + 1,
		materials: g.materials.map((material) => {
			const key = JSON.stringify(material);
			let place = places.get(key);
			if (place === undefined) places.set(key, (place = materials.push(material) - 1));
			return place;
		})
	}));
	const merged = (name: PartName): unknown => {
		const having = placed.filter(({ g }) => g[name]);
		if (!having.length) return null;
		return partKind(name).merge(
			having.map(({ g }) => g[name]),
			(kind: Kind) => having.map(({ g, salt }) => ({ table: tableOf(g, name, kind)!, salt })),
			having.map((one) => one.materials)
		);
	};
	const whole = new Map<string, Column>();
	for (const g of inputs) for (const [name, c] of g.whole.columns) if (!whole.has(name)) whole.set(name, c);
	return {
		...EMPTY,
		...Object.fromEntries(PART_NAMES.map((name) => [name, merged(name)])),
		materials,
		whole: { count: 1, columns: whole, ids: null }
	};
}
