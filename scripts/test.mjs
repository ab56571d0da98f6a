/**
 * npm test: every check, two at a time.
 *
 *   npm test                                  all of them
 *   npm test -- quick                         format, types, lint, and the units of what changed since the last commit
 *   npm test -- units core/kernels            the units of a folder, or of one file
 *   npm test -- interface timeline            the interface tests of a file
 *   npm test -- format | types | lint | server
 *
 * EMBRELL_THOROUGH=1 runs the long versions of laws. EMBRELL_SEED gives their seed; without it, it is made from the commit, so
 * that a run can be had again. EMBRELL_VERBOSE=1 shows all that the steps say.
 */
import { execFileSync } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { installChromium, installPackages } from './setup.mjs';
import { Steps, programOf, ran } from './testing/steps.mjs';

const [what = 'all', ...names] = process.argv.slice(2);
const KNOWN = ['all', 'quick', 'format', 'types', 'lint', 'unit', 'units', 'server', 'interface'];
if (!KNOWN.includes(what)) {
	console.error(`npm test knows no “${what}”. It knows ${KNOWN.join(', ')}.`);
	process.exit(2);
}

installPackages();
if (what === 'all' || what === 'interface') installChromium();
const git = (...args) => {
	try {
		return execFileSync('git', args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }).trim();
	} catch {
		return '';
	}
};
process.env.EMBRELL_SEED ||= String(parseInt(git('rev-parse', 'HEAD').slice(0, 7) || '1', 16));
console.log(`Laws take the seed ${process.env.EMBRELL_SEED}; EMBRELL_SEED gives another.`);

// The command line is tested as it is installed: bundled.
const { bundleCli } = await import('./bundle-cli.mjs');
const { buildApp } = await import('./testing/build-app.mjs');
const { runUnits, unitsOf } = await import('./testing/units.mjs');
const { runInterface } = await import('./testing/interface.mjs');

const steps = new Steps();
const lanes = Math.max(2, availableParallelism());

/** @returns {Promise<boolean>} */
const format = (files = ['.']) =>
	steps.run('format', () =>
		ran([programOf('prettier'), '--check', '--log-level', 'warn', '--cache', '--ignore-unknown', ...files])
	);
/** The compiler in machine code does in 7 s of a processor what the one in JavaScript does in 43 s; svelte-check takes it as well. */
const types = async () => {
	await steps.run('types of the core', async () => {
		const synced = await ran([programOf('@sveltejs/kit', 'svelte-kit'), 'sync']);
		return synced.isWell ? ran([programOf('@typescript/native-preview', 'tsgo'), '-p', 'core']) : synced;
	});
	await steps.run('types of the application', () =>
		ran([programOf('svelte-check'), '--tsconfig', './tsconfig.json', '--fail-on-warnings', '--tsgo'])
	);
};
const lint = async (files = ['.']) => {
	await steps.run('lint', () =>
		ran([programOf('eslint'), '--cache', '--cache-location', 'node_modules/.cache/eslint/', ...files])
	);
	// No file, export or package that nobody uses.
	await steps.run('unused', () => ran([programOf('knip')]));
};
/** Units, in one process or several; more can join while they run. */
function units(places, atOnce) {
	const begun = runUnits({ places, say: console.log, atOnce });
	const whole = steps.run('units', async () => {
		const tests = await (await begun).done;
		steps.tests.push(...tests);
		return { isWell: tests.every(({ error }) => error === null) };
	});
	// Whoever joins while tests are still bundled waits for that: none is lost.
	return {
		whole,
		join: () =>
			begun.then(
				({ join }) => join(),
				() => {}
			)
	};
}
async function face(project, atOnce) {
	await steps.run(`interface, ${project}`, async () => {
		const { isWell, said, tests } = await runInterface(project, names, atOnce);
		steps.tests.push(...tests);
		return { isWell, said };
	});
}
const build = () => steps.run('build', buildApp);

if (what === 'quick') await quick();
else if (what === 'format') await format();
else if (what === 'types') await types();
else if (what === 'lint') await lint();
else if (what === 'unit' || what === 'units') await someUnits(names);
else if (what === 'server') await someUnits(['scripts']);
else if (what === 'interface') await wholeInterface();
else await all();
steps.tell();
process.exit(steps.failed ? 1 : 0);

/** Two lanes: what is built is tested in the one, what is only read is read in the other, which then helps with the tests. */
async function all() {
	let running = null;
	const built = build().then(() => (running = units([], lanes - 1)));
	const read = format()
		.then(types)
		.then(() => lint());
	await read;
	await built;
	void running.join();
	await running.whole;
	await wholeInterface();
}

async function wholeInterface() {
	if (!(await build())) return;
	await face('logic', lanes);
	await face('pictures', 1);
}

async function someUnits(places) {
	const files = unitsOf(places);
	if (files.some((file) => file.startsWith('scripts/'))) await build();
	else if (files.some((file) => file.startsWith('cli/'))) await bundleCli();
	await units(places, lanes).whole;
}

/** For whoever works: what changed, and what lies in the same folders. */
async function quick() {
	const changed = [
		...git('diff', '--name-only', '--diff-filter=d', 'HEAD').split('\n'),
		...git('ls-files', '--others', '--exclude-standard').split('\n')
	].filter(Boolean);
	const code = changed.filter((file) => /\.(ts|mjs|js|svelte)$/.test(file));
	const places = [...new Set(code.map((file) => file.slice(0, Math.max(0, file.lastIndexOf('/')))))];
	const files = places
		.filter(Boolean)
		.flatMap((place) => unitsOf([place]).filter((file) => file.lastIndexOf('/') === place.length));
	await Promise.all([
		types(),
		(async () => {
			if (changed.length) await format(changed);
			if (code.length) await lint(code);
			if (files.length) await someUnits(files);
		})()
	]);
}
