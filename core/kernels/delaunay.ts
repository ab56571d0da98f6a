/** Delaunay triangles of places in a plane, by a library whose work can be stopped here. */
import Delaunator from 'delaunator';
import { poll, pollAt } from '../geometry/index.ts';

/** The library as it is: it works while it is constructed, and asks for the place of each point in a table of angles. */
const Plain = Delaunator as unknown as new (places: Float64Array) => {
	readonly triangles: Uint32Array;
	readonly halfedges: Int32Array;
	readonly hull: Uint32Array;
	_hashKey(x: number, y: number): number;
};
let steps = 0;

class Stoppable extends Plain {
	override _hashKey(x: number, y: number): number {
		pollAt(++steps);
		return super._hashKey(x, y);
	}
}

/**
 * The triangles of places in a plane, two numbers a place: none where all lie on one line or are the same. Before the first
 * triangle the library sorts the places, which for a million takes a tenth of a second in one go.
 */
export function delaunay(places: Float64Array): {
	triangles: Uint32Array;
	halfedges: Int32Array;
	hull: Uint32Array;
} {
	poll();
	const made = new Stoppable(places);
	poll();
	return made;
}
