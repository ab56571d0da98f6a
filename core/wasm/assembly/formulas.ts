/** Everything that formulas run, as one module. */
export * from './loops';
export * from './noise';
