declare module '@kninnug/constrainautor' {
	interface Triangulation {
		coords: ArrayLike<number>;
		triangles: ArrayLike<number>;
		halfedges: ArrayLike<number>;
		hull: ArrayLike<number>;
	}
	/** Makes edges part of a Delaunay triangulation, which it changes. */
	export default class Constrainautor {
		constructor(triangulation: Triangulation);
		/** Throws where the edge passes through a point, or crosses one that was made part before. */
		constrainOne(from: number, to: number): number;
		isConstrained(edge: number): boolean;
	}
}
