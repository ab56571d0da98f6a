/** What tests share. Importing it gives the test's own memory an owner. */
import { Ledger, setOwner } from '../geometry/index.ts';

setOwner(new Ledger({ limit: Infinity }));

export * from './graphs.ts';
export { bodyOf, geometryOf, valueOf, withBodies } from './bodies.ts';
