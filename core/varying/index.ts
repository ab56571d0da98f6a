export * from './varying.ts';
export * from './elements.ts';
export * from './formula.ts';
export { constantNumber, run, typeOn } from './run.ts';
export type { RunOptions } from './run.ts';
export type { Report } from './plan.ts';
export * from './noise.ts';
export * from './ramp.ts';
