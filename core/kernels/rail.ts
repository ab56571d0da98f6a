/** A curve as a rail: a place and a frame for every length along it. */
import { lengthsAlong, positionsOf } from '../geometry/index.ts';
import type { Curves } from '../geometry/index.ts';
import type { Frames } from './frames.ts';

/** Where a rail is at a length: the place, and three unit vectors at right angles. Right of the way is forward × up. */
export interface RailFrame {
	x: number;
	y: number;
	z: number;
	/** Forward. */
	tx: number;
	ty: number;
	tz: number;
	/** Up. */
	nx: number;
	ny: number;
	nz: number;
	/** Forward × up. */
	bx: number;
	by: number;
	bz: number;
}

/**
 * One curve as a rail. Frames are blended between the curve's points, so that there is no jump; beyond the ends of an open
 * curve it goes on straight, and a closed one goes round. Asking for lengths in order is fast.
 */
export class Rail {
	readonly length: number;
	readonly #closed: boolean;
	readonly #p: Float32Array;
	readonly #along: Float64Array;
	readonly #frames: Frames;
	readonly #first: number;
	readonly #last: number;
	#at: number;
	/** The last answer. */
	readonly frame: RailFrame = {
		x: 0,
		y: 0,
		z: 0,
		tx: 0,
		ty: 0,
		tz: 0,
		nx: 0,
		ny: 0,
		nz: 0,
		bx: 0,
		by: 0,
		bz: 0
	};

	constructor(curves: Curves, curve: number, frames: Frames) {
		const { along, lengths } = lengthsAlong(curves);
		this.length = lengths[curve];
		this.#closed = !!curves.curves.columns.get('closed')!.data[curve];
		this.#p = positionsOf(curves);
		this.#along = along;
		this.#frames = frames;
		this.#first = this.#at = curves.starts[curve];
		this.#last = curves.starts[curve + 1] - 1;
	}

	/** Finds the frame `s` metres along, into `frame`. */
	find(s: number): RailFrame {
		const along = this.#along,
			first = this.#first,
			last = this.#last,
			closed = this.#closed,
			whole = this.length,
			p = this.#p;
		const { tangents, normals } = this.#frames;
		let at = this.#at;
		if (closed && whole > 0) s -= whole * Math.floor(s / whole);
		while (at > first && along[at] > s) at--;
		while (at < last && along[at + 1] <= s) at++;
		this.#at = at;
		const ends = at >= last && !closed;
		const a = ends && last > first ? last - 1 : at;
		const b = a < last ? a + 1 : closed ? first : a;
		const span = (b === first && closed ? whole : along[b]) - along[a];
		const t = span > 0 ? (s - along[a]) / span : 0;
		// Beyond an end the place goes on, the frame stays.
		const f = t < 0 ? 0 : t > 1 ? 1 : t;
		let nx = 0,
			ny = 0,
			nz = 0,
			tx = 0,
			ty = 0,
			tz = 0;
		for (let k = 0; k < 2; k++) {
			const row = 3 * (k ? b : a),
				w = k ? f : 1 - f;
			nx += normals[row] * w;
			ny += normals[row + 1] * w;
			nz += normals[row + 2] * w;
			tx += tangents[row] * w;
			ty += tangents[row + 1] * w;
			tz += tangents[row + 2] * w;
		}
		let size = Math.sqrt(tx * tx + ty * ty + tz * tz) || 1;
		tx /= size;
		ty /= size;
		tz /= size;
		const lean = nx * tx + ny * ty + nz * tz;
		nx -= lean * tx;
		ny -= lean * ty;
		nz -= lean * tz;
		size = Math.sqrt(nx * nx + ny * ny + nz * nz) || 1;
		nx /= size;
		ny /= size;
		nz /= size;
		const out = this.frame;
		out.x = p[3 * a] + (p[3 * b] - p[3 * a]) * t;
		out.y = p[3 * a + 1] + (p[3 * b + 1] - p[3 * a + 1]) * t;
		out.z = p[3 * a + 2] + (p[3 * b + 2] - p[3 * a + 2]) * t;
		out.tx = tx;
		out.ty = ty;
		out.tz = tz;
		out.nx = nx;
		out.ny = ny;
		out.nz = nz;
		out.bx = ty * nz - tz * ny;
		out.by = tz * nx - tx * nz;
		out.bz = tx * ny - ty * nx;
		return out;
	}
}
