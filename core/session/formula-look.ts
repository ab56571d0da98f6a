/** A formula tried out where it will stand: what it comes to on the elements there, or what is wrong and where. */
import type { GeneratorDocument, Graph, Setting } from '../engine/index.ts';
import * as varying from '../varying/index.ts';
import { inputOf, wholeOf, withGraph, withSettingOn } from '../engine/index.ts';
import { attributeNames, pollAt, scratch } from '../geometry/index.ts';
import { NodeError } from '../math/index.ts';
import { mainScope } from '../engine/scope.ts';
import { framesOf } from '../engine/time.ts';
import type { Looked } from './questions.ts';
import type { FormulaLook, LookAsk } from './messages.ts';
import { statisticsOf } from './series.ts';
import type { Readers } from './where-read.ts';
import { readersOf } from './where-read.ts';

/** More elements than these are not worked out while somebody types. */
const MOST_TRIED = 500_000;
/** Values that are told. */
const FIRST = 5;

/** Tries a setting that is a formula in place of the one that stands there. */
export function lookAtFormula(
	{ node: id, input: name, setting, text }: LookAsk,
	document: GeneratorDocument,
	{ graph: graphId, results, frame, scope: within = null }: Looked
): FormulaLook {
	const tried = withSettingTried(document, graphId, [id, name], setting);
	const graph = tried.graphs[graphId];
	const node = graph.nodes.find((one) => one.id === id);
	if (!node || !inputOf(node, name)) throw new NodeError('This node is gone.');
	const scope = within?.beside(tried, graph) ?? mainScope(tried, tried.seed, frame ?? framesOf(tried).first);
	for (const [key, result] of results) if (key !== id) scope.results.set(key, result);
	try {
		const value = scope.settings.value(node, name);
		const readers = readersOf(graph, results, [id, wholeOf(name)]);
		const count = readers?.elements.count ?? 1;
		if (count > MOST_TRIED)
			return {
				...NOTHING_TOLD,
				of: `${count.toLocaleString('en')} ${readers!.called}: too many to try at each key.`
			};
		if (readers)
			return { ...toldOf(value, readers.elements, readers.called), note: whichOfTwo(text, readers) };
		if (value.constant) return toldOf(value, varying.singleElement(), '');
		return { ...NOTHING_TOLD, of: 'It differs by element; nothing reads it on elements yet.' };
	} catch (error) {
		if (!(error instanceof NodeError)) throw error;
		return { ...NOTHING_TOLD, trouble: troubleIn(text, error) };
	}
}

const NOTHING_TOLD: FormulaLook = {
	trouble: null,
	of: '',
	count: 0,
	width: 1,
	first: [],
	ranges: [],
	broken: 0,
	bars: [],
	note: ''
};

/** Along a curve `u` and `length` are its own; what its points brought by that name is told of. */
function whichOfTwo(text: string, { geometry, part }: Readers): string {
	if (part !== 'curves') return '';
	const brought = attributeNames(geometry);
	const name = ['u', 'length'].find(
		(one) => brought.has(one) && new RegExp(`(?<![\\w.])${one}(?![\\w(])`).test(text)
	);
	if (!name) return '';
	const own = name === 'u' ? 'how far along its own curve each point lies' : 'the length of each curve';
	return `${name} is ${own}; what came with the points is attribute.${name}.`;
}

function withSettingTried(
	document: GeneratorDocument,
	graphId: string,
	[id, name]: readonly [string, string],
	setting: Setting
): GeneratorDocument {
	return withGraph(document, graphId, (graph: Graph) => ({
		...graph,
		// The wire that may still be there gives way to what is typed.
		wires: graph.wires.filter(({ to }) => to[0] !== id || to[1] !== name),
		nodes: graph.nodes.map((one) => (one.id === id ? withSettingOn(one, name, setting) : one))
	}));
}

function toldOf(value: varying.Varying, elements: varying.Elements, called: string): FormulaLook {
	const { count } = elements;
	const type = varying.typeOn(value, elements);
	const width = type === 'vector' ? 3 : 1;
	const out = scratch('double', count * width);
	let broken = 0;
	varying.run(value, elements, width, out, { broken: (some) => (broken = some) });
	const rows = scratch('index', count);
	for (let i = 0; i < count; i++) {
		pollAt(i);
		rows[i] = i;
	}
	const parts = Array.from({ length: width }, (_, offset) =>
		statisticsOf({ key: '', name: '', part: '', type: 'float', data: out, width, offset }, rows)
	);
	return {
		...NOTHING_TOLD,
		of: called ? `${count.toLocaleString('en')} ${called}` : '',
		count,
		width,
		isYesNo: type === 'yesno',
		first: [...out.subarray(0, FIRST * width)],
		ranges: count ? parts.map(({ least, greatest }) => [least, greatest]) : [],
		broken,
		bars: count > 1 ? parts[0].bars : []
	};
}

/** What is wrong with the formula, and where: at the place that its error tells, or else where the name stands. */
function troubleIn(text: string, error: NodeError): NonNullable<FormulaLook['trouble']> {
	const { cause } = error;
	if (cause instanceof varying.FormulaError) {
		const { message, from, to, mending, unknown } = cause;
		return { message, from, to, mending, unknown };
	}
	const rename = error.fixes.find((fix) => fix.rename)?.rename;
	const unknown = error.fixes.find((fix) => fix.declare)?.declare;
	const wanted = rename?.from ?? unknown;
	const place = wanted ? placeOf(text, wanted) : null;
	return {
		message: error.message,
		from: place?.from ?? 0,
		to: place?.to ?? text.length,
		mending: place && rename ? { label: `Write ${rename.to}`, text: rename.to } : undefined,
		rename,
		unknown
	};
}

function placeOf(text: string, name: string): { from: number; to: number } | null {
	try {
		const found = varying.namesIn(varying.parseFormula(text)).find((one) => one.name.split('.')[0] === name);
		return found ? { from: found.from, to: found.from + name.length } : null;
	} catch {
		return null;
	}
}
