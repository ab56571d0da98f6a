/** Places one after another, each in the space of the one before it. */
import { quaternion } from '../math/index.ts';
import { PlacesMade, matrix, pollAt } from '../geometry/index.ts';

/** How each copy is moved (metres), turned (degrees) and scaled from the one before: x, y and z each an array. */
export interface ChainSteps {
	moves: readonly ArrayLike<number>[];
	turns: readonly ArrayLike<number>[];
	scales: readonly ArrayLike<number>[];
}

/** The first stands at the origin; its own step is not taken. */
export function chainPlaces(count: number, { moves, turns, scales }: ChainSteps): PlacesMade {
	const made = new PlacesMade(count);
	let whole = matrix.identity(),
		next = matrix.identity();
	const step = matrix.identity();
	const move = [0, 0, 0],
		size = [1, 1, 1],
		q = [0, 0, 0, 1];
	for (let i = 0; i < count; i++) {
		pollAt(i);
		if (i > 0) {
			quaternion.fromAngles(q, 0, turns[0][i], turns[1][i], turns[2][i]);
			for (let k = 0; k < 3; k++) {
				move[k] = moves[k][i];
				size[k] = scales[k][i];
			}
			matrix.product(whole, matrix.compose(move, q, size, step), next);
			[whole, next] = [next, whole];
		}
		made.set(i, whole);
	}
	return made;
}
