/** The command line: export, nodes, check. It shares the core with the application. */
import { readFileSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { GeneratorDocument, InputDefinition, Setting } from '../core/index.ts';
import {
	NodeError,
	inputKind,
	inputOf,
	inputsOf,
	mapFormulas,
	offeredKinds,
	plural,
	varying
} from '../core/index.ts';
import type { OpenedFile, Override } from '../core/session/index.ts';
import { exportDetails, openFile, runJob } from '../core/session/index.ts';
import type { ExportOptions } from '../core/session/export.ts';

const USAGE = `embrell export FILE --out OUT.glb|OUT.obj [--seed N] [--set NODE.SETTING=VALUE]… [--flatten] [--attribute NAME]… [--details] [--json]
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
	/** All levels of detail, each as files of its own. */
	details: boolean;
	json: boolean;
}

function read(args: readonly string[]): Options {
	const options: Options = {
		words: [],
		sets: [],
		attributes: [],
		flatten: false,
		details: false,
		json: false
	};
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
			case '--details':
				options.details = true;
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

function open(path: string | undefined): OpenedFile {
	if (!path) throw new Usage('Name a generator file.');
	let bytes: Uint8Array;
	try {
		bytes = readFileSync(path);
	} catch (error) {
		throw new Usage(
			`${path} could not be read (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'}).`
		);
	}
	return openFile(bytes, basename(path));
}

/** The override that `short.setting` and a value written as text mean. */
function overrideOf({ graphs: { main } }: GeneratorDocument, name: string, written: string): Override {
	const [short, setting] = [name.slice(0, name.lastIndexOf('.')), name.slice(name.lastIndexOf('.') + 1)];
	const node = main.nodes.find((one) => one.short === short);
	if (!node) {
		const near = varying.nearestName(
			short,
			main.nodes.map((one) => one.short)
		);
		throw new Usage(`There is no node “${short}”.${near ? ` Did you mean “${near}”?` : ''}`);
	}
	const input = inputOf(node, setting);
	if (!input) {
		const near = varying.nearestName(
			setting,
			inputsOf(node).map(([own]) => own)
		);
		throw new Usage(`“${short}” has no setting “${setting}”.${near ? ` Did you mean “${near}”?` : ''}`);
	}
	if (main.wires.some((wire) => wire.to[0] === node.id && wire.to[1] === setting))
		throw new Usage(`“${name}” is wired, so it cannot be set here.`);
	return { node: node.id, setting, value: valueOf(written, input, name) };
}

function valueOf(written: string, input: InputDefinition, name: string): Setting {
	const kind = inputKind(input);
	if (!kind.read) throw new Usage(`“${name}” cannot be set from the command line.`);
	try {
		return kind.read(input, written);
	} catch (error) {
		throw error instanceof NodeError ? new Usage(`--set ${name} ${error.message}`) : error;
	}
}

function runExport(options: Options): number {
	const { out } = options;
	if (!out) throw new Usage('Say where to write: --out OUT.glb.');
	if (!/\.(glb|obj)$/i.test(out)) throw new Usage('--out takes a name that ends in .glb or .obj.');
	const file = open(options.words[1]);
	const { document, leftOut } = file;
	const overrides = options.sets.map(([name, value]) => overrideOf(document, name, value));
	const asked = { seed: options.seed, overrides };
	const { nodes, hash, objects, write } = runJob(file, asked);
	const wanted = exportOptions(options, out, document.name);
	if (write) save(out, options.details ? exportDetails(file, asked, wanted) : write(wanted));
	if (options.json) {
		const seed = options.seed ?? document.seed;
		console.log(
			JSON.stringify({ name: document.name, seed, out: write ? out : null, hash, nodes, leftOut }, null, '\t')
		);
	} else {
		for (const line of leftOut) console.error(`left out: ${line}`);
		for (const { node, warnings } of nodes)
			for (const warning of warnings) console.error(`${node}: ${warning}`);
		for (const { node, error } of nodes) if (error) console.error(`${node}: ${error}`);
		if (write)
			console.log(
				`${out} written${options.details ? ' at three levels of detail' : ''} (${plural(objects, 'object')}, hash ${hash}).`
			);
		else if (!nodes.some(({ error }) => error))
			console.error('The result is no geometry, so nothing was written.');
	}
	return !write || nodes.some(({ state }) => state === 'error') ? 1 : 0;
}

const exportOptions = ({ flatten, attributes }: Options, out: string, name: string): ExportOptions => {
	const isObj = /\.obj$/i.test(out);
	return {
		format: isObj ? 'obj' : 'glb',
		flatten,
		attributes: attributes.map((one) => ({ name: one, as: one })),
		// An OBJ names the file of its materials, which lies beside it.
		name: isObj ? basename(out).replace(/\.obj$/i, '') : name
	};
};

function save(out: string, files: readonly { name: string; bytes: Uint8Array }[]): void {
	const stem = out.replace(/\.(glb|obj)$/i, '');
	for (const { name, bytes } of files) {
		const path = out.toLowerCase().endsWith(name) ? out : stem + name;
		try {
			writeFileSync(path, bytes);
		} catch (error) {
			throw new Usage(
				`${path} could not be written (${(error as NodeJS.ErrnoException).code ?? (error as Error).message}).`
			);
		}
	}
}

function runNodes(options: Options): number {
	const kinds = [...offeredKinds];
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
