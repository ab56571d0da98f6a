/** All kinds of node, by family. */
import type { AnyNode } from './define.ts';
import { attributes } from './attributes/index.ts';
import { copies } from './copies/index.ts';
import { curves } from './curves/index.ts';
import { deform } from './deform/index.ts';
import { growth } from './growth/index.ts';
import { inAndOut } from './in-and-out/index.ts';
import { meshes } from './meshes/index.ts';
import { motion } from './motion/index.ts';
import { points } from './points/index.ts';
import { repeat } from './repeat/index.ts';
import { values } from './values/index.ts';
import { weights } from './weights/index.ts';

/** The families in the order of the handbook. */
const FAMILIES: readonly (readonly AnyNode[])[] = [
	values,
	weights,
	curves,
	meshes,
	points,
	copies,
	deform,
	attributes,
	growth,
	motion,
	repeat,
	inAndOut
];

/** Kinds of node by id. */
export const nodeKinds: ReadonlyMap<string, AnyNode> = new Map(
	FAMILIES.flat().map((kind): [string, AnyNode] => [kind.id, kind])
);

/** The kinds that are offered, in the order of the handbook. */
export const offeredKinds: readonly AnyNode[] = [...nodeKinds.values()];

export * from './define.ts';
export * from './list.ts';
export { MOST_ROWS, nameInRow, rowsIn } from './rows.ts';
export { placedCopies, placingInputs } from './copies/placing.ts';
export { MOST_SHAPES } from './copies/vary-each-copy.ts';
