/** Runs interface tests: those that look at words and wires two at a time, then those that look at pictures, alone. */
import { readFileSync, rmSync } from 'node:fs';
import { programOf, ran } from './steps.mjs';

/**
 * @param {'logic' | 'pictures'} project
 * @param {readonly string[]} names files by a part of their names; none means all
 */
export async function runInterface(project, names, atOnce) {
	const told = `node_modules/.cache/embrell-${project}.json`;
	rmSync(told, { force: true });
	const { isWell, said } = await ran(
		[
			programOf('@playwright/test', 'playwright'),
			'test',
			`--project=${project}`,
			'--pass-with-no-tests',
			...names
		],
		{ PLAYWRIGHT_JSON_OUTPUT_FILE: told, EMBRELL_BROWSERS: String(atOnce) }
	);
	return { isWell, said, tests: testsOf(told) };
}

function testsOf(told) {
	const tests = [];
	const visit = ({ suites = [], specs = [], file }) => {
		for (const { title, tests: runs } of specs)
			for (const { results, status } of runs)
				tests.push({
					file: `e2e/${file}`,
					name: title,
					milliseconds: results.reduce((sum, { duration }) => sum + duration, 0),
					isSkipped: status === 'skipped',
					error: status === 'unexpected' || status === 'flaky' ? 'failed' : null
				});
		for (const suite of suites) visit({ file, ...suite });
	};
	try {
		visit(JSON.parse(readFileSync(told, 'utf8')));
	} catch {
		// Without it the step has said why.
	}
	return tests;
}
