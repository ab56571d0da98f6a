/** Inputs that a node has in rows, as many as the artist wants: the first as they are, those of later rows with a number. */
import type { InputDefinition, ResolvedInputs } from './define.ts';
import { number } from './define.ts';

/** The most rows of one node. */
export const MOST_ROWS = 8;

const PLACES = ['First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth', 'Seventh', 'Eighth'];

/** The name of an input in a row from 0 on: `value`, `value2` … */
export const nameInRow = (name: string, row: number): string => (row ? `${name}${row + 1}` : name);

const COUNT = number({
	label: 'Rows',
	help: 'How many rows of settings there are.',
	default: 1,
	min: 1,
	max: MOST_ROWS,
	whole: true,
	// Rows are added and taken away by buttons.
	when: () => false
});

/** The rows after the first, each under a heading, and how many count. Types know only the count: `readRows` gives the rows. */
export function laterRows(
	row: Readonly<Record<string, InputDefinition>>,
	of: string
): { rows: typeof COUNT } {
	const later: Record<string, InputDefinition> = {};
	for (let r = 1; r < MOST_ROWS; r++)
		Object.entries(row).forEach(([name, input], place) => {
			const own: InputDefinition = {
				...input,
				row: r,
				when: (settings) =>
					rowsIn(settings) > r && (!input.when || input.when(settingsOfRow(settings, Object.keys(row), r)))
			};
			if (!place) own.group = `${PLACES[r]} ${of}`;
			later[nameInRow(name, r)] = own;
		});
	return { rows: COUNT, ...later };
}

/** How many rows there are; their count is a plain number. */
export const rowsIn = ({ rows }: Readonly<Record<string, unknown>>): number =>
	typeof rows === 'number' ? rows : 1;

/** The settings as the first row would have them: a condition on a row's own settings means that row's. */
function settingsOfRow(
	settings: Record<string, unknown>,
	names: readonly string[],
	row: number
): Record<string, unknown> {
	return { ...settings, ...Object.fromEntries(names.map((name) => [name, settings[nameInRow(name, row)]])) };
}

/** What came to each row. */
export function readRows<Row extends Record<string, InputDefinition>>(
	inputs: object,
	row: Row
): ResolvedInputs<Row>[] {
	const all = inputs as Readonly<Record<string, unknown>>;
	const [first] = Object.keys(row);
	// Rows that are not there are not resolved.
	const places = Array.from({ length: MOST_ROWS }, (_, r) => r).filter((r) => nameInRow(first, r) in all);
	return places.map(
		(r) =>
			Object.fromEntries(
				Object.keys(row).map((name) => [name, all[nameInRow(name, r)]])
			) as ResolvedInputs<Row>
	);
}
