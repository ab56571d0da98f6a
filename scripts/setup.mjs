// What both commands need on a fresh machine: packages, and for tests Debian's Chromium.
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';

/** Runs a command in the open; ends the process with its code where it fails. */
export function run(command, args, options = {}) {
	const done = spawnSync(command, args, { stdio: 'inherit', ...options });
	if (done.status !== 0) {
		console.error(`${command} ${args.join(' ')} failed.`);
		process.exit(done.status ?? 1);
	}
}

export function installPackages() {
	const stamp = 'node_modules/.package-lock.json';
	if (existsSync(stamp) && statSync(stamp).mtimeMs >= statSync('package-lock.json').mtimeMs) return;
	// Not `npm ci`: it refuses a lock file in which packages for other machines are not listed, and a registry that does
	// not serve those cannot list them. This takes the versions of the lock file all the same, and leaves it as it is.
	run('npm', ['install', '--no-save', '--no-audit', '--no-fund']);
}

export function installChromium() {
	if (existsSync('/usr/bin/chromium')) return;
	run('apt-get', ['update']);
	run('apt-get', ['install', '-y', '--no-install-recommends', 'chromium']);
}
