/** The command line: export, nodes, check. It shares the core with the application. */
import { readFileSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import type { GeneratorDocument, InputDefinition, Setting } from '../core/index.ts';
import {
	Ledger,
	NodeError,
	inputKind,
	inputOf,
	inputsOf,
	mapFormulas,
	offeredKinds,
	plural,
	varying
} from '../core/index.ts';
import type { Evaluator } from '../core/index.ts';
import type { Choices, OpenedFile, Override } from '../core/session/index.ts';
import {
	allFrames,
	chosen,
	evaluatorFor,
	exportAnimation,
	exportDetails,
	numbered,
	openFile,
	runJob
} from '../core/session/index.ts';
import type { ExportOptions } from '../core/session/export.ts';

const USAGE = `embrell export FILE --out OUT.glb|OUT.obj|OUT.ply|OUT.usda [--preset NAME] [--kept NAME] [--set DIAL=VALUE]… [--set NODE.SETTING=VALUE]… [--slot NAME=FILE]… [--seed N|A..B] [--frames N|A..B] [--animation] [--flatten] [--attribute NAME]… [--details] [--json]
embrell nodes [--json]
embrell check FILE [--json]
`;

/** Wrong use of the command: exit code 2. */
class Usage extends Error {}

/** Whoever started the command may watch it, and end it where it does not get on. */
interface Watch {
	/** It gets on. */
	poll: () => void;
	/** What it does now, as a sentence begins; null for what may take as long as it likes. */
	begins: (work: string | null) => void;
}
let watch: Watch = { poll: () => {}, begins: () => {} };

interface Options {
	words: string[];
	out?: string;
	seeds: number[];
	/** The frames to be written; none for the first, without a number in its name. */
	frames: number[];
	preset?: string;
	kept?: string;
	slots: [string, string][];
	sets: [string, string][];
	attributes: string[];
	flatten: boolean;
	/** All frames in one file that moves. */
	animation: boolean;
	/** All levels of detail, each as files of its own. */
	details: boolean;
	json: boolean;
}

function read(args: readonly string[]): Options {
	const options: Options = {
		words: [],
		seeds: [],
		frames: [],
		slots: [],
		sets: [],
		attributes: [],
		flatten: false,
		animation: false,
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
			case '--seed':
				options.seeds = seedsFrom(next(i++, '--seed'));
				break;
			case '--frames':
				options.frames = framesFrom(next(i++, '--frames'));
				break;
			case '--preset':
				options.preset = next(i++, '--preset');
				break;
			case '--kept':
				options.kept = next(i++, '--kept');
				break;
			case '--set': {
				const [name, ...value] = next(i++, '--set').split('=');
				if (!value.length)
					throw new Usage('--set takes DIAL=VALUE, or NODE.SETTING=VALUE such as sowPoints.count=200.');
				options.sets.push([name, value.join('=')]);
				break;
			}
			case '--slot': {
				const [name, ...path] = next(i++, '--slot').split('=');
				if (!path.length) throw new Usage('--slot takes NAME=FILE, such as path=pier.svg.');
				options.slots.push([name, path.join('=')]);
				break;
			}
			case '--attribute':
				options.attributes.push(next(i++, '--attribute'));
				break;
			case '--flatten':
				options.flatten = true;
				break;
			case '--animation':
				options.animation = true;
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

/** One seed, or all from one to another. */
function seedsFrom(text: string): number[] {
	const [from, to = from] = text.split('..').map(Number);
	const isSeed = (seed: number) => Number.isInteger(seed) && seed >= 0 && seed <= 4294967295;
	if (!isSeed(from) || !isSeed(to) || to < from || to - from >= MOST_SEEDS)
		throw new Usage(
			`--seed takes a whole number from 0 to 4294967295, or A..B for up to ${MOST_SEEDS} of them in order.`
		);
	return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}
const MOST_SEEDS = 10_000;

/** One frame, or all from one to another. */
function framesFrom(text: string): number[] {
	const [from, to = from] = text.split('..').map(Number);
	const isFrame = (frame: number) => Number.isInteger(frame) && Math.abs(frame) <= 1_000_000;
	if (!isFrame(from) || !isFrame(to) || to < from || to - from >= MOST_SEEDS)
		throw new Usage(`--frames takes a whole number, or A..B for up to ${MOST_SEEDS} of them in order.`);
	return Array.from({ length: to - from + 1 }, (_, i) => from + i);
}

function open(path: string | undefined): OpenedFile {
	if (!path) throw new Usage('Name a generator file.');
	const name = basename(path);
	const bytes = bytesOf(path);
	watch.begins(`The reading of ${name}`);
	const opened = new Ledger({ poll: watch.poll }).work(() => openFile(bytes, name));
	watch.begins(null);
	return opened;
}

function bytesOf(path: string): Uint8Array {
	try {
		return readFileSync(path);
	} catch (error) {
		throw new Usage(
			`${path} could not be read (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'}).`
		);
	}
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
	if (!/\.(glb|obj|ply|usda)$/i.test(out))
		throw new Usage('--out takes a name that ends in .glb, .obj, .ply or .usda.');
	const opened = open(options.words[1]);
	const notes: string[] = [];
	const file = asUsage(() => chosen(opened, choicesOf(options), (sentence) => notes.push(sentence)));
	const { document, leftOut } = file;
	for (const line of [...leftOut.map((one) => `left out: ${one}`), ...notes])
		if (!options.json) console.error(line);
	const overrides = options.sets
		.filter(([name]) => name.includes('.'))
		.map(([name, value]) => overrideOf(document, name, value));
	const seeds = options.seeds.length ? options.seeds : [document.seed];
	if (options.animation) return exportMoving(options, { file, overrides, seeds, out });
	// One evaluator for all frames: what nodes remember goes on from one to the next.
	const evaluator = evaluatorFor(file, watch);
	const frames = options.frames.length ? options.frames : [undefined];
	const codes = seeds.flatMap((seed) =>
		frames.map((frame) => {
			const marks = [
				...(seeds.length > 1 ? [`-${seed}`] : []),
				...(frame !== undefined && frames.length > 1 ? [`-${numbered(frame)}`] : [])
			];
			const path = out.replace(/(\.\w+)$/, `${marks.join('')}$1`);
			return exportSeed(options, { file, overrides, seed, frame, evaluator, path, notes });
		})
	);
	return Math.max(...codes);
}

/** Exports all frames, or those that are named, as one file that moves for each seed. */
function exportMoving(
	options: Options,
	{ file, overrides, seeds, out }: Pick<SeedJob, 'file' | 'overrides'> & { seeds: number[]; out: string }
): number {
	const ending = /\.(glb|usda)$/i.exec(out)?.[0].toLowerCase();
	if (!ending)
		throw new Usage('--animation writes a GLB or a USD: give --out a name that ends in .glb or .usda.');
	if (options.details)
		throw new Usage('--animation and --details do not go together: write one level of detail at a time.');
	const all = allFrames(file.document);
	const frames = options.frames.length
		? { first: options.frames[0], last: options.frames[options.frames.length - 1] }
		: all;
	for (const seed of seeds) {
		const path = seeds.length > 1 ? out.replace(/(\.\w+)$/, `-${seed}$1`) : out;
		const wanted = exportOptions(options, path, file.document.name);
		const hashes: (string | null)[] = [];
		const bytes = exportAnimation(file, frames, { seed, overrides }, wanted, {
			done: (_frame, { hash }) => void hashes.push(hash)
		});
		save(path, [{ name: ending, bytes }]);
		if (options.json) console.log(JSON.stringify({ name: wanted.name, seed, ...frames, out: path, hashes }));
		else
			console.log(
				`${path} written (${plural(frames.last - frames.first + 1, 'frame')}, ${bytes.length} bytes).`
			);
	}
	return 0;
}

/** What cannot be chosen is wrong use. */
function asUsage<Result>(work: () => Result): Result {
	try {
		return work();
	} catch (error) {
		throw error instanceof NodeError ? new Usage(error.message) : error;
	}
}

interface SeedJob {
	file: OpenedFile;
	overrides: readonly Override[];
	seed: number;
	frame: number | undefined;
	evaluator: Evaluator;
	path: string;
	notes: readonly string[];
}

/** Exports the generator with one seed. */
function exportSeed(
	options: Options,
	{ file, overrides, seed, frame, evaluator, path, notes }: SeedJob
): number {
	const { name } = file.document;
	const asked = { seed, frame, overrides, evaluator };
	watch.begins(`The evaluation of ${name}`);
	const { nodes, hash, objects, write } = runJob(file, asked);
	watch.begins(null);
	const wanted = exportOptions(options, path, name);
	if (write)
		save(path, options.details ? exportDetails(file, { seed, frame, overrides }, wanted) : write(wanted));
	if (options.json) {
		const told = {
			name,
			seed,
			...(frame !== undefined && { frame }),
			out: write ? path : null,
			hash,
			nodes,
			leftOut: file.leftOut,
			notes
		};
		// Of several seeds or frames there is one line each.
		console.log(
			JSON.stringify(told, null, options.seeds.length > 1 || options.frames.length > 1 ? undefined : '\t')
		);
	} else {
		for (const { node, warnings } of nodes)
			for (const warning of warnings) console.error(`${node}: ${warning}`);
		for (const { node, error } of nodes) if (error) console.error(`${node}: ${error}`);
		if (write)
			console.log(
				`${path} written${options.details ? ' at three levels of detail' : ''} (${plural(objects, 'object')}, hash ${hash}).`
			);
		else if (!nodes.some(({ error }) => error))
			console.error('The result is no geometry, so nothing was written.');
	}
	return !write || nodes.some(({ state }) => state === 'error') ? 1 : 0;
}

/** What is chosen of the generator before it is evaluated. */
function choicesOf({ preset, kept, sets, slots }: Options): Choices {
	return {
		preset,
		kept,
		dials: sets.filter(([name]) => !name.includes('.')),
		slots: slots.map(([name, path]) => [name, { name: basename(path), bytes: bytesOf(path) }])
	};
}

const exportOptions = ({ flatten, attributes }: Options, out: string, name: string): ExportOptions => {
	const isObj = /\.obj$/i.test(out);
	return {
		format: out.slice(out.lastIndexOf('.') + 1).toLowerCase() as ExportOptions['format'],
		flatten,
		attributes: attributes.map((one) => ({ name: one, as: one })),
		// An OBJ names the file of its materials, which lies beside it.
		name: isObj ? basename(out).replace(/\.obj$/i, '') : name
	};
};

function save(out: string, files: readonly { name: string; bytes: Uint8Array }[]): void {
	const stem = out.replace(/\.(glb|obj|ply|usda)$/i, '');
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
export function main(args: readonly string[], watched: Watch = watch): number {
	watch = watched;
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
