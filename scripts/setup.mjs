// What both commands need on a fresh machine: packages, and for tests Debian's Chromium. No shell is asked for anything: the
// same on Linux, macOS and Windows.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** Runs a program in the open; ends the process with its code where it fails. */
export function run(command, args, options = {}) {
	const done = spawnSync(command, args, { stdio: 'inherit', ...options });
	if (done.status !== 0) {
		console.error(`${command} ${args.join(' ')} failed${done.error ? `: ${done.error.message}` : '.'}`);
		process.exit(done.status ?? 1);
	}
}

/** Runs a program of an installed package with this Node, whatever the system calls its start script. */
export function runPackage(name, args, program = name, options = {}) {
	const folder = join('node_modules', name);
	const { bin } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
	run(process.execPath, [join(folder, typeof bin === 'string' ? bin : bin[program]), ...args], options);
}

export function installPackages() {
	const stamp = 'node_modules/.package-lock.json';
	if (existsSync(stamp) && statSync(stamp).mtimeMs >= statSync('package-lock.json').mtimeMs) return;
	// npm tells its scripts where it lies itself; without it, by the name that a shell would find.
	const npm = process.env.npm_execpath;
	const args = ['ci', '--no-audit', '--no-fund'];
	if (npm) run(process.execPath, [npm, ...args]);
	else run('npm', args, { shell: process.platform === 'win32' });
}

/** Debian's Chromium without a window: the same pages for a quarter less of a processor than with one that nobody sees. */
export const chromium = process.env.EMBRELL_CHROMIUM ?? '/usr/bin/chromium-headless-shell';

export function installChromium() {
	if (existsSync(chromium)) return;
	run('apt-get', ['update']);
	run('apt-get', ['install', '-y', '--no-install-recommends', 'chromium-headless-shell']);
}
