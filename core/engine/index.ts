export {
	BACKGROUNDS,
	FORMAT,
	VERSION,
	endsOf,
	isFormula,
	isPath,
	isRamp,
	isRange,
	newDocument,
	newStream
} from './document.ts';
export type {
	Background,
	FormulaSetting,
	GeneratorDocument,
	Graph,
	GraphNode,
	Note,
	RandomRange,
	ScalarSetting,
	Setting,
	Wire
} from './document.ts';
export * from './document-text.ts';
export * from './connect.ts';
export * from './evaluate.ts';
export type { NodeMessage, NodeResult, Value } from './result.ts';
export {
	GraphIndex,
	formulasOf,
	isGeometry,
	isList,
	isVarying,
	referencesIn,
	settingOf,
	treeOf
} from './bind.ts';
export * from './build.ts';
export * from './clip.ts';
export { withKind } from './change-kind.ts';
export * from './edits.ts';
export * from './chain.ts';
