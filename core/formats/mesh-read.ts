/** What every reader of a mesh format gives. */
import type { Geometry } from '../geometry/index.ts';

/** A mesh that was read, with what could not be. */
export interface MeshRead {
	geometry: Geometry;
	warnings: string[];
}
