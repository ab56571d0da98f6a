/** Places on branches: at their tips, and along them for leaves. Each is turned so that its y goes the way of what grows there. */
import { cos, quaternion, sin } from '../math/index.ts';
import type { Table } from '../geometry/index.ts';
import { Growing, allocate, column, makeTable, pollAt, writeDerived } from '../geometry/index.ts';
import { cross } from './branch-way.ts';
import type { Branches } from './grow-branches.ts';
import { placeAt } from './grow-branches.ts';

export interface LeafSettings {
	/** The levels of branches that bear leaves. */
	least: number;
	most: number;
	/** Shares of a branch between which they stand. */
	from: number;
	to: number;
	/** Metres from one to the next. */
	spacing: number;
	/** Radians from the branch's direction, and round it from one to the next. */
	angle: number;
	divergence: number;
	/** Their size at a share of the branch. */
	size: (u: number) => number;
	/** Throws where so many do not fit. */
	check: (count: number) => void;
}

/** The end of each branch that has no room for leaves beyond it: of all branches. */
export function tipsOf(made: Branches): Table {
	const places = new Places();
	for (let b = 0; b < made.size; b++) {
		const at = placeAt(made, b, 1);
		places.put(b, at.p, at.d, at.n, {
			size: 1,
			nth: 0,
			radius: made.radius.at(made.first.at(b) + made.count.at(b) - 1),
			u: 1
		});
	}
	return places.table(made);
}

export function leafPlaces(made: Branches, of: LeafSettings): Table {
	const places = new Places();
	const side = new Float64Array(3),
		up = new Float64Array(3),
		face = new Float64Array(3);
	for (let b = 0; b < made.size; b++) {
		const level = made.level.at(b);
		if (level < of.least || level > of.most || !(of.spacing > 0)) continue;
		const length = made.length.at(b);
		const room = (of.to - of.from) * length;
		if (!(room >= 0)) continue;
		const count = Math.floor(room / of.spacing + 1e-9) + 1;
		of.check(places.count + count);
		for (let i = 0; i < count; i++) {
			// From the tip backwards, so that the tip bears one.
			const u = of.to - (i * of.spacing) / (length || 1);
			const at = placeAt(made, b, u);
			cross(at.d, at.n, side);
			const round = of.divergence * i;
			for (let k = 0; k < 3; k++) {
				const out = cos(round) * at.n[k] + sin(round) * side[k];
				up[k] = cos(of.angle) * at.d[k] + sin(of.angle) * out;
				face[k] = sin(of.angle) * at.d[k] - cos(of.angle) * out;
			}
			places.put(b, at.p, up, face, { size: of.size(u), nth: i, radius: 0, u });
		}
	}
	return places.table(made);
}

class Places {
	readonly #position = new Growing('float');
	readonly #orientation = new Growing('float');
	readonly #numbers = { size: new Growing('float'), radius: new Growing('float'), u: new Growing('float') };
	readonly #branch = new Growing('int');
	readonly #nth = new Growing('int');
	readonly #q = [0, 0, 0, 1];

	get count(): number {
		return this.#branch.length;
	}

	put(
		branch: number,
		p: Float64Array,
		up: Float64Array,
		face: Float64Array,
		{ size, nth, radius, u }: { size: number; nth: number; radius: number; u: number }
	): void {
		quaternion.lookAlong(this.#q, 0, up[0], up[1], up[2], face[0], face[1], face[2]);
		for (let k = 0; k < 3; k++) this.#position.push(p[k]);
		for (let k = 0; k < 4; k++) this.#orientation.push(this.#q[k]);
		this.#numbers.size.push(size);
		this.#numbers.radius.push(radius);
		this.#numbers.u.push(u);
		this.#branch.push(branch);
		this.#nth.push(nth);
	}

	table(made: Branches): Table {
		const { count } = this;
		const ids = allocate('index', 2 * count);
		const level = allocate('int', count),
			scale = allocate('float', 3 * count);
		const branches: Table = { count: made.size, columns: new Map(), ids: made.ids.take() };
		for (let i = 0; i < count; i++) {
			pollAt(i);
			writeDerived(ids, i, branches, this.#branch.at(i), 0x1eaf + this.#nth.at(i));
			level[i] = made.level.at(this.#branch.at(i));
			for (let k = 0; k < 3; k++) scale[3 * i + k] = this.#numbers.size.at(i);
		}
		return makeTable(
			count,
			{
				position: column('vec3', 'position', this.#position.take()),
				orientation: column('vec4', 'orientation', this.#orientation.take()),
				scale: column('vec3', 'plain', scale),
				level: column('int', 'plain', level),
				branch: column('int', 'plain', this.#branch.take()),
				place: column('float', 'plain', this.#numbers.u.take()),
				radius: column('float', 'plain', this.#numbers.radius.take())
			},
			ids
		);
	}
}
