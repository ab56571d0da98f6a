/** The command line: export, nodes, check. It shares the core with the application. */
import { readFileSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { Geometry, GeneratorDocument, InputDefinition, Setting } from '../core/index.ts';
import {
	Evaluator,
	NodeError,
	digestOf,
	expand,
	inputOf,
	mapFormulas,
	isList,
	isVarying,
	nodeKinds,
	openDocument,
	plural,
	resultNode,
	unpackGenerator,
	varying,
	writeGlb,
	writeObj
} from '../core/index.ts';

const USAGE = `embrell export FILE --out OUT.glb|OUT.obj [--seed N] [--set NODE.SETTING=VALUE]… [--flatten] [--attribute NAME]… [--json]
embrell nodes [--json]
embrell check FILE [--json]
`;

/** Wrong use of the command: exit code 2. */
class Usage extends Error {}

interface Options {
	words: string[];
	out?: string;
	seed?: number;
	sets: [string, string][];
	attributes: string[];
	flatten: boolean;
	json: boolean;
}

function read(args: readonly string[]): Options {
	const options: Options = { words: [], sets: [], attributes: [], flatten: false, json: false };
	const next = (i: number, flag: string): string => {
		if (args[i + 1] === undefined) throw new Usage(`${flag} needs a value.`);
		return args[i + 1];
	};
	for (let i = 0; i < args.length; i++)
		switch (args[i]) {
			case '--out':
				options.out = next(i++, '--out');
				break;
			case '--seed': {
				const seed = Number(next(i++, '--seed'));
				if (!Number.isInteger(seed) || seed < 0 || seed > 4294967295)
					throw new Usage('--seed takes a whole number from 0 to 4294967295.');
				options.seed = seed;
				break;
			}
			case '--set': {
				const [name, ...value] = next(i++, '--set').split('=');
				if (!value.length || !name.includes('.'))
					throw new Usage('--set takes NODE.SETTING=VALUE, such as sowPoints.count=200.');
				options.sets.push([name, value.join('=')]);
				break;
			}
			case '--attribute':
				options.attributes.push(next(i++, '--attribute'));
				break;
			case '--flatten':
				options.flatten = true;
				break;
			case '--json':
				options.json = true;
				break;
			default:
				if (args[i].startsWith('--')) throw new Usage(`There is no option ${args[i]}.`);
				options.words.push(args[i]);
		}
	return options;
}

function open(path: string | undefined) {
	if (!path) throw new Usage('Name a generator file.');
	let bytes: Uint8Array;
	try {
		bytes = readFileSync(path);
	} catch (error) {
		throw new Usage(
			`${path} could not be read (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'}).`
		);
	}
	const { text, assets, leftOut } = unpackGenerator(bytes, basename(path));
	const opened = openDocument(text);
	return { document: opened.document, leftOut: [...leftOut, ...opened.leftOut], assets };
}

/** Sets `short.setting` to a value written as text. */
function applySet(document: GeneratorDocument, name: string, written: string): void {
	const [short, setting] = [name.slice(0, name.lastIndexOf('.')), name.slice(name.lastIndexOf('.') + 1)];
	const node = document.graphs.main.nodes.find((one) => one.short === short);
	if (!node) {
		const near = varying.nearestName(
			short,
			document.graphs.main.nodes.map((one) => one.short)
		);
		throw new Usage(`There is no node “${short}”.${near ? ` Did you mean “${near}”?` : ''}`);
	}
	const input = inputOf(node, setting);
	if (!input) {
		const near = varying.nearestName(setting, Object.keys(nodeKinds.get(node.kind)?.inputs ?? {}));
		throw new Usage(`“${short}” has no setting “${setting}”.${near ? ` Did you mean “${near}”?` : ''}`);
	}
	const value = valueOf(written, input, name);
	if (document.graphs.main.wires.some((wire) => wire.to[0] === node.id && wire.to[1] === setting))
		throw new Usage(`“${name}” is wired, so it cannot be set here.`);
	const own = node.inputs?.find((one) => one.name === setting);
	if (own && typeof value === 'number') own.value = value;
	else node.settings[setting] = value;
}

function valueOf(written: string, input: InputDefinition, name: string): Setting {
	const number = (text: string): number => {
		try {
			return varying.constantNumber(varying.parseQuantity(text));
		} catch {
			throw new Usage(`--set ${name}: “${text}” is no number.`);
		}
	};
	switch (input.kind) {
		case 'number':
		case 'value':
			return number(written);
		case 'yesno':
			if (!/^(yes|no|true|false)$/i.test(written)) throw new Usage(`--set ${name} takes yes or no.`);
			return /^(yes|true)$/i.test(written);
		case 'vector':
		case 'colour': {
			const parts = written.split(',').map(number);
			if (parts.length === 1) return [parts[0], parts[0], parts[0]];
			if (parts.length !== 3) throw new Usage(`--set ${name} takes three numbers, such as 1,2,3.`);
			return parts as [number, number, number];
		}
		case 'choice':
			if (!input.options.some((option) => option.id === written))
				throw new Usage(
					`--set ${name} takes one of: ${input.options.map((option) => option.id).join(', ')}.`
				);
			return written;
		case 'text':
		case 'formula':
			return written;
		default:
			throw new Usage(`“${name}” cannot be set from the command line.`);
	}
}

function runExport(options: Options): number {
	if (!options.out) throw new Usage('Say where to write: --out OUT.glb.');
	if (!/\.(glb|obj)$/i.test(options.out)) throw new Usage('--out takes a name that ends in .glb or .obj.');
	const { document, leftOut, assets } = open(options.words[1]);
	for (const [name, value] of options.sets) applySet(document, name, value);
	const target = resultNode(document);
	if (!target) throw new NodeError('The generator is empty: add a node and wire it to Result.');
	const evaluator = new Evaluator({
		memory: 8e9,
		seconds: 600,
		asset: (hash) => {
			const bytes = assets.get(hash);
			return bytes ? { hash, bytes, name: document.assets[hash]?.name ?? hash } : null;
		}
	});
	const { results } = evaluator.evaluate(document, [target.id], options.seed);
	const made = results.get(target.id)!;
	const geometry =
		made.outputs.get('geometry') ??
		[...made.outputs.values()].find((value) => !isVarying(value) && !isList(value));
	const nodes = [...results.values()].map((result) => {
		const node = document.graphs.main.nodes.find((one) => one.id === result.id)!;
		return {
			node: node.short,
			kind: node.kind,
			state: result.state,
			counts: result.counts,
			bounds: result.bounds,
			milliseconds: Math.round(result.milliseconds * 1000) / 1000,
			warnings: result.warnings.map((warning) => warning.message),
			error: result.error?.message ?? null
		};
	});
	const errors = nodes.filter((node) => node.error);
	const failed = made.state === 'error' || made.state === 'waiting' || !geometry;
	const hash = geometry ? digestOf(geometry as Geometry) : null;
	if (!failed) write(options, geometry as Geometry, document.name);
	if (options.json)
		console.log(
			JSON.stringify(
				{
					name: document.name,
					seed: options.seed ?? document.seed,
					out: failed ? null : options.out,
					hash,
					nodes,
					leftOut
				},
				null,
				'\t'
			)
		);
	else {
		for (const line of leftOut) console.error(`left out: ${line}`);
		for (const node of nodes) for (const warning of node.warnings) console.error(`${node.node}: ${warning}`);
		for (const node of errors) console.error(`${node.node}: ${node.error}`);
		if (!failed)
			console.log(
				`${options.out} written (${expand(geometry as Geometry).reduce((sum, one) => sum + one.count, 0)} objects, hash ${hash}).`
			);
	}
	return failed || errors.some((node) => node.state === 'error') ? 1 : 0;
}

function write(options: Options, geometry: Geometry, name: string): void {
	const out = options.out!;
	try {
		if (/\.obj$/i.test(out)) {
			const mtlName = basename(out).replace(/\.obj$/i, '.mtl');
			const { obj, mtl } = writeObj(geometry, mtlName);
			writeFileSync(out, obj);
			writeFileSync(out.replace(/\.obj$/i, '.mtl'), mtl);
		} else
			writeFileSync(
				out,
				writeGlb(geometry, {
					name,
					flatten: options.flatten,
					attributes: options.attributes.map((one) => ({ name: one, as: one }))
				})
			);
	} catch (error) {
		if (error instanceof NodeError) throw error;
		throw new Usage(
			`${out} could not be written (${(error as NodeJS.ErrnoException).code ?? (error as Error).message}).`
		);
	}
}

function runNodes(options: Options): number {
	const kinds = [...nodeKinds.values()];
	if (options.json)
		console.log(
			JSON.stringify(
				kinds.map(({ id, name, family, version, help, words, inputs, outputs }) => ({
					id,
					name,
					family,
					version,
					help,
					words,
					inputs,
					outputs
				})),
				(_key, value) => (typeof value === 'function' ? undefined : value),
				'\t'
			)
		);
	else
		for (const kind of kinds) console.log(`${kind.name.padEnd(22)} ${kind.family.padEnd(12)} ${kind.help}`);
	return 0;
}

function runCheck(options: Options): number {
	const { document, leftOut } = open(options.words[1]);
	const problems = [...leftOut];
	for (const node of document.graphs.main.nodes)
		mapFormulas(node, (text) => {
			try {
				varying.parseFormula(text);
			} catch (error) {
				problems.push(`${node.short}: ${(error as Error).message}`);
			}
			return text;
		});
	if (options.json)
		console.log(
			JSON.stringify({ name: document.name, nodes: document.graphs.main.nodes.length, problems }, null, '\t')
		);
	else {
		for (const problem of problems) console.error(problem);
		console.log(
			`${document.name}: ${plural(document.graphs.main.nodes.length, 'node')}, ${problems.length ? plural(problems.length, 'problem') : 'sound'}.`
		);
	}
	return problems.length ? 1 : 0;
}

/** Runs the command; gives the exit code: 0, 1 for an error in the generator, 2 for wrong use. */
export function main(args: readonly string[]): number {
	try {
		const options = read(args);
		switch (options.words[0]) {
			case 'export':
				return runExport(options);
			case 'nodes':
				return runNodes(options);
			case 'check':
				return runCheck(options);
			default:
				throw new Usage(options.words[0] ? `There is no command “${options.words[0]}”.` : 'Say what to do.');
		}
	} catch (error) {
		if (error instanceof Usage) {
			console.error(`${error.message}\n\n${USAGE}`);
			return 2;
		}
		console.error(error instanceof NodeError ? error.message : `A fault of ours: ${(error as Error).stack}`);
		return 1;
	}
}
