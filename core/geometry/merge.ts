/** Several geometries as one: tables one after another, materials without doubles, ids salted by their input. */
import { mix } from '../math/index.ts';
import { allocate, pollAt, setInPieces } from './allocate.ts';
import type { Curves, Geometry, Instances, Kind, Material, Mesh } from './geometry.ts';
import type { Column, Table } from './table.ts';
import { WIDTH, allocateData, column, withColumns } from './table.ts';
import { edgesOf } from './derive.ts';
import { tableOf } from './convert.ts';
import { shears, withAxes } from './places.ts';

/**
 * @param salts one number for each input that keeps their ids apart; the input's place where not given.
 * Attributes that only some inputs have take their default elsewhere. A whole's attributes come from the first that has them.
 */
export function mergeGeometries(inputs: readonly Geometry[], salts?: readonly number[]): Geometry {
	if (inputs.length === 1 && !salts) return inputs[0];
	const materials: Material[] = [];
	const places = new Map<string, number>();
	const remaps = inputs.map((g) =>
		g.materials.map((material) => {
			const key = JSON.stringify(material);
			let place = places.get(key);
			if (place === undefined) places.set(key, (place = materials.push(material) - 1));
			return place;
		})
	);
	const salt = (i: number) => salts?.[i] ?? i + 1;
	const tables = (kind: Kind, part: 'mesh' | 'curves' | 'points' | 'copies') =>
		inputs.flatMap((g, i) => {
			const table = g[part] && tableOf(g, part, kind);
			return table
				? [{ table: kind === 'face' ? remapped(table, remaps[i], inputs) : table, salt: salt(i) }]
				: [];
		});
	const whole = new Map<string, Column>();
	for (const g of inputs) for (const [name, c] of g.whole.columns) if (!whole.has(name)) whole.set(name, c);
	return {
		kind: 'geometry',
		mesh: mergeMeshes(
			inputs.flatMap((g) => g.mesh ?? []),
			tables
		),
		curves: mergeCurves(
			inputs.flatMap((g) => g.curves ?? []),
			tables
		),
		points: inputs.some((g) => g.points) ? { points: stackTables(tables('point', 'points')) } : null,
		copies: mergeCopies(
			inputs.flatMap((g) => g.copies ?? []),
			tables
		),
		materials,
		whole: { count: 1, columns: whole, ids: null }
	};
}

type Tables = (kind: Kind, part: 'mesh' | 'curves' | 'points' | 'copies') => { table: Table; salt: number }[];

/** The face table with its material indices counted in the merged list. Faces without one get -1. */
function remapped(table: Table, remap: number[], inputs: readonly Geometry[]): Table {
	const own = table.columns.get('material');
	if (!own && !inputs.some((other) => other.mesh?.faces.columns.has('material'))) return table;
	const data = allocate('int', table.count);
	if (own)
		for (let f = 0; f < data.length; f++) {
			pollAt(f);
			data[f] = remap[own.data[f]] ?? -1;
		}
	else
		for (let f = 0; f < data.length; f++) {
			pollAt(f);
			data[f] = -1;
		}
	return withColumns(table, { material: { ...column('int', 'id', data), default: [-1] } });
}

function mergeMeshes(meshes: Mesh[], tables: Tables): Mesh | null {
	if (!meshes.length) return null;
	let corners = 0,
		faces = 0,
		points = 0;
	for (const { topology } of meshes) {
		corners += topology.cornerPoints.length;
		faces += topology.faceStarts.length - 1;
	}
	const faceStarts = allocate('index', faces + 1);
	const cornerPoints = allocate('index', corners);
	corners = faces = 0;
	for (const { topology } of meshes) {
		const { faceStarts: starts, cornerPoints: own } = topology;
		for (let f = 0; f < starts.length - 1; f++) {
			pollAt(f);
			faceStarts[faces + f + 1] = corners + starts[f + 1];
		}
		for (let c = 0; c < own.length; c++) {
			pollAt(c);
			cornerPoints[corners + c] = own[c] + points;
		}
		corners += own.length;
		faces += starts.length - 1;
		points += topology.pointCount;
	}
	const topology = { pointCount: points, faceStarts, cornerPoints };
	const hasEdges = meshes.some((mesh) => mesh.edges);
	const edges = hasEdges ? stackTables(tables('edge', 'mesh')) : null;
	return {
		topology,
		points: stackTables(tables('point', 'mesh')),
		corners: stackTables(tables('corner', 'mesh')),
		faces: stackTables(tables('face', 'mesh')),
		edges: edges && edges.count === edgesOf(topology).uses.length ? edges : null
	};
}

