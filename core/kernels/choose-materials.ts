/** Which material each face has: those that are meant get one of some, the others keep theirs. */
import { pollAt } from '../geometry/index.ts';

export interface MaterialChoice {
	/** What the faces have; null where they have none. */
	old: ArrayLike<number> | null;
	/** The faces that are meant, one byte each. */
	chosen: Uint8Array | 'all' | 'none';
	/** The number of the material for each face; null for the first. */
	choice: Float32Array | null;
	/** The place of the first of the new materials, and how many they are. */
	first: number;
	count: number;
}

/** Writes a place in the list of materials for each face; −1 is none. */
export function facesOfMaterials(
	out: Int32Array,
	{ old, chosen, choice, first, count }: MaterialChoice
): Int32Array {
	for (let f = 0; f < out.length; f++) {
		pollAt(f);
		const isMeant = chosen === 'all' || (chosen !== 'none' && chosen[f] !== 0);
		const place = choice ? Math.max(0, Math.min(count - 1, choice[f])) : 0;
		out[f] = isMeant ? first + place : (old?.[f] ?? -1);
	}
	return out;
}
