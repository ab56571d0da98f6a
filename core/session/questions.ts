/** Questions about what was evaluated, and their answers. Each is asked by whoever looks at something; none changes anything. */
import { NodeError } from '../math/index.ts';
import type { Geometry } from '../geometry/index.ts';
import { attributeNames, floats, placedIn } from '../geometry/index.ts';
import type { GeneratorDocument, NodeResult, Wire } from '../engine/index.ts';
import { isGeometry, isVarying } from '../engine/index.ts';
import type { CameraShot } from '../formats/index.ts';
import type { ExportOptions } from './export.ts';
import { exportFiles } from './export.ts';
import { objectOf } from './job.ts';
import { lookAtFormula } from './formula-look.ts';
import { attributesInWords, geometryInWords, valueInWords, valuesInWords } from './in-words.ts';
import { marksOf } from './marks.ts';
import type { Answer, Request } from './messages.ts';
import type { Scope } from '../engine/scope.ts';
import type { TableReader } from './table-reader.ts';
import { answered } from './table-answers.ts';
import { tablesOfResult } from './tables.ts';
import { readersOf } from './where-read.ts';
import { whyIsIt } from './why.ts';

/** A graph that is looked at, by its id, and what came of its nodes. */
export interface Looked {
	graph: string;
	results: ReadonlyMap<string, NodeResult>;
	/** The frame that was looked at. */
	frame?: number;
	/** Of a body, how it is evaluated. */
	scope?: Scope | null;
}

/** What questions are answered from. */
export interface Askable {
	document: GeneratorDocument | null;
	edited: Looked;
	viewed: Looked;
	reader: TableReader;
	geometryOf: (id: string) => Geometry | null;
	/** The result at each level of detail, as files. */
	exportDetails: (wanted: ExportOptions) => { name: string; bytes: Uint8Array }[];
	/** What the generator's cameras see at the frame that is looked at. */
	cameras: () => readonly CameraShot[];
}

export type Question = Extract<Request, { ask: number }>;

/** The answer to a question. Throws a NodeError with a sentence where there is none. */
export function answerTo(question: Question, at: Askable): Answer {
	const { ask } = question;
	const { document, edited, viewed, geometryOf } = at;
	const { results } = edited;
	const graph = document?.graphs[edited.graph];
	const seen = document?.graphs[viewed.graph];
	if (!document || !graph || !seen) throw new NodeError('Nothing is open yet.');
	switch (question.kind) {
		case 'export': {
			const { options, details, weigh } = question;
			const geometry = geometryOf(question.node);
			if (!geometry)
				throw new NodeError('There is nothing to export: the result has an error or is not wired up.');
			const files = details
				? at.exportDetails(options)
				: exportFiles(geometry, {
						object: objectOf(document, question.node),
						cameras: at.cameras(),
						...options
					});
			const weight = files.reduce((sum, { bytes }) => sum + bytes.length, 0);
			return { kind: 'exported', ask, files: weigh ? [] : files, weight };
		}
		case 'attributes': {
			const geometry = firstGeometry(results.get(question.node));
			const attributes = [...(geometry ? attributeNames(geometry) : [])].map(([name, { kind, column }]) => ({
				name,
				kind,
				type: column.type
			}));
			return { kind: 'attributes', ask, attributes };
		}
		case 'peek':
			return { kind: 'peeked', ask, text: peek(question.wire, at) };
		case 'places':
			return { kind: 'places', ask, places: question.nodes.flatMap((id) => placesOf(geometryOf(id))) };
		case 'look':
			return { kind: 'looked', ask, look: lookAtFormula(question.about, document, edited) };
		case 'why':
			return { kind: 'because', ask, why: whyIsIt(question.about, seen, viewed.results) };
		case 'marks': {
			const { nodes, wanted, group } = question;
			const shown = nodes.map(geometryOf).filter((geometry) => geometry !== null);
			return { kind: 'marks', ask, marks: shown.map((geometry) => marksOf(geometry, wanted, group)) };
		}
		case 'table':
		case 'statistics':
		case 'row':
		case 'written': {
			const result = results.get(question.about.node);
			return answered(question, result ? tablesOfResult(result, graph, results) : [], at.reader);
		}
	}
}

const firstGeometry = (result: NodeResult | undefined): Geometry | null =>
	(result && [...result.outputs.values()].find(isGeometry)) ?? null;

/** Where the points and copies of a geometry are, part by part. */
const placesOf = (geometry: Geometry | null): Float32Array[] =>
	geometry ? placedIn(geometry).map(({ table }) => floats(table, 'position')) : [];

/** What flows on a wire, in a few words. */
function peek({ from, to }: Wire, { edited: { graph, results }, document }: Askable): string {
	const result = results.get(from[0]);
	const value = result?.outputs.get(from[1]);
	if (!result || !value) return 'Nothing yet.';
	if (isGeometry(value)) return geometryInWords(result) + attributesInWords(value);
	if (!isVarying(value) || value.constant) return valueInWords(value).long;
	const readers = document && readersOf(document.graphs[graph], results, to);
	return readers ? valuesInWords(value, readers) : valueInWords(value).long;
}