function mergeCurves(all: Curves[], tables: Tables): Curves | null {
	if (!all.length) return null;
	const starts = [0];
	for (const curves of all) {
		const base = starts[starts.length - 1];
		for (let i = 1; i < curves.starts.length; i++) {
			pollAt(i);
			starts.push(base + curves.starts[i]);
		}
	}
	return {
		points: stackTables(tables('point', 'curves')),
		curves: stackTables(tables('curve', 'curves')),
		starts: Uint32Array.from(starts)
	};
}

function mergeCopies(all: Instances[], tables: Tables): Instances | null {
	if (!all.length) return null;
	const sources: Geometry[] = [];
	const isSheared = all.some(({ copies }) => shears(copies));
	const stacked = stackTables(
		tables('copy', 'copies').map(({ table, salt }) => ({ table: isSheared ? withAxes(table) : table, salt }))
	);
	const source = allocate('int', stacked.count);
	let row = 0;
	for (const part of all) {
		const places = part.sources.map((g) => {
			const place = sources.indexOf(g);
			return place >= 0 ? place : sources.push(g) - 1;
		});
		const own = part.copies.columns.get('source')!.data;
		for (let i = 0; i < own.length; i++) {
			pollAt(i);
			source[row + i] = places[own[i]];
		}
		row += own.length;
	}
	return { copies: withColumns(stacked, { source: column('int', 'id', source) }), sources };
}

/** Tables one below the other. A column that is not everywhere of one type takes the type of the first. */
export function stackTables(parts: { table: Table; salt: number }[]): Table {
	const count = parts.reduce((sum, { table }) => sum + table.count, 0);
	const names = new Map<string, Column>();
	for (const { table } of parts)
		for (const [name, c] of table.columns) if (!names.has(name)) names.set(name, c);
	const columns = new Map<string, Column>();
	for (const [name, model] of names) {
		const width = WIDTH[model.type];
		const data = allocateData(model.type, count);
		const has = (table: Table) => table.columns.get(name)?.type === model.type;
		// Where a text is missing stands the empty one, which then is the first word.
		const places = new Map<string, number>();
		const placeOf = (word: string): number => {
			let place = places.get(word);
			if (place === undefined) places.set(word, (place = places.size));
			return place;
		};
		if (model.words && !parts.every(({ table }) => has(table))) placeOf('');
		let row = 0;
		for (const { table } of parts) {
			const own = table.columns.get(name);
			if (own && has(table)) {
				if (own.words) {
					// One dictionary for all: a text that several of them have stands there once.
					const now = own.words.map(placeOf);
					for (let i = 0; i < table.count; i++) {
						pollAt(i);
						data[row + i] = now[own.data[i]];
					}
				} else setInPieces(data, own.data, row * width);
			} else
				for (let i = 0; i < table.count; i++) {
					pollAt(i);
					for (let k = 0; k < width; k++) data[(row + i) * width + k] = model.default[k];
				}
			row += table.count;
		}
		columns.set(name, {
			...model,
			data,
			...(model.words && { words: places.size ? [...places.keys()] : [''] })
		});
	}
	const ids = allocate('index', 2 * count);
	let row = 0;
	for (const { table, salt } of parts) {
		for (let i = 0; i < table.count; i++, row++) {
			pollAt(i);
			const low = table.ids ? table.ids[2 * i] : i;
			const high = table.ids ? table.ids[2 * i + 1] : 0;
			ids[2 * row] = mix(mix(salt, low), high);
			ids[2 * row + 1] = mix(mix(salt + 0x51ed27, high), low);
		}
	}
	return { count, columns, ids };
}
