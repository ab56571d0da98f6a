/** Geometry, by wire only. */
import type { Fix } from '../../math/index.ts';
import { NodeError, plural } from '../../math/index.ts';
import type { Geometry, Part } from '../../geometry/index.ts';
import { EMPTY, isEmpty, makeCurves, makeMesh, makePoints } from '../../geometry/index.ts';
import type { GeometryInput } from '../../nodes/index.ts';
import { isGeometry } from '../values.ts';
import type { Arriving, InputKind } from './kind.ts';
import { CARRIED, FITS, refuse } from './kind.ts';
import { Incomplete } from './waiting.ts';

export const geometryKind: InputKind<GeometryInput> = {
	schema: null,
	takes: 'geometry',
	isNumeric: false,
	field: 'wires',
	start: () => null,
	fits: (from, { label }) =>
		from === 'geometry'
			? FITS
			: refuse(
					`“${label}” takes geometry; this gives ${CARRIED[from]}.`,
					from === 'list' ? 'points-from-values' : undefined
				),
	resolve(input, at) {
		const { label, needs, optional, many } = input;
		const found = at.wired().map((made) => {
			if (isGeometry(made)) return withNeeded(made, input, at);
			throw new NodeError(`“${label}” takes geometry; a value came.`, { input: at.name });
		});
		if (!found.length && !optional)
			throw new Incomplete(`Connect ${NEEDED[needs ?? 'anything'] ?? 'geometry'} to “${label}”.`, at.name);
		return many ? found : (found.at(-1) ?? null);
	}
};

const NEEDED: Readonly<Record<string, string>> = {
	mesh: 'a mesh',
	curves: 'a curve',
	points: 'points',
	copies: 'copies'
};

const EMPTY_PARTS: Partial<Record<Part, () => Partial<Geometry>>> = {
	mesh: () => ({ mesh: makeMesh(new Float32Array(0), Uint32Array.of(0), new Uint32Array(0)) }),
	curves: () => ({ curves: makeCurves(new Float32Array(0), Uint32Array.of(0), new Uint8Array(0)) }),
	points: () => ({ points: makePoints(new Float32Array(0)) })
};

/** Makes sure that the part a node needs is there, or says what came instead. */
function withNeeded(geometry: Geometry, { needs, label }: GeometryInput, { name, warn }: Arriving): Geometry {
	if (!needs || needs === 'anything') return geometry;
	const toMesh: Fix = { label: 'Insert “Copies to mesh”', insert: { node: 'copies-to-mesh', input: name } };
	const count = geometry.copies?.copies.count ?? 0;
	const copies = plural(count, 'copy', 'copies');
	if (geometry[needs]) {
		if (needs === 'mesh' && count)
			warn(`${copies} left alone: “${label}” works on the mesh.`, name, [toMesh]);
		return geometry;
	}
	if (isEmpty(geometry)) return { ...geometry, ...(EMPTY_PARTS[needs]?.() ?? EMPTY) };
	if (needs === 'mesh' && count)
		throw new NodeError(
			`“${label}” needs a mesh; ${copies} came. Make a mesh of them with “Copies to mesh”.`,
			{ input: name, fixes: [toMesh] }
		);
	const came = geometry.mesh ? 'a mesh' : geometry.curves ? 'curves' : geometry.copies ? copies : 'points';
	throw new NodeError(`“${label}” needs ${NEEDED[needs] ?? 'geometry'}; ${came} came.`, { input: name });
}
