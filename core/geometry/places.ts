/**
 * Where copies stand, how they are turned and how large they are: the one way to read it and to write it. It lies in the
 * columns of their table and nowhere else: `position`, `orientation` and `scale`; and, where some copy shears, which no
 * rotation and scale can say, its three axes in `axisX`, `axisY` and `axisZ`, which then count in place of those two. So
 * whatever keeps, orders or joins rows of a table keeps the copies' shapes.
 */
import { quaternion } from '../math/index.ts';
import { allocate, copyOf, pollAt } from './allocate.ts';
import type { Affine } from './matrix.ts';
import { decomposeInto, identity, setAxes } from './matrix.ts';
import { rotationOf } from './place.ts';
import type { Column, Table } from './table.ts';
import { column, floats, withColumns } from './table.ts';

/** The columns of the axes; all of them are there, or none. */
const AXES = ['axisX', 'axisY', 'axisZ'] as const;

/** Every column that says where copies are. */
export const PLACE_COLUMNS: readonly string[] = ['position', 'orientation', 'scale', ...AXES];

/** Whether some copy of a table may shear. */
export const shears = (copies: Table): boolean => copies.columns.has(AXES[0]);

/** The places of a table's copies, to be read. */
export class Places {
	readonly position: Float32Array;
	readonly orientation: Float32Array;
	readonly scale: Float32Array;
	/** The three axes, three numbers a copy, where some copy shears. */
	readonly axes: readonly Float32Array[] | null;

	constructor(copies: Table) {
		this.position = floats(copies, 'position');
		this.orientation = floats(copies, 'orientation');
		this.scale = floats(copies, 'scale');
		this.axes = shears(copies) ? AXES.map((name) => floats(copies, name)) : null;
	}

	/** The map of one copy, from its source to where it stands. */
	affine(i: number, out: Affine = identity()): Affine {
		if (this.axes)
			for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) out[3 * c + k] = this.axes[c][3 * i + k];
		else setAxes(out, this.orientation, 4 * i, this.scale, 3 * i);
		for (let k = 0; k < 3; k++) out[9 + k] = this.position[3 * i + k];
		return out;
	}

	/** The maps of some copies as 4 × 4 matrices by columns, in one loop. */
	matrices(rows: Uint32Array, out: Float32Array): void {
		const { position, orientation, scale, axes } = this;
		for (let i = 0, o = 0; i < rows.length; i++, o += 16) {
			pollAt(i);
			const p = 3 * rows[i];
			if (axes) for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) out[o + 4 * c + k] = axes[c][p + k];
			else setAxes(out, orientation, 4 * rows[i], scale, p, o, 4);
			out[o + 12] = position[p];
			out[o + 13] = position[p + 1];
			out[o + 14] = position[p + 2];
			out[o + 15] = 1;
		}
	}
}

/** Places written anew, each as a map. */
export class PlacesMade {
	readonly position: Float32Array;
	readonly orientation: Float32Array;
	readonly scale: Float32Array;
	readonly #axes: readonly Float32Array[];
	#shears = false;
	readonly #q = [0, 0, 0, 1];
	readonly #size = [1, 1, 1];

	constructor(count: number) {
		this.position = allocate('float', 3 * count);
		this.orientation = allocate('float', 4 * count);
		this.scale = allocate('float', 3 * count);
		this.#axes = AXES.map(() => allocate('float', 3 * count));
	}

	set(i: number, m: Affine): void {
		for (let k = 0; k < 3; k++) this.position[3 * i + k] = m[9 + k];
		for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) this.#axes[c][3 * i + k] = m[3 * c + k];
		if (!decomposeInto(m, this.#q, this.#size)) {
			this.#shears = true;
			// What stands for it where only a rotation and a size are asked.
			this.#q.splice(0, 4, ...rotationOf(m));
			for (let c = 0; c < 3; c++) {
				const [x, y, z] = [m[3 * c], m[3 * c + 1], m[3 * c + 2]];
				this.#size[c] = Math.sqrt(x * x + y * y + z * z);
			}
		}
		for (let k = 0; k < 4; k++) this.orientation[4 * i + k] = this.#q[k];
		for (let k = 0; k < 3; k++) this.scale[3 * i + k] = this.#size[k];
	}

	/** The columns: those of the axes are null where no copy shears. */
	columns(): Record<string, Column | null> {
		return placeColumns(this, this.#shears ? this.#axes : null);
	}
}

/**
 * Places of a table that are changed one by one. Copies that shear change as the others do. What nobody changes stays the
 * same column, so that nothing looks at it again.
 */
export class PlacesChanged {
	readonly #copies: Table;
	readonly #axes: readonly Float32Array[] | null;
	#position: Float32Array | null = null;
	#orientation: Float32Array | null = null;
	#scale: Float32Array | null = null;

	constructor(copies: Table) {
		this.#copies = copies;
		this.#axes = shears(copies) ? AXES.map((name) => copyOf(floats(copies, name))) : null;
	}

	/** To be read; `resize` writes it. */
	get scale(): Float32Array {
		return this.#scale ?? floats(this.#copies, 'scale');
	}

