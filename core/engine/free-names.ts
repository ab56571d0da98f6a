/** Names and ids that nothing else has yet. */

/** A base with the first number behind it that makes it free. @param from the first number that is tried. */
export function numbered(base: string, isTaken: (name: string) => boolean, from = 2): string {
	let n = from;
	while (isTaken(base + n)) n++;
	return base + n;
}

/** The name that is wanted where it is free, else with a number behind it: sow, sow2, sow3 … @param cut what is left of it then. */
export const freeName = (wanted: string, isTaken: (name: string) => boolean, cut = wanted): string =>
	isTaken(wanted) ? numbered(cut, isTaken) : wanted;

/** Words as one name in camel case, of at most 40 letters and digits; empty where nothing of it can stand. */
export function camelCase(words: readonly string[]): string {
	return words
		.map((word, i) => (i ? word[0].toUpperCase() : word[0].toLowerCase()) + word.slice(1))
		.join('')
		.replace(/^\d+/, '')
		.slice(0, 40);
}
