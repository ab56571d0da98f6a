/** A mass on a spring with a damper: its exact way to a target that stands still for one step. */

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
	const fade = Math.exp(-half * h);
	// Where it swings, where it creeps, and between the two.
	const root = Math.sqrt(Math.abs(square));
	const near = root * h < 1e-8;
	const even = near ? 1 : square > 0 ? Math.cos(root * h) : Math.cosh(root * h);
	const odd = near ? h : square > 0 ? Math.sin(root * h) / root : Math.sinh(root * h) / root;
	// A strong damper: e^(−ch/2m) is nothing and cosh is beyond all; together they are a slow creep.
	if (!near && square < 0 && root * h > 300) {
		const slow = Math.exp((root - half) * h) / 2;
		return {
			yy: slow * (1 + half / root),
			yv: slow / root,
			vy: (-slow * (k / m)) / root,
			vv: slow * (1 - half / root)
		};
	}
	return {
		yy: fade * (even + half * odd),
		yv: fade * odd,
		vy: -fade * odd * (k / m),
		vv: fade * (even - half * odd)
	};
}
