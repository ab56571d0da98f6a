/** The public face of the core. Everything outside imports from here or from a folder's index. */
export * from './math/index.ts';
export * from './geometry/index.ts';
export * as varying from './varying/index.ts';
export * from './nodes/index.ts';
export * from './engine/index.ts';
export * from './formats/index.ts';
export { canSplit, joinAt, piecesOf, samplePath, splitAt, withoutPoint } from './kernels/path.ts';
