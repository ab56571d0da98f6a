/** What changed between two states of plain data (objects, lists, texts, numbers), small where little did. */

/** Takes the place of what was there; or says what of an object or a list changed, at its names or places. */
export type Difference =
	| { now: unknown }
	| { of: [name: string, difference: Difference][]; gone: string[] }
	| { from: number; drop: number; put: unknown[]; of: [place: number, difference: Difference][] };

const isPlain = (value: unknown): value is Record<string, unknown> =>
	typeof value === 'object' && value !== null && !Array.isArray(value);

/** What leads from one state to another; null where they are equal. Parts that are the same object are not looked into. */
export function differenceOf(before: unknown, after: unknown): Difference | null {
	if (Object.is(before, after)) return null;
	if (Array.isArray(before) && Array.isArray(after)) return ofLists(before, after);
	if (isPlain(before) && isPlain(after)) return ofObjects(before, after);
	return { now: after };
}

function ofObjects(before: Record<string, unknown>, after: Record<string, unknown>): Difference | null {
	// What is undefined is not written out, so it counts as gone.
	const has = (one: Record<string, unknown>, name: string): boolean =>
		Object.hasOwn(one, name) && one[name] !== undefined;
	const gone = Object.keys(before).filter((name) => has(before, name) && !has(after, name));
	const of: [string, Difference][] = [];
	for (const [name, value] of Object.entries(after)) {
		if (value === undefined) continue;
		const difference = has(before, name) ? differenceOf(before[name], value) : { now: value };
		if (difference) of.push([name, difference]);
	}
	return gone.length || of.length ? { of, gone } : null;
}

/** Of lists of one length, the rows that changed; else what stands between the ends that are equal. */
function ofLists(before: readonly unknown[], after: readonly unknown[]): Difference | null {
	if (before.length === after.length) {
		const of: [number, Difference][] = [];
		after.forEach((value, i) => {
			const difference = differenceOf(before[i], value);
			if (difference) of.push([i, difference]);
		});
		return of.length ? { from: 0, drop: 0, put: [], of } : null;
	}
	const shorter = Math.min(before.length, after.length);
	let from = 0;
	while (from < shorter && !differenceOf(before[from], after[from])) from++;
	let same = 0;
	while (same < shorter - from && !differenceOf(before.at(-1 - same), after.at(-1 - same))) same++;
	return {
		from,
		drop: before.length - same - from,
		put: after.slice(from, after.length - same),
		of: []
	};
}

/** The state after a difference. Throws where it does not belong to this state. */
export function changedBy(before: unknown, difference: Difference): unknown {
	if ('now' in difference) return difference.now;
	if ('gone' in difference) {
		if (!isPlain(before)) throw new Error('The difference is one of an object.');
		// A Map: a name such as __proto__ is a name like any other.
		const made = new Map(Object.entries(before));
		for (const name of difference.gone) made.delete(name);
		for (const [name, one] of difference.of) made.set(name, changedBy(before[name], one));
		return Object.fromEntries(made);
	}
	if (!Array.isArray(before)) throw new Error('The difference is one of a list.');
	const made: unknown[] = [...before];
	made.splice(difference.from, difference.drop, ...difference.put);
	for (const [place, one] of difference.of) {
		if (!(place in before)) throw new Error('The difference is one of a longer list.');
		made[place] = changedBy(before[place], one);
	}
	return made;
}
