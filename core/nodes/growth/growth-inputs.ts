/** Settings that nodes share which grow things: what draws them, how they wobble, where they must not go. */
import { NodeError, formatCount, quaternion } from '../../math/index.ts';
import type { Geometry, Table } from '../../geometry/index.ts';
import { makePoints } from '../../geometry/index.ts';
import { asPoints } from '../../kernels/as-points.ts';
import type { Bending } from '../../kernels/branch-way.ts';
import { treeOfMesh } from '../../kernels/nearest.ts';
import type { BoxTree } from '../../kernels/box-tree.ts';
import type { Ramp } from '../../varying/index.ts';
import { rampOf, readRamp, tableOfRamp } from '../../varying/index.ts';
import { choice, geometry, number, ramp, vector, yesNo } from '../define.ts';

type Settings = Record<string, unknown>;
const isDrawn = ({ towards }: Settings): boolean => towards !== 'none';

export const bendInputs = {
	towards: choice({
		label: 'Towards',
		help: 'What draws them while they grow.',
		default: 'up',
		options: [
			{ id: 'none', label: 'Nothing' },
			{ id: 'up', label: 'Up' },
			{ id: 'down', label: 'Down' },
			{ id: 'direction', label: 'A direction, as of the light' },
			{ id: 'place', label: 'A place' }
		],
		group: 'Bend'
	}),
	direction: vector({
		label: 'Direction',
		help: 'Where it lies that draws them.',
		default: [0.5, 1, 0.3],
		when: ({ towards }) => towards === 'direction'
	}),
	target: vector({
		label: 'Position',
		help: 'The place that draws them.',
		default: [0, 5, 0],
		unit: 'm',
		when: ({ towards }) => towards === 'place'
	}),
	pull: number({
		label: 'Pull',
		help: 'How strongly: 1 leaves a third of the angle at the end. Negative turns away.',
		default: 0.5,
		slider: [-3, 3],
		step: 0.1,
		varies: 'curve',
		when: isDrawn
	}),
	pullRamp: ramp({
		label: 'Ramp along',
		help: 'How much of the pull there is along each of them.',
		default: rampOf('linear', [0, 1], [1, 1]),
		when: isDrawn
	})
} as const;

export const wobbleInputs = {
	wobble: number({
		label: 'Wobble',
		help: 'How far they turn to the sides.',
		default: 0,
		min: 0,
		max: 180,
		slider: [0, 90],
		unit: '°',
		varies: 'curve',
		group: 'Wobble'
	}),
	wave: number({
		label: 'Wavelength',
		help: 'From one turn to the next.',
		default: 0.5,
		min: 0.001,
		slider: [0.05, 3],
		unit: 'm'
	})
} as const;

export const clearInputs = {
	aboveGround: yesNo({
		label: 'Above the ground',
		help: 'What would grow into the ground runs along it.',
		default: false,
		group: 'Keep clear'
	}),
	ground: number({
		label: 'Ground',
		help: 'How high it lies.',
		default: 0,
		unit: 'm',
		when: ({ aboveGround }) => aboveGround === true
	}),
	obstacle: geometry({
		label: 'Obstacle',
		help: 'A mesh that they do not touch: what would come nearer than its radius ends there.',
		needs: 'mesh',
		optional: true
	})
} as const;

/** What draws, from the settings. */
export function bendingOf(
	towards: string,
	direction: readonly number[],
	target: readonly number[],
	along: Ramp
): Pick<Bending, 'towards' | 'isPlace' | 'share'> {
	const goals: Record<string, readonly number[] | null> = {
		none: null,
		up: [0, 1, 0],
		down: [0, -1, 0],
		direction,
		place: target
	};
	return { towards: goals[towards] ?? null, isPlace: towards === 'place', share: readerOf(along) };
}

/** A ramp as a function, read from a table. */
export function readerOf(of: Ramp): (x: number) => number {
	if (!of.stops.length) return () => 1;
	const table = tableOfRamp(of, 1);
	const x = new Float64Array(1),
		out = new Float64Array(1);
	return (at) => {
		x[0] = at;
		readRamp(table, 1, 1, x, [out]);
		return out[0];
	};
}

/** What must not be touched. */
export const obstacleOf = (obstacle: Geometry | null): BoxTree | null =>
	obstacle?.mesh?.faces.count ? treeOfMesh(obstacle.mesh) : null;

/** Points from which things grow: those of a geometry, or one at the origin that looks up. */
export function rootsOf(from: Geometry | null): Table {
	return from ? asPoints(from).points!.points : makePoints(Float32Array.of(0, 0, 0)).points;
}

export const inRadians = (degrees: number): number => quaternion.radians(degrees);

/** Throws where more elements than fit would grow. */
export function checkFits(count: number, most: number, of: string, input: string, lower: string): void {
	if (count <= most) return;
	throw new NodeError(`There would be ${formatCount(count)} ${of}; ${formatCount(most)} fit. ${lower}`, {
		input
	});
}
