/** Geometry, by wire only. */
import type { Fix } from '../../math/index.ts';
import { NodeError, plural } from '../../math/index.ts';
import type { Geometry } from '../../geometry/index.ts';
import { PART_NAMES, isEmpty, partKind } from '../../geometry/index.ts';
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
					`“${label}” takes geometry; this gives ${CARRIED[from].gives}.`,
					from === 'list' ? 'points-from-values' : undefined
				),
	resolve(input, at) {
		const { label, needs, optional, many } = input;
		const found = at.wired().map((made) => {
			if (isGeometry(made)) return withNeeded(made, input, at);
			throw new NodeError(`“${label}” takes geometry; a value came.`, { input: at.name });
		});
		if (!found.length && !optional)
			throw new Incomplete(`Connect ${calledBy(needs)} to “${label}”.`, at.name);
		return many ? found : (found.at(-1) ?? null);
	}
};

const calledBy = (needs: GeometryInput['needs']): string =>
	needs && needs !== 'anything' ? partKind(needs).called : 'geometry';

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
	if (isEmpty(geometry)) return { ...geometry, [needs]: partKind(needs).empty() };
	if (needs === 'mesh' && count)
		throw new NodeError(
			`“${label}” needs a mesh; ${copies} came. Make a mesh of them with “Copies to mesh”.`,
			{ input: name, fixes: [toMesh] }
		);
	const own = PART_NAMES.find((part) => geometry[part]);
	const came = own === 'copies' ? copies : calledBy(own);
	throw new NodeError(`“${label}” needs ${calledBy(needs)}; ${came} came.`, { input: name });
}
