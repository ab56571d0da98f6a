export * from './elementary.ts';
export * from './mix.ts';
export * from './hash.ts';
export * from './vector3.ts';
export * as quaternion from './quaternion.ts';
export * from './errors.ts';
export * from './wrong-shape.ts';
