/** What the examples of the Handbook are fed with: small things of Saltreed, each a node with what it hangs from. */

/** A node of an example: its kind, short name, settings, and wires by input. */
export type ExampleRow = readonly [
	kind: string,
	short: string,
	settings?: Readonly<Record<string, unknown>>,
	wires?: Readonly<Record<string, string | readonly string[]>>
];

const at = (x: number, y: number, z: number, ...along: number[]) => ({
	at: [x, y, z],
	in: along.map((d) => -d),
	out: along
});

/** By the port that gives it. */
const ROWS: readonly (readonly [port: string, row: ExampleRow])[] = [
	['mesh', ['grid', 'flat', { width: 6, depth: 6, columns: 24, rows: 24 }]],
	['value', ['noise-value', 'relief', { size: 2.4 }]],
	['geometry', ['displace', 'hill', { amount: 0 }, { geometry: 'flat.mesh', amount: 'relief.value' }]],
	['mesh', ['box', 'hut', { size: [2, 1.4, 1.6] }]],
	['mesh', ['cylinder', 'stalk', { height: 3, radius: 0.35, topRadius: 0.2, segments: 4, rows: 24 }]],
	['geometry', ['subdivide', 'fine', { levels: 3, method: 'flat' }, { geometry: 'hut.mesh' }]],
	['mesh', ['box', 'post', { size: [0.12, 0.8, 0.12] }]],
	[
		'curve',
		[
			'draw-curve',
			'bend',
			{
				path: {
					path: [
						at(-3, 0, 1, 1, 0, 0),
						at(-1, 0.4, -1, 1, 0, 0.4),
						at(1, 0, 1, 1, 0, 0),
						at(3, 0.3, -0.5, 1, 0, 0)
					]
				}
			}
		]
	],
	[
		'curve',
		[
			'draw-curve',
			'profile',
			{ path: { path: [at(0.2, 0, 0, 0.3, 0, 0), at(1, 0.6, 0, 0, 0.3, 0), at(0.5, 1.6, 0, 0, 0.4, 0)] } }
		]
	],
	[
		'curve',
		[
			'draw-curve',
			'corners',
			{
				type: 'straight',
				path: {
					path: [
						at(-2, 0, 0, 0, 0, 0),
						at(-1, 0, 1.4, 0, 0, 0),
						at(1, 0, -1.4, 0, 0, 0),
						at(2, 0, 0, 0, 0, 0)
					]
				}
			}
		]
	],
	['curve', ['circle', 'ring', { radius: 1.6 }]],
	['curve', ['circle', 'hoop', { radius: 0.2, points: 12 }]],
	['curve', ['star', 'star', {}]],
	[
		'geometry',
		['transform', 'upper', { move: [0.3, 1.4, 0], scale: [0.6, 0.6, 0.6] }, { geometry: 'star.curve' }]
	],
	['points', ['grid-of-points', 'cage', { countX: 3, countY: 3, countZ: 3, spacing: [1, 0.7, 0.8] }]],
	['geometry', ['twist', 'turnedCage', {}, { geometry: 'cage.points' }]],
	['points', ['row-of-points', 'row', { count: 9 }]],
	['points', ['sow-points', 'sown', { by: 'count', count: 60 }, { surface: 'hill.geometry' }]],
	['copies', ['place-copies', 'posts', {}, { points: 'row.points', source: 'post.mesh' }]],
	['marker', ['marker', 'pull', { place: [0.4, 1.2, 0.3], rest: [0, 0, 0], reach: 2.4 }]],
	['list', ['even-steps', 'steps', { from: 0, to: 3, count: 12 }]],
	['weight', ['weight-by-height', 'high', { from: -0.5, to: 0.8 }]],
	[
		'geometry',
		[
			'write-attribute',
			'marked',
			{ name: 'height', value: { formula: 'position.y', streams: [] } },
			{ geometry: 'hill.geometry' }
		]
	]
];

const SOURCES: ReadonlyMap<string, { port: string; row: ExampleRow }> = new Map(
	ROWS.map(([port, row]) => [row[1], { port, row }])
);

/** All outputs to which some wires lead. */
export const wiredTo = (wires: ExampleRow[3] = {}): string[] => Object.values(wires).flat();

/** The rows of some sources and of all that they hang from, causes first. @param wanted such as `hill.geometry`. */
export function rowsOfSources(wanted: readonly string[]): ExampleRow[] {
	const needed = new Set<string>();
	const open = wanted.map((one) => one.split('.')[0]);
	for (const short of open) {
		if (needed.has(short)) continue;
		needed.add(short);
		const source = SOURCES.get(short);
		open.push(...wiredTo(source?.row[3]).map((one) => one.split('.')[0]));
	}
	return ROWS.filter(([, row]) => needed.has(row[1])).map(([, row]) => row);
}

/** A source by its short name, with the port that gives it. */
export const outputOfSource = (short: string): string => `${short}.${SOURCES.get(short)!.port}`;
