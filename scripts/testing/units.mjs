/** Runs unit tests: their files bundled once, then handed one by one to as many processes as there are processors. */
import { fork } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { SourceMap } from 'node:module';
import { dirname, join, relative, resolve, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import { bundleUnits } from './bundle-units.mjs';
import { FOLDER } from './names.mjs';

const ALL = ['core', 'cli', 'src', 'scripts'];
/** How long one file may take before its process counts as hanging. */
const MOST_MILLISECONDS = Number(process.env.EMBRELL_THOROUGH ?? 0) ? 3_600_000 : 300_000;
/** How long files took when they last ran here: the longest are begun first, so that none is left over at the end. */
const TIMES = 'node_modules/.cache/embrell-unit-times.json';

function filesIn(place, ending) {
	if (!existsSync(place)) return [];
	if (statSync(place).isFile()) return place.endsWith(ending) ? [place] : [];
	return readdirSync(place, { withFileTypes: true }).flatMap((entry) =>
		filesIn(join(place, entry.name), ending)
	);
}

/** Test files in folders, or files that are named; an ending may be left off. None means all. */
export function unitsOf(places) {
	const found = (places.length ? places : ALL).flatMap((place) =>
		[place, `${place}.test.ts`, place.replace(/\.ts$/, '.test.ts')].flatMap((one) => filesIn(one, '.test.ts'))
	);
	return [...new Set(found.map((file) => file.split(sep).join('/')))];
}

/**
 * @param {readonly string[]} places folders or files; none means all
 * @param {(line: string) => void} say
 * @param {number} atOnce processes
 * @returns what becomes of it: every test with its file, how long it took, and its error; and a way to add a process
 */
export async function runUnits({ places = [], say, atOnce }) {
	const files = unitsOf(places);
	if (!files.length)
		throw new Error(`No unit tests are in ${places.join(', ')}: name a folder such as core/kernels.`);
	// A program that a test starts lies beside it.
	await bundleUnits([...files, ...filesIn('core', '.child.ts')]);
	const queue = queueOf(files);
	const tests = [];
	const working = [];
	const join = () => void working.push(work(queue, tests, say));
	for (let i = 0; i < atOnce; i++) join();
	const done = (async () => {
		for (let i = 0; i < working.length; i++) await working[i];
		keepTimes(tests);
		return tests;
	})();
	return { done, join };
}

/** One process after another, as long as there are files: one that ends in the middle of a file is followed by the next. */
async function work(queue, tests, say) {
	while (queue.length) await workUntilEnd(queue, tests, say);
}

function workUntilEnd(queue, tests, say) {
	return new Promise((done) => {
		const child = fork(fileURLToPath(new URL('./run-files.mjs', import.meta.url)), {
			execArgv: [
				`--test-reporter=${new URL('./tell.mjs', import.meta.url).href}`,
				'--test-reporter-destination=stdout'
			],
			stdio: ['ignore', 'pipe', 'pipe', 'ipc']
		});
		let file = null;
		let said = '';
		let watch;
		const keep = (chunk) => (said = (said + chunk).slice(-20_000));
		child.stdout.on('data', keep);
		child.stderr.on('data', keep);
		let row = [];
		const next = () => {
			clearTimeout(watch);
			said = '';
			if (!row.length) row = queue.shift() ?? [];
			file = row.shift() ?? null;
			if (!file) return child.send({ end: true });
			child.send({ file });
			watch = setTimeout(() => child.kill('SIGKILL'), MOST_MILLISECONDS);
		};
		child.on('message', ({ test, ended }) => {
			if (ended) return next();
			tests.push({ ...test, file });
			if (test.error)
				say(`✗ ${file}: ${test.name}\n${inOwnLines(test.error)}${said && `\nIt said: ${said}`}`);
		});
		child.on('close', (code, signal) => {
			clearTimeout(watch);
			if (row.length) queue.unshift(row);
			if (file) {
				const error = `The process ended with ${signal ?? code} before the file was through.\n${said}`;
				tests.push({ name: 'runs to its end', file, milliseconds: 0, error });
				say(`✗ ${file}: ${error}`);
			}
			done();
		});
		next();
	});
}

const maps = new Map();

/** An error in the lines of the sources instead of those of the bundle. */
function inOwnLines(text) {
	const root = resolve(FOLDER);
	return text.replaceAll(/(?:file:\/\/)?([^\s():]+\.mjs):(\d+):(\d+)/g, (whole, path, line, column) => {
		if (!path.startsWith(root) || !existsSync(`${path}.map`)) return whole;
		if (!maps.has(path)) maps.set(path, new SourceMap(JSON.parse(readFileSync(`${path}.map`, 'utf8'))));
		const at = maps.get(path).findEntry(line - 1, column - 1);
		if (at.originalSource === undefined) return whole;
		const source = relative('.', resolve(path, '..', at.originalSource));
		return `${source}:${at.originalLine + 1}:${at.originalColumn + 1}`;
	});
}

const timesKept = () => (existsSync(TIMES) ? JSON.parse(readFileSync(TIMES, 'utf8')) : {});

/**
 * Rows of files, each for one process, the longest first. Those that look at the samples are one row: what the first has
 * evaluated the others find.
 */
function queueOf(files) {
	const times = timesKept();
	const timeOf = (row) => row.reduce((sum, file) => sum + (times[file] ?? 1e6), 0);
	const looksAtSamples = (file) => readFileSync(file, 'utf8').includes('/testing/samples.ts');
	const together = files.filter(looksAtSamples);
	const rows = [together, ...files.filter((file) => !together.includes(file)).map((file) => [file])];
	return rows.filter((row) => row.length).sort((a, b) => timeOf(b) - timeOf(a));
}

function keepTimes(tests) {
	const times = timesKept();
	for (const file of new Set(tests.map((test) => test.file)))
		times[file] = Math.round(
			tests.filter((test) => test.file === file).reduce((sum, { milliseconds }) => sum + milliseconds, 0)
		);
	mkdirSync(dirname(TIMES), { recursive: true });
	writeFileSync(TIMES, JSON.stringify(times));
}
