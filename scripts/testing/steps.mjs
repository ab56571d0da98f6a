/** Steps of `npm test`: programs that run side by side, their words kept together, their times told at the end. */
import { spawn } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Where the program of an installed package lies. */
export function programOf(name, program = name) {
	const folder = join('node_modules', name);
	const { bin } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
	return join(folder, typeof bin === 'string' ? bin : bin[program]);
}

/** Runs a program with this Node. Gives whether all was well, and what it said. */
export function ran(args, env = {}) {
	return new Promise((done) => {
		const child = spawn(process.execPath, args, {
			env: { ...process.env, ...env },
			stdio: ['ignore', 'pipe', 'pipe']
		});
		let said = '';
		for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
		child.on('error', (error) => done({ isWell: false, said: error.message }));
		child.on('close', (code) => done({ isWell: code === 0, said }));
	});
}

const seconds = (milliseconds) => `${(milliseconds / 1000).toFixed(1)} s`.padStart(8);

export class Steps {
	#begun = performance.now();
	#taken = takenByOthers();
	/** Each with when it began, how long it took, and whether all was well. */
	#done = [];
	/** Tests of all steps, with how long each took. */
	tests = [];

	get failed() {
		return this.#done.some(({ isWell }) => !isWell);
	}

	/** @param {() => Promise<{ isWell: boolean, said?: string }>} work */
	async run(name, work) {
		const began = performance.now();
		const { isWell, said = '' } = await work().catch((error) => ({ isWell: false, said: error.stack }));
		const milliseconds = performance.now() - began;
		this.#done.push({ name, began: began - this.#begun, milliseconds, isWell });
		console.log(`${isWell ? '✓' : '✗'} ${name} ${seconds(milliseconds).trim()}`);
		if (said.trim() && (!isWell || process.env.EMBRELL_VERBOSE)) console.log(said.trimEnd());
		return isWell;
	}

	/** What took how long. */
	tell() {
		console.log('\n   began     took');
		for (const { name, began, milliseconds, isWell } of this.#done)
			console.log(`${seconds(began)} ${seconds(milliseconds)}  ${name}${isWell ? '' : ': FAILED'}`);
		const whole = performance.now() - this.#begun;
		console.log(`         ${seconds(whole)}  all of it`);
		const taken = takenByOthers();
		if (taken) {
			const lost = (taken.stolen - this.#taken.stolen) / (taken.all - this.#taken.all);
			if (lost > 0.02)
				console.log(`Others on this machine took ${Math.round(100 * lost)} % of its processors meanwhile.`);
		}
		const slowest = [...this.tests].sort((a, b) => b.milliseconds - a.milliseconds).slice(0, 20);
		if (slowest.length > 1) console.log(`\nThe ${slowest.length} slowest of ${this.tests.length} tests:`);
		for (const { milliseconds, file, name } of slowest.length > 1 ? slowest : [])
			console.log(`${seconds(milliseconds)}  ${file}: ${name}`);
		const failed = this.tests.filter(({ error }) => error);
		if (failed.length) console.log(`\n${failed.length} failed:`);
		for (const { file, name } of failed) console.log(`  ${file}: ${name}`);
		const skipped = this.tests.filter(({ isSkipped }) => isSkipped).length;
		if (this.tests.length)
			console.log(
				`\n${this.tests.length - failed.length - skipped} passed, ${failed.length} failed${skipped ? `, ${skipped} skipped` : ''}`
			);
	}
}

/** On a shared machine the time that its processors worked for others, where the system says so. */
function takenByOthers() {
	if (!existsSync('/proc/stat')) return null;
	const times = readFileSync('/proc/stat', 'utf8').split('\n')[0].trim().split(/\s+/).slice(1).map(Number);
	return { all: times.reduce((sum, time) => sum + time, 0), stolen: times[7] ?? 0 };
}
