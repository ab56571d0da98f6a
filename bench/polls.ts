/** A table of how long each kind of node goes without asking whether to stop, on two million elements. */
import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { buildSync } from 'esbuild';
import type { InputDefinition } from '../core/nodes/index.ts';
import { offeredKinds } from '../core/nodes/index.ts';

/** Milliseconds within which a stop is heeded. */
const HOLD = 50;
const MOST_SECONDS = 120;
/** Runs of what was not held: another process, or the collector of garbage, is not the kernel's doing. */
const RUNS = 3;
/** Settings that make those large that begin with nothing. */
const LARGE: Record<string, Record<string, unknown>> = {
	grid: { columns: 1414, rows: 1414 },
	box: { cellsX: 580, cellsY: 580, cellsZ: 580 },
	sphere: { segments: 2000, rows: 1000 },
	cylinder: { segments: 1400, rows: 1400 },
	torus: { segments: 1400, sectionSegments: 1400 },
	disc: { segments: 1400, rings: 1400 },
	'count-up': { count: 2_000_000 },
	'even-steps': { count: 2_000_000 },
	'row-of-points': { count: 2_000_000 },
	'ring-of-points': { count: 2_000_000 },
	'grid-of-points': { countX: 1414, countY: 1, countZ: 1414 },
	'points-from-values': { count: 2_000_000 },
	'chain-of-copies': { count: 2_000_000 },
	'sow-points': { by: 'count', count: 2_000_000 },
	circle: { points: 2_000_000 },
	helix: { points: 2_000_000 },
	spiral: { points: 2_000_000 }
};

const out = 'node_modules/.cache/polls.child.mjs';
buildSync({
	entryPoints: ['bench/polls.child.ts'],
	outfile: out,
	bundle: true,
	platform: 'node',
	format: 'esm'
});

interface Line {
	kind: string;
	part: string;
	longest: number;
	whole: number;
	state: string;
	error: string | null;
}
/** One run of one kind on one part, in a process of its own. */
function measured(kind: string, part: string): Line {
	const { stdout, stderr } = spawnSync(
		process.execPath,
		['--expose-gc', '--max-old-space-size=8000', out, kind, part, JSON.stringify(LARGE[kind] ?? {})],
		{ encoding: 'utf8', timeout: MOST_SECONDS * 1000, maxBuffer: 1e8 }
	);
	const text = stdout.trim().split('\n').at(-1) ?? '';
	if (text.startsWith('{')) return JSON.parse(text) as Line;
	return { kind, part, longest: Infinity, whole: Infinity, state: 'ended', error: stderr.slice(-300) };
}

const wanted = process.argv[2] ?? '';
const lines: Line[] = [];
for (const kind of offeredKinds.filter(({ id }) => id.includes(wanted))) {
	const needs = new Set(
		(Object.values(kind.inputs) as InputDefinition[]).flatMap((input) =>
			input.kind === 'geometry' ? [input.needs ?? 'anything'] : []
		)
	);
	const parts = needs.has('anything')
		? ['mesh', 'curves', 'points', 'copies']
		: needs.size
			? [...needs]
			: [''];
	for (const part of parts) {
		let line = measured(kind.id, part);
		for (let run = 1; run < RUNS && line.longest > HOLD && line.longest < Infinity; run++) {
			const again = measured(kind.id, part);
			if (again.longest < line.longest) line = again;
		}
		lines.push(line);
		const held = line.longest <= HOLD ? 'held' : 'NOT HELD';
		console.log(
			`${kind.name.padEnd(22)} ${part.padEnd(7)} ${String(line.longest).padStart(8)} ms of ${String(line.whole).padStart(7)} ms  ${held}${line.error ? `  (${line.error.slice(0, 90)})` : ''}`
		);
	}
}
writeFileSync('polls.json', JSON.stringify(lines, null, '\t'));
const missed = lines.filter(({ longest }) => longest > HOLD);
console.log(`${lines.length - missed.length} of ${lines.length} held.`);
