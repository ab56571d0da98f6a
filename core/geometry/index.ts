export * from './allocate.ts';
export { Ledger, OutOfMemory } from './ledger.ts';
export type { LedgerOptions } from './ledger.ts';
export { setOwner } from './owner.ts';
export type { Owner } from './owner.ts';
export { derive, identityOf, together } from './kept.ts';
export { holdGeometry, sizeOf } from './hold.ts';
export { PART_NAMES, partKind, partsOf, placedIn, withPoints } from './parts/index.ts';
export type { PartName } from './parts/index.ts';
export { stackTables } from './stack.ts';
export { Growing } from './growing.ts';
export * from './table.ts';
export * from './geometry.ts';
export * from './derive.ts';
export { trianglesOfOutline } from './outline-triangles.ts';
export * from './convert.ts';
export * from './expand.ts';
export { affineAt } from './matrix.ts';
export type { NamedRows } from './tile.ts';
export * from './merge.ts';
export * from './transform.ts';
export { blendMany, blendTwo, blends } from './blend.ts';
export { idOfRow, idsOfRows, writeDerived } from './ids.ts';
export { keepRows } from './keep-rows.ts';
export { isPlaced, placeInto } from './place.ts';
export * from './measure.ts';
export {
	PLACE_COLUMNS,
	Places,
	PlacesChanged,
	PlacesMade,
	placeColumns,
	shears,
	withWritten
} from './places.ts';
export { splitLinear } from './singular.ts';
export * as matrix from './matrix.ts';
export type { Affine } from './matrix.ts';
export * from './asset.ts';
