/** The command line: export, nodes, check. It shares the core with the application. */
import { readFileSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import type { GeneratorDocument, Setting } from '../core/engine/index.ts';
import type { InputDefinition } from '../core/nodes/index.ts';
import * as varying from '../core/varying/index.ts';
import { inputKind, inputOf, inputsOf, mapFormulas } from '../core/engine/index.ts';
import { Ledger } from '../core/geometry/index.ts';
import { NodeError, plural } from '../core/math/index.ts';
import { offeredKinds } from '../core/nodes/index.ts';
import type { Evaluator } from '../core/engine/index.ts';
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

/** The commands, each with what it is called with and what it does. */
const COMMANDS = {
	export: ['FILE --out OUT.glb|OUT.obj|OUT.ply|OUT.usda', 'Evaluates a generator and writes what it makes.'],
	nodes: ['', 'Lists all kinds of node.'],
	check: ['FILE', 'Opens a generator and tells what is wrong with it.']
} as const;

/** What an option takes, and what it does. */
interface Option {
	type: 'string' | 'boolean';
	multiple?: true;
	short?: string;
	takes?: string;
	help: string;
}

/** Every option, once: what it takes, and what it does. */
const OPTIONS = {
	out: {
		type: 'string',
		takes: 'OUT',
		help: 'Where to write: a name that ends in .glb, .obj, .ply or .usda.'
	},
	preset: { type: 'string', takes: 'NAME', help: 'Dials as this preset has them.' },
	kept: { type: 'string', takes: 'NAME', help: 'Seed and dials as this kept variation has them.' },
	set: {
		type: 'string',
		multiple: true,
		takes: 'NAME=VALUE',
		help: 'A dial by its name, such as height=2, or a setting, such as sowPoints.count=200 or put.move.y=3. A range of a dial: height=1..2. May be given several times.'
	},
	slot: {
		type: 'string',
		multiple: true,
		takes: 'NAME=FILE',
		help: 'A file in a slot, such as path=pier.svg.'
	},
	seed: {
		type: 'string',
		takes: 'N|A..B',
		help: 'One seed in place of the file’s own, or several, each in files of its own.'
	},
	frames: {
		type: 'string',
		takes: 'N|A..B',
		help: 'One frame in place of the first, or several, each in files of its own.'
	},
	animation: { type: 'boolean', help: 'All frames, or those of --frames, in one GLB or USD that moves.' },
	flatten: { type: 'boolean', help: 'Copies as meshes of their own.' },
	attribute: {
		type: 'string',
		multiple: true,
		takes: 'NAME',
		help: 'An attribute that is written too. May be given several times.'
	},
	details: { type: 'boolean', help: 'All three levels of detail, each in files of its own.' },
	json: {
		type: 'boolean',
		help: 'What is told as JSON: nodes with counts, sizes, warnings and errors; hashes.'
	},
	help: { type: 'boolean', short: 'h', help: 'This.' }
} as const satisfies Record<string, Option>;

const flagOf = (name: string, { short, takes }: Option): string =>
	`${short ? `-${short}, ` : ''}--${name}${takes ? ` ${takes}` : ''}`;
/** Words in lines of at most so many characters, those after the first set in. */
function wrapped(text: string, width: number, inset: string): string {
	const lines = [''];
	for (const word of text.split(' ')) {
		const last = lines.length - 1;
		if (lines[last] && lines[last].length + word.length >= width) lines.push(word);
		else lines[last] += (lines[last] && ' ') + word;
	}
	return lines.join(`\n${inset}`);
}

const USAGE = `${Object.entries(COMMANDS)
	.map(([name, [takes]]) => `embrell ${name}${takes && ` ${takes}`} [options]`)
	.join('\n')}
embrell --help explains every option.
`;
const INSET = 26;
const HELP = `${Object.entries(COMMANDS)
	.map(([name, [takes, help]]) => `embrell ${name}${takes && ` ${takes}`}\n    ${help}`)
	.join('\n')}

${(Object.entries(OPTIONS) as [string, Option][])
	.map(([name, option]) => {
		const flag = `  ${flagOf(name, option)}`;
		const gap = flag.length < INSET ? ' '.repeat(INSET - flag.length) : `\n${' '.repeat(INSET)}`;
		return flag + gap + wrapped(option.help, 74, ' '.repeat(INSET));
	})
	.join('\n')}

It ends with 0, with 1 for an error in the generator, and with 2 for wrong use.
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
	help: boolean;
}

function read(args: readonly string[]): Options {
	const { values, positionals } = asUsage(() => parsed(args));
	const pair = (text: string, wrong: string): [string, string] => {
		const [name, ...value] = text.split('=');
		if (!value.length) throw new Usage(wrong);
		return [name, value.join('=')];
	};
	const { out, preset, kept } = values;
	return {
		words: positionals,
		...(out !== undefined && { out }),
		...(preset !== undefined && { preset }),
		...(kept !== undefined && { kept }),
		seeds: values.seed === undefined ? [] : seedsFrom(values.seed),
		frames: values.frames === undefined ? [] : framesFrom(values.frames),
		sets: (values.set ?? []).map((text) =>
			pair(text, '--set takes DIAL=VALUE, or NODE.SETTING=VALUE such as sowPoints.count=200.')
		),
		slots: (values.slot ?? []).map((text) => pair(text, '--slot takes NAME=FILE, such as path=pier.svg.')),
		attributes: values.attribute ?? [],
		flatten: values.flatten ?? false,
		animation: values.animation ?? false,
		details: values.details ?? false,
		json: values.json ?? false,
		help: values.help ?? false
	};
}

/** The arguments by the table of options. Throws a Usage with the nearest option where there is none of that name. */
function parsed(args: readonly string[]) {
	try {
		return parseArgs({ args: [...args], options: OPTIONS, allowPositionals: true });
	} catch (error) {
		const { code, message } = error as Error & { code?: string };
		const wrong = /'(-[^' ]*)/.exec(message)?.[1] ?? '';
		if (code === 'ERR_PARSE_ARGS_UNKNOWN_OPTION') {
			const near = varying.nearestName(wrong.replace(/^-+/, ''), Object.keys(OPTIONS));
			throw new Usage(`There is no option ${wrong}.${near ? ` Did you mean --${near}?` : ''}`);
		}
		const [flag] = /--[a-z]+/.exec(message) ?? [wrong];
		throw new Usage(/argument missing|ambiguous/i.test(message) ? `${flag} needs a value.` : message);
	}
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
	// Of a vector one part: put.move.y.
	const [short, ...rest] = name.split('.');
	const setting = rest.join('.');
	const node = main.nodes.find((one) => one.short === short);
	if (!node) {
		const near = varying.nearestName(
			short,
			main.nodes.map((one) => one.short)
		);
		const all = main.nodes.map((one) => one.short);
		throw new Usage(`There is no node “${short}”.${near ? ` Did you mean “${near}”?` : amongThem(all)}`);
	}
	const input = inputOf(node, setting);
	if (!input) {
		const own = inputsOf(node);
		const byLabel = own.find(([, { label }]) => label.toLowerCase() === setting.toLowerCase());
		const all = own.filter(([, one]) => inputKind(one).read).map(([one]) => one);
		const near = byLabel?.[0] ?? varying.nearestName(setting, all);
		throw new Usage(
			`“${short}” has no setting “${setting}”.${near ? ` Did you mean “${short}.${near}”?` : amongThem(all)}`
		);
	}
	if (main.wires.some((wire) => wire.to[0] === node.id && wire.to[1] === setting))
		throw new Usage(`“${name}” is wired, so it cannot be set here.`);
	return { node: node.id, setting, value: valueOf(written, input, name) };
}

/** What there is, where nothing is near to what was asked for. */
const amongThem = (all: readonly string[]): string =>
	all.length
		? ` There ${all.length === 1 ? 'is' : 'are'}: ${all.slice(0, 20).join(', ')}${all.length > 20 ? ' …' : ''}.`
		: '';

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
	for (const [name] of options.sets) checkDial(opened.document, name);
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

/** A name without a dot is a dial's. What is none, but a setting's, is told with its node. */
function checkDial({ dials, graphs: { main } }: GeneratorDocument, name: string): void {
	if (
		name.includes('.') ||
		dials.some(({ key, name: own }) => key === name || own.toLowerCase() === name.toLowerCase())
	)
		return;
	if (
		varying.nearestName(
			name,
			dials.flatMap(({ key, name: own }) => [key, own])
		)
	)
		return;
	const node = main.nodes.find((one) => inputOf(one, name));
	if (node) throw new Usage(`There is no dial “${name}”. Did you mean “${node.short}.${name}”?`);
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
		watch.begins(`The evaluation of ${file.document.name}`);
		const bytes = exportAnimation(file, frames, { seed, overrides, poll: watch.poll }, wanted, {
			done: (_frame, { hash }) => void hashes.push(hash)
		});
		watch.begins(null);
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
	if (write && options.details) {
		watch.begins(`The evaluation of ${name}`);
		const files = exportDetails(file, { seed, frame, overrides, poll: watch.poll }, wanted);
		watch.begins(null);
		save(path, files);
	} else if (write) save(path, write(wanted));
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
			console.error('The result is not geometry, so nothing was written.');
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
		if (options.help) {
			console.log(HELP);
			return 0;
		}
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
