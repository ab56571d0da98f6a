/** What formulas may ask of things that grow: their level, their parent, their number among its children. */
import { NodeError } from '../math/index.ts';
import type { Column } from '../geometry/index.ts';
import type { Elements } from '../varying/index.ts';
import { fixesOfName, nearestName } from '../varying/index.ts';

/**
 * Elements that have columns and nothing else; each is made when it is first asked for. `u` and `length` are asked of them
 * like any other.
 */
export function grownElements(
	count: number,
	ids: Uint32Array,
	called: string,
	columns: ReadonlyMap<string, () => Column>
): Elements {
	const made = new Map<string, Column>();
	const find = (name: string): Column => {
		const known = made.get(name) ?? columns.get(name)?.();
		if (known) {
			made.set(name, known);
			return known;
		}
		const near = nearestName(name, columns.keys());
		throw new NodeError(
			`There is no “${name}” here.${near ? ` Did you mean “${near}”?` : ''} Known of ${called}: ${[...columns.keys()].join(', ')}.`,
			{ fixes: fixesOfName(name, near) }
		);
	};
	return { count, called, ids, attribute: find, builtin: find };
}

/**
 * (level + 1) ÷ (levels + 1) as a column holds it: never above the true number, so that of three materials
 * `ceil(progress * 3) - 1` is that of the level.
 */
export function progressOf(level: number, levels: number): number {
	const exact = (level + 1) / (levels + 1);
	const stored = Math.fround(exact);
	// The product of a number of 24 bits and a count is exact. The next number below is nearer than this.
	return stored * (levels + 1) > level + 1 ? Math.fround(stored * (1 - 5.9604644775390625e-8)) : stored;
}
