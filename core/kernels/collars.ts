/** Collars: where a branch leaves its parent, it widens towards it in a quarter of a circle. */
import type { Branches } from './grow-branches.ts';
import { dot } from './branch-way.ts';

/** A place on a branch: a share of its length, and how much wider it is there, in metres. */
export interface Ring {
	t: number;
	wider: number;
}

/** Where on the rounding, as shares of its radius, rings stand. */
const STEPS = [0, 0.125, 0.375, 1];
/** A branch that lies nearly along its parent leaves it late: not later than with this sine. */
const LEAST_SINE = 0.25;

/**
 * The rings of a branch from its start to its end: those it has, and where it has a collar those that show it.
 * @param parentRadius of its parent where it stands, in metres.
 * @param towards the direction of its parent there.
 */
export function ringsOf(made: Branches, b: number, parentRadius: number, towards: ArrayLike<number>): Ring[] {
	const points = made.count.at(b);
	const own = Array.from({ length: points }, (_, i) => (points > 1 ? i / (points - 1) : 0));
	const first = made.first.at(b),
		length = made.length.at(b);
	const radius = made.radius.at(first);
	const start = [0, 1, 2].map((k) => made.d.at(3 * first + k));
	const cosine = dot(start, towards);
	const leaves = parentRadius / Math.max(LEAST_SINE, Math.sqrt(Math.max(0, 1 - cosine * cosine)));
	// No wider than its parent, and no longer than itself.
	const round = Math.min(made.collar.at(b) * radius, parentRadius - radius, 0.9 * length - leaves);
	if (!(round > 0)) return own.map((t) => ({ t, wider: 0 }));
	const wider = (s: number): number => {
		if (s <= leaves) return (round * s) / leaves;
		const left = round - (s - leaves);
		return left > 0 ? round - Math.sqrt(Math.max(0, round * round - left * left)) : 0;
	};
	const more = STEPS.map((share) => (leaves + share * round) / length);
	const isApart = (t: number) => more.every((other) => Math.abs(other - t) > 1e-6);
	return [...own.filter(isApart), ...more]
		.sort((a, c) => a - c)
		.map((t) => ({ t, wider: wider(t * length) }));
}
