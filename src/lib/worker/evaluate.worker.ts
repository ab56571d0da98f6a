/** The evaluation worker: holds a copy of the document, evaluates what is looked at, and answers with packets. */
import type { Asset, Geometry, GeneratorDocument, NodeResult, Wire } from '$core/index';
import {
	Evaluator,
	NodeError,
	Stopped,
	attributeNames,
	boundsOf,
	bytesOf,
	digestOf,
	isGeometry,
	isVarying,
	mergeGeometries,
	writeGlb,
	writeObj
} from '$core/index';
import type { Answer, NodeReport, Request } from './messages';
import { Heat } from './heat';
import { attributesInWords, geometryInWords, valueInWords, valuesInWords } from './in-words';
import { readersOf } from './where-read';
import { Packer } from './packets';
import { patched } from './patches';

const shared = typeof SharedArrayBuffer !== 'undefined' && self.crossOriginIsolated;
const assets = new Map<string, Asset>();
const packer = new Packer(shared);
let stop: Int32Array | null = null;
let current: GeneratorDocument | null = null;
let revision = 0;
let began = 0;
let lastProgress = 0;
let results: ReadonlyMap<string, NodeResult> = new Map();

/** Results up to this many bytes get a digest at every evaluation. */
const DIGESTED = 50e6;

const say = (answer: Answer): void => self.postMessage(answer);

const evaluator = new Evaluator({
	memory: 2e9,
	shared,
	seconds: 120,
	asset: (hash) => assets.get(hash) ?? null,
	poll() {
		// The page writes the revision that is to stop.
		if (stop && Atomics.load(stop, 0) >= revision) throw new Stopped();
	},
	progress(node, share) {
		const now = performance.now();
		if (now - lastProgress < 100) return;
		lastProgress = now;
		say({ kind: 'progress', revision, node, share });
	}
});

function report({
	id,
	state,
	counts,
	bounds,
	milliseconds,
	warnings,
	error,
	outputs
}: NodeResult): NodeReport {
	const first = counts ? undefined : outputs.values().next().value;
	const value = first && !isGeometry(first) ? valueInWords(first).short : null;
	return { id, state, counts, bounds, value, milliseconds, warnings, error };
}

function geometryOfNode(id: string): Geometry | null {
	const outputs = results.get(id)?.outputs;
	return outputs ? ([...outputs.values()].find(isGeometry) ?? null) : null;
}

function evaluate(request: Extract<Request, { kind: 'evaluate' }>): void {
	revision = request.revision;
	current = patched(current, request.patch);
	began = performance.now();
	try {
		const targets = [...request.shown, ...request.ghosts, ...(request.heat ? [request.heat[0]] : [])];
		const first = evaluator.evaluate(current, targets);
		results = new Map([...results, ...first.results]);
		const drawn = [
			...request.shown.map((node) => ({ node, ghost: false })),
			...request.ghosts.map((node) => ({ node, ghost: true }))
		].flatMap(({ node, ghost }) => {
			const geometry = first.results.get(node) && geometryOfNode(node);
			return geometry ? [{ node, geometry, ghost }] : [];
		});
		// A failed node leaves the last good picture standing: nothing is sent for it, and the page is told.
		const hot = request.heat && results.get(request.heat[0])?.outputs.get(request.heat[1]);
		const packet = packer.pack(drawn, request.wireframe, hot && isVarying(hot) ? new Heat(hot) : null);
		const main = drawn.filter((one) => !one.ghost).map((one) => one.geometry);
		say({
			kind: 'picture',
			revision,
			reports: [...first.results.values()].map(report),
			packet,
			bounds: main.length ? boundsOf(main.length === 1 ? main[0] : mergeGeometries(main)) : null,
			ran: first.ran.length,
			seconds: (performance.now() - began) / 1000
		});
		const rest = evaluator.evaluate(
			current,
			current.graphs.main.nodes.map((node) => node.id)
		);
		results = rest.results;
		const whole = main.length === 1 ? main[0] : null;
		say({
			kind: 'reports',
			hash: whole && bytesOf(whole) < DIGESTED ? digestOf(whole) : null,
			revision,
			reports: [...rest.results.values()].map(report),
			ran: [...first.ran, ...rest.ran]
		});
	} catch (error) {
		if (error instanceof Stopped) say({ kind: 'stopped', revision });
		else say({ kind: 'failed', revision, message: (error as Error).message });
	}
}

function exportNode(request: Extract<Request, { kind: 'export' }>): void {
	const geometry = geometryOfNode(request.node);
	if (!geometry)
		throw new NodeError('There is nothing to export: the result has an error or is not wired up.');
	if (request.format === 'glb') {
		const bytes = writeGlb(geometry, {
			flatten: request.flatten,
			attributes: request.attributes,
			name: request.name
		});
		say({ kind: 'exported', ask: request.ask, files: [{ name: '.glb', bytes }] });
		return;
	}
	const { obj, mtl } = writeObj(geometry, `${request.name}.mtl`);
	const encode = (text: string) => new TextEncoder().encode(text);
	say({
		kind: 'exported',
		ask: request.ask,
		files: [
			{ name: '.obj', bytes: encode(obj) },
			{ name: '.mtl', bytes: encode(mtl) }
		]
	});
}

/** What flows on a wire, in a few words. */
function peek({ from, to }: Wire): string {
	const result = results.get(from[0]);
	const value = result?.outputs.get(from[1]);
	if (!result || !value) return 'Nothing yet.';
	if (isGeometry(value)) return geometryInWords(result) + attributesInWords(value);
	if (!isVarying(value) || value.constant) return valueInWords(value).long;
	const readers = current && readersOf(current.graphs.main, results, to);
	return readers ? valuesInWords(value, readers) : valueInWords(value).long;
}

self.onmessage = ({ data: request }: MessageEvent<Request>): void => {
	try {
		switch (request.kind) {
			case 'start':
				stop = request.stop;
				break;
			case 'asset':
				assets.set(request.asset.hash, request.asset);
				break;
			case 'evaluate':
				evaluate(request);
				break;
			case 'export':
				exportNode(request);
				break;
			case 'attributes': {
				const geometry = geometryOfNode(request.node);
				const found = geometry
					? [...attributeNames(geometry)].map(([name, { kind, column }]) => ({
							name,
							kind,
							type: column.type
						}))
					: [];
				say({ kind: 'attributes', ask: request.ask, attributes: found });
				break;
			}
			case 'peek':
				say({ kind: 'peeked', ask: request.ask, text: peek(request.wire) });
		}
	} catch (error) {
		if ('ask' in request) say({ kind: 'refused', ask: request.ask, message: (error as Error).message });
		else throw error;
	}
};