	/** To be written. */
	get position(): Float32Array {
		return (this.#position ??= copyOf(floats(this.#copies, 'position')));
	}

	#orientationToWrite(): Float32Array {
		return (this.#orientation ??= copyOf(floats(this.#copies, 'orientation')));
	}

	#scaleToWrite(): Float32Array {
		return (this.#scale ??= copyOf(floats(this.#copies, 'scale')));
	}

	/** Gives a copy another orientation. Its axes, and so its shape, are turned by the way from the one it had. */
	turnTo(i: number, q: readonly number[]): void {
		const orientation = this.#orientationToWrite();
		const o = 4 * i;
		if (this.#axes) {
			const way = [0, 0, 0, 1];
			quaternion.multiply(
				way,
				0,
				q[0],
				q[1],
				q[2],
				q[3],
				-orientation[o],
				-orientation[o + 1],
				-orientation[o + 2],
				orientation[o + 3]
			);
			for (const axis of this.#axes) {
				const a = 3 * i;
				quaternion.rotate(axis, a, way[0], way[1], way[2], way[3], axis[a], axis[a + 1], axis[a + 2]);
			}
		}
		for (let k = 0; k < 4; k++) orientation[o + k] = q[k];
	}

	/** Gives a copy another size along one of its own axes. What has no size there gets none of its shape back. */
	resize(i: number, k: number, size: number): void {
		const was = this.scale[3 * i + k];
		this.#scaleToWrite()[3 * i + k] = size;
		if (!this.#axes) return;
		const axis = this.#axes[k];
		for (let c = 3 * i; c < 3 * i + 3; c++) axis[c] = was === 0 ? 0 : (axis[c] * size) / was;
	}

	/**
	 * A copy on the way to another orientation and size, by a share of each; all the way, it shears no more. How it shears
	 * goes with the orientation.
	 */
	blendTo(i: number, q: readonly number[], size: readonly number[], share: number, ofSize = share): void {
		const [orientation, scale] = [this.#orientationToWrite(), this.#scaleToWrite()];
		const o = 4 * i;
		// The shorter way round, straight between the two and made 1 long again.
		let sign = 0;
		for (let k = 0; k < 4; k++) sign += orientation[o + k] * q[k];
		sign = sign < 0 ? -1 : 1;
		const between = q.map((x, k) => orientation[o + k] + (sign * x - orientation[o + k]) * share);
		const length = Math.sqrt(between.reduce((sum, x) => sum + x * x, 0)) || 1;
		for (let k = 0; k < 4; k++) orientation[o + k] = between[k] / length;
		for (let k = 0; k < 3; k++) scale[3 * i + k] += (size[k] - scale[3 * i + k]) * ofSize;
		if (!this.#axes) return;
		const goal = identity();
		setAxes(goal, q, 0, size, 0);
		this.#axes.forEach((axis, c) => {
			for (let k = 0; k < 3; k++) axis[3 * i + k] += (goal[3 * c + k] - axis[3 * i + k]) * share;
		});
	}

	columns(): Record<string, Column | null> {
		return {
			...(this.#position && { position: column('vec3', 'position', this.#position) }),
			...(this.#orientation && { orientation: column('vec4', 'orientation', this.#orientation) }),
			...(this.#scale && { scale: column('vec3', 'plain', this.#scale) }),
			...(this.#axes && axesColumns(this.#axes))
		};
	}
}

const axesColumns = (axes: readonly Float32Array[] | null): Record<string, Column | null> =>
	Object.fromEntries(AXES.map((name, k) => [name, axes && column('vec3', 'direction', axes[k])]));

/** The columns of places that are known already. Those of the axes are null where no copy shears. */
export function placeColumns(
	{
		position,
		orientation,
		scale
	}: { position: Float32Array; orientation: Float32Array; scale: Float32Array },
	axes: readonly Float32Array[] | null = null
): Record<string, Column | null> {
	return {
		position: column('vec3', 'position', position),
		orientation: column('vec4', 'orientation', orientation),
		scale: column('vec3', 'plain', scale),
		...axesColumns(axes)
	};
}

/** The axes of all copies as columns, also where none shears: so that tables of both kinds can be joined. */
export function withAxes(copies: Table): Table {
	if (shears(copies)) return copies;
	const places = new Places(copies);
	const axes = AXES.map(() => allocate('float', 3 * copies.count));
	const m = identity();
	for (let i = 0; i < copies.count; i++) {
		pollAt(i);
		places.affine(i, m);
		for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) axes[c][3 * i + k] = m[3 * c + k];
	}
	const columns = new Map(copies.columns);
	AXES.forEach((name, k) => columns.set(name, column('vec3', 'direction', axes[k])));
	return { ...copies, columns };
}

/** Copies with an orientation or a size written by hand, which from then on count in place of axes. */
export const withWritten = (copies: Table, name: string, written: Column): Table =>
	withColumns(copies, {
		[name]: written,
		...(name === 'orientation' || name === 'scale'
			? Object.fromEntries(AXES.map((axis) => [axis, null]))
			: {})
	});
