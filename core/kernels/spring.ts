/** A mass on a spring with a damper: its exact way to a target that goes straight on for one step. */

import { cos, exp, sin } from '../math/index.ts';

export interface Spring {
	/** Newtons a metre. */
	stiffness: number;
	/** Newton-seconds a metre. */
	damping: number;
	/** Kilograms. */
	mass: number;
}

/**
 * What a step does: of the way to the target, y, and the speed, v, the new ones are `yy y + yv v` and `vy y + vv v`. It is
 * the solution of m y″ + c y′ + k y = 0 (any textbook of mechanics), and so never grows, however long the step.
 */
export function springStep({ stiffness: k, damping: c, mass: m }: Spring, h: number) {
	const half = c / (2 * m);
	const square = k / m - half * half;
	const root = Math.sqrt(Math.abs(square));
	if (square < 0 && root * h > 1e-8) {
		// It creeps: two rates, the slow one written so that nothing cancels.
		const [slow, fast] = [-k / m / (root + half), -(root + half)];
		const [a, b] = [exp(slow * h) / (2 * root), exp(fast * h) / (2 * root)];
		return {
			yy: b * slow - a * fast,
			yv: a - b,
			vy: (-k / m) * (a - b),
			vv: a * slow - b * fast
		};
	}
	// It swings, or lies between the two.
	const fade = exp(-half * h);
	const [even, odd] = root * h > 1e-8 ? [cos(root * h), sin(root * h) / root] : [1, h];
	return {
		yy: fade * (even + half * odd),
		yv: fade * odd,
		vy: -fade * odd * (k / m),
		vv: fade * (even - half * odd)
	};
}

/** Of a step this small a share of a swing, the area under its curve is told by three of its points. */
const SMALL = 1e-4;

/**
 * How far a mass stays behind a target that goes at one metre a second through a step, beyond what it would have been behind
 * one that stood at its end: the integral of `yy` over the step. With y the way to the target, now a moving one,
 * m y″ + c y′ + k y = −c, and the solution that begins at rest with y = 0 is −∫yy.
 */
export function springLag(spring: Spring, h: number): number {
	const { stiffness: k, damping: c, mass: m } = spring;
	const { yy, yv } = springStep(spring, h);
	if ((k / m) * h * h > SMALL) return yv + (c / k) * (1 - yy);
	return (h / 6) * (1 + 4 * springStep(spring, h / 2).yy + yy);
}
