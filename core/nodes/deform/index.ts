/** The kinds of node of the family, in the order of the handbook. */
import type { AnyNode } from '../define.ts';
import { transform } from './transform.ts';
import { displace } from './displace.ts';
import { displaceByNoise } from './displace-by-noise.ts';
import { bend } from './bend.ts';
import { twist } from './twist.ts';
import { taper } from './taper.ts';
import { layAlongCurve } from './lay-along-curve.ts';
import { bendLattice } from './bend-lattice.ts';
import { relax } from './relax.ts';
import { morph } from './morph.ts';

export const deform: readonly AnyNode[] = [
	transform,
	displace,
	displaceByNoise,
	bend,
	twist,
	taper,
	layAlongCurve,
	bendLattice,
	relax,
	morph
];
