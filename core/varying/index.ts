export * from './varying.ts';
export * from './elements.ts';
export * from './formula.ts';
export { constantNumber, run, typeOn } from './plan.ts';
export type { Report, RunOptions } from './plan.ts';
export * from './noise.ts';
export * from './ramp.ts';
