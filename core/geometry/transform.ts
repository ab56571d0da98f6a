/** A geometry moved by an affine map: each column by its role. */
import type { Geometry } from './geometry.ts';
import type { Affine } from './matrix.ts';
import { partsOf } from './parts/index.ts';

/** Moves every part. Faces are turned round when the map mirrors, so that they stay outward. */
export const transformGeometry = (geometry: Geometry, m: Affine): Geometry => ({
	...geometry,
	...Object.fromEntries(partsOf(geometry).map(({ name, part, own }) => [name, part.transform(own, m)]))
});
