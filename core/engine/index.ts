export {
	BACKGROUNDS,
	endsOf as endsOfRange,
	VERSION,
	isFormula,
	isPath,
	isKeys,
	isMaterial,
	isRamp,
	isRange,
	newDocument,
	newStream,
	withGraph,
	withoutItsKeys
} from './document.ts';
export type {
	Frames,
	Key,
	KeysSetting,
	Background,
	Dial,
	Kept,
	Preset,
	Slot,
	SlotContent,
	Tie,
	TieEnd,
	FormulaSetting,
	GeneratorDocument,
	Graph,
	GraphNode,
	Note,
	Port,
	RandomRange,
	PartSetting,
	ScalarSetting,
	Setting,
	Wire
} from './document.ts';
export * from './document-text.ts';
export * from './connect.ts';
export * from './evaluate.ts';
export type { NodeMessage, NodeResult } from './result.ts';
export { isGeometry, isList, isVarying } from './values.ts';
export type { Value } from './values.ts';
export { GraphIndex, formulasOf, referencesIn } from './graph-index.ts';
export { inputKind } from './inputs/index.ts';
export type { Field, Fit } from './inputs/index.ts';
export { settingOf } from './settings-graph.ts';
export * from './proposals.ts';
export * from './references.ts';
export { readersOfStream, withOwnStream } from './streams.ts';
export type { StreamReader } from './streams.ts';
export { withPorts } from './bodies.ts';
export * from './build.ts';
export * from './clip.ts';
export { withKind } from './change-kind.ts';
export * from './edits.ts';
export * from './chain.ts';
export * from './adding.ts';
export * from './brought.ts';
export { bodyNameOf, interfaceOf, portOf } from './bodies.ts';
export type { BodyInterface } from './bodies.ts';
export { makeBody, withStartingBody } from './make-body.ts';
export type { Made, Refused } from './make-body.ts';
export { dissolve } from './dissolve.ts';
export { withoutOrphans } from './orphans.ts';
export { labelOfPort, portName } from './port-names.ts';
export * from './body-edits.ts';
export * from './shelf.ts';
export * from './detail.ts';
export * from './keys.ts';
export { documentAt } from './at-frame.ts';
export * from './keyed-places.ts';
export { hangsFrom, hangsFromSame } from './hangs-from.ts';
export { withRestOfMarker } from './marker-rest.ts';
export * from './vector-parts.ts';
export * from './time.ts';
export { whatMoves } from './moving.ts';
export * from './dials.ts';
export { isDialShown, whyNoCondition } from './dial-conditions.ts';
export {
	disagreement,
	isSameEnd,
	nameOfEnd,
	proposedEquations,
	troubleOfTie,
	whyNoTie,
	whyNotInHand,
	withTie,
	withoutTie
} from './ties.ts';
export { inverseOf } from './equations.ts';
export { settled } from './settle.ts';
export * from './presets.ts';
export { readAssets } from './assets.ts';
export * from './placement.ts';
export * from './slots.ts';
export * from './whole-generator.ts';
export * from './saved-settings.ts';
export { mended } from './vary-copies.ts';
export { cameraSeen } from './camera-seen.ts';
export type { CameraSeen } from './camera-seen.ts';
